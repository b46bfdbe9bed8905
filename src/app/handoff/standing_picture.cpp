#include "app/handoff/standing_picture.hpp"

namespace plume::app {
namespace {

// Who draws a slider does not wait for it, who lets go of one hardly does.
constexpr int stands_after_ms = 150, told_every_ms = 200;

}  // namespace

StandingPicture::StandingPicture(QObject* parent)
    : QObject(parent),
      making_(
          this, [this] { return next(); }, [this](const Made& made, bool) { take(made); }) {
    stands_.setInterval(stands_after_ms);
    stands_.setSingleShot(true);
    connect(&stands_, &QTimer::timeout, this, [this] {
        making_.start();
        told_.start(told_every_ms);
    });
    connect(&told_, &QTimer::timeout, this, [this] { Q_EMIT going_on(making_.fraction()); });
}

void StandingPicture::stand(RehearsedWorkPointer work) {
    work_ = std::move(work);
    making_.cancel();
    if (work_)
        stands_.start();
    else
        stands_.stop();
}

LatestWork<StandingPicture::Made>::Work StandingPicture::next() const {
    return [work = work_, minutes = work_ ? work_->now() : 0](const Run& run) {
        Made made{work, minutes, {}};
        if (!work) return made;
        if (auto drawing = work->drawn_finely(minutes, run)) made.drawing = *std::move(drawing);
        return made;
    };
}

void StandingPicture::take(const Made& made) {
    if (!making_.busy()) {
        told_.stop();
        Q_EMIT going_on(1);
    }
    const bool stands = made.work == work_ && work_ && work_->now() == made.minutes && !stands_.isActive();
    if (stands && !made.drawing.empty()) Q_EMIT this->made(made.drawing);
}

}  // namespace plume::app
