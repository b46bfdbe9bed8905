#include "app/handoff/rehearser.hpp"

namespace plume::app {

Rehearser::Rehearser(QObject* parent)
    : QObject(parent),
      work_(
          this, [this] { return next(); }, [this](const Made& made, bool more) { take(made, more); }) {}

void Rehearser::make(const Delivery& delivery, const Hash& key, const Units& units) {
    if (bool(delivery) == bool(delivery_) && (!delivery || key == key_)) return;
    delivery_ = delivery;
    key_ = key;
    units_ = units;
    start();
}

void Rehearser::rehearse_file(const std::filesystem::path& file) {
    file_ = file;
    start();
}

void Rehearser::start() {
    error_ = {};
    work_.cancel();
    work_.start();
    Q_EMIT changed();
}

LatestWork<Rehearser::Made>::Work Rehearser::next() const {
    return [delivery = delivery_, units = units_, file = file_](const Run& run) {
        Made made;
        if (!delivery) return made;
        auto work = rehearsed_work(*delivery, units, file, run);
        if (work)
            made.work = *std::move(work);
        else
            made.error = work.error();
        return made;
    };
}

void Rehearser::take(const Made& made, bool more) {
    const bool given_up = made.error && made.error->code == ErrorCode::cancelled && more;
    if (!given_up) {
        made_ = made.work;
        error_ = made.error;
    }
    Q_EMIT changed();
}

}  // namespace plume::app
