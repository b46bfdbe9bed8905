#include "app/handoff/sheet_maker.hpp"

#include <QPainter>

namespace plume::app {

SheetMaker::~SheetMaker() {
    run_.cancel();
    if (thread_) thread_->wait();
}

void SheetMaker::make(const Delivery& delivery, const Hash& key, const Units& units) {
    const Hash wanted = delivery ? key : Hash();
    if (wanted == key_ && bool(delivery) == bool(delivery_)) return;
    delivery_ = delivery;
    key_ = wanted;
    units_ = units;
    error_ = {};
    if (!delivery) plan_ = nullptr;
    run_.cancel();
    start();
}

void SheetMaker::picture(const QRectF& area, QSize pixels) {
    if (area == area_ && pixels == pixels_) return;
    area_ = area;
    pixels_ = pixels;
    start();
}

// What is wished meanwhile is begun when the thread ends.
void SheetMaker::start() {
    if (thread_) {
        again_ = true;
        return;
    }
    run_ = Run();
    thread_.reset(QThread::create([this, delivery = delivery_, key = key_, units = units_, area = area_,
                                   pixels = pixels_, plan = made_key_ == key_ ? plan_ : nullptr,
                                   error = error_, run = run_] {
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
        QMetaObject::invokeMethod(
            this, [this, made] { take(made); }, Qt::QueuedConnection);
    }));
    thread_->start();
    Q_EMIT changed();
}

void SheetMaker::take(const Made& made) {
    thread_->wait();
    thread_.reset();
    const bool is_wanted = made.key == key_;
    if (is_wanted && !(made.error && made.error->code == ErrorCode::cancelled && again_)) {
        made_key_ = made.key;
        error_ = made.error;
        if (made.plan || made.error) plan_ = made.plan;
        picture_ = made.picture;
    }
    if (std::exchange(again_, false)) return start();
    Q_EMIT changed();
}

}  // namespace plume::app
