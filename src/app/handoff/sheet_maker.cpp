#include "app/handoff/sheet_maker.hpp"

#include <QPainter>

namespace plume::app {

SheetMaker::SheetMaker(QObject* parent)
    : QObject(parent),
      work_(
          this, [this] { return next(); }, [this](const Made& made, bool more) { take(made, more); }) {}

void SheetMaker::make(const Delivery& delivery, const Hash& key, const Units& units) {
    const Hash wanted = delivery ? key : Hash();
    if (wanted == key_ && bool(delivery) == bool(delivery_)) return;
    delivery_ = delivery;
    key_ = wanted;
    units_ = units;
    error_ = {};
    if (!delivery) plan_ = nullptr;
    work_.cancel();
    work_.start();
    Q_EMIT changed();
}

void SheetMaker::picture(const QRectF& area, QSize pixels) {
    if (area == area_ && pixels == pixels_) return;
    area_ = area;
    pixels_ = pixels;
    work_.start();
}

LatestWork<SheetMaker::Made>::Work SheetMaker::next() const {
    return [delivery = delivery_, key = key_, units = units_, area = area_, pixels = pixels_,
            plan = made_key_ == key_ ? plan_ : nullptr, error = error_](const Run& run) {
        Made made{key, plan, error, {{}, area}};
        if (!plan && delivery && !error) {
            Result<Plan> drawn = drawn_sheet(*delivery, units, run);
            if (drawn)
                made.plan = std::make_shared<const Plan>(*std::move(drawn));
            else
                made.error = drawn.error();
        }
        if (made.plan && !area.isEmpty() && !pixels.isEmpty()) {
            made.picture.image = QImage(pixels, QImage::Format_RGB32);
            made.picture.image.fill(Qt::white);
            QPainter painter(&made.picture.image);
            paint_sheet(painter, *made.plan, area, pixels, run);
        }
        return made;
    };
}

void SheetMaker::take(const Made& made, bool more) {
    const bool given_up = made.error && made.error->code == ErrorCode::cancelled && more;
    if (made.key == key_ && !given_up) {
        made_key_ = made.key;
        error_ = made.error;
        if (made.plan || made.error) plan_ = made.plan;
        picture_ = made.picture;
    }
    Q_EMIT changed();
}

}  // namespace plume::app
