#include "app/handoff/picture_maker.hpp"

#include "app/parts/image_of.hpp"
#include "core/base/guarded.hpp"

namespace plume::app {
namespace {

// As wished, in no more pixels than there is room for.
void fit_into(StillOptions& still, QSize room) {
    const QSize wished(still.width, still.height);
    if (wished.width() <= room.width() && wished.height() <= room.height()) return;
    const QSize seen = wished.scaled(room, Qt::KeepAspectRatio).expandedTo({1, 1});
    still.pixels_per_length *= static_cast<double>(seen.height()) / wished.height();
    still.width = seen.width();
    still.height = seen.height();
}

}  // namespace

PictureMaker::PictureMaker(QObject* parent)
    : QObject(parent),
      work_(
          this, [this] { return next(); }, [this](const State& made, bool more) { take(made, more); }) {}

void PictureMaker::make(const Delivery& delivery, const Hash& key, const Units& units, QSize room) {
    const Hash wanted = delivery ? key : Hash();
    if (wanted == key_ && room == room_ && bool(delivery) == bool(delivery_)) return;
    if (!delivery) state_ = {};
    delivery_ = delivery;
    key_ = wanted;
    units_ = units;
    room_ = room;
    work_.cancel();
    work_.start();
    Q_EMIT changed();
}

LatestWork<PictureMaker::State>::Work PictureMaker::next() {
    return [this, delivery = delivery_, units = units_, room = room_](const Run& run) {
        State made;
        if (!delivery) return made;
        const Result<Image> image = guarded([&]() -> Result<Image> {
            auto scene = picture_scene(picture_job_of(*delivery, units), run);
            if (!scene) return scene.error();
            made.wished = QSize(scene->still.width, scene->still.height);
            fit_into(scene->still, room);
            made.all_passes = scene->still.passes;
            return render_still(scene->items, scene->still, run, [&](const StillSoFar& so_far) {
                State seen = made;
                seen.image = image_of(so_far.image);
                seen.passes = so_far.passes;
                seen.seconds_left = so_far.seconds_left;
                QMetaObject::invokeMethod(
                    this,
                    [this, seen, run] {
                        if (run.cancelled()) return;
                        state_ = seen;
                        Q_EMIT changed();
                    },
                    Qt::QueuedConnection);
            });
        });
        if (image) {
            made.image = image_of(*image);
            made.passes = made.all_passes;
        } else {
            made.error = image.error();
        }
        return made;
    };
}

// What was given up leaves what is seen as it is.
void PictureMaker::take(const State& made, bool /*more*/) {
    if (!made.error || made.error->code != ErrorCode::cancelled) state_ = made;
    Q_EMIT changed();
}

}  // namespace plume::app
