#include "app/receiving/receiver.hpp"

#include "core/receiving/model_groups.hpp"

namespace plume::app {

Receiver::~Receiver() {
    run_.cancel();
    if (thread_) thread_->wait();
}

void Receiver::open(const std::filesystem::path& folder) {
    if (folder == folder_) return look();
    folder_ = folder;
    state_ = nullptr;
    error_ = {};
    look();
}

void Receiver::look() {
    start([](const Received& here, const Run&) { return here; });
}

void Receiver::take_in() {
    start([](const Received& here, const Run& run) -> Result<Received> {
        const Result<Arrival> arrival = look_at_arrival(here, run);
        if (!arrival) return arrival.error();
        return plume::take_in(here, *arrival, run);
    });
}

void Receiver::lock(const std::string& identity, bool locked) {
    start([=](const Received& here, const Run& run) { return with_lock(here, identity, locked, run); });
}

void Receiver::remove(const std::string& identity) {
    start([=](const Received& here, const Run& run) { return without_part(here, identity, run); });
}

void Receiver::place_deleted_again() {
    start([](const Received& here, const Run& run) { return with_deleted_again(here, run); });
}

void Receiver::read_as(std::optional<LengthUnit> unit) {
    start([=](const Received& here, const Run& run) { return reading_as(here, unit, run); });
}

void Receiver::add_others(const std::filesystem::path& file) {
    start([=](const Received& here, const Run& run) { return with_others(here, file, run); });
}

// While something is done, what else is wished is a look at the files at its end: whatever changes the model
// can only be asked for when nothing is under way.
void Receiver::start(Change change) {
    if (thread_) {
        look_again_ = true;
        return;
    }
    run_ = Run();
    thread_.reset(
        QThread::create([this, change = std::move(change), folder = folder_, before = state_, run = run_] {
            const Result<StatePointer> made = done(folder, before, change, run);
            QMetaObject::invokeMethod(
                this, [this, folder, made] { take(folder, made); }, Qt::QueuedConnection);
        }));
    thread_->start();
    Q_EMIT changed();
}

// The thread of its own.
Result<Receiver::StatePointer> Receiver::done(const std::filesystem::path& folder, const StatePointer& before,
                                              const Change& change, const Run& run) {
    const Result<Received> known = before ? Result<Received>(before->here) : Received::open(folder, run);
    if (!known) return known.error();
    const Result<Received> here = change(*known, run);
    if (!here) return here.error();
    Result<Arrival> arrival = look_at_arrival(*here, run);
    if (!arrival) return arrival.error();
    Result<ReceivedPicture> picture = picture_of(here->parts(), {}, run);
    if (!picture) return picture.error();
    return std::make_shared<const State>(
        State{*here, *std::move(arrival), *std::move(picture), doubts_about(*here)});
}

void Receiver::take(const std::filesystem::path& folder, const Result<StatePointer>& made) {
    thread_->wait();
    thread_.reset();
    const bool again = std::exchange(look_again_, false) || folder != folder_;
    if (folder == folder_) {
        if (made) {
            state_ = *made;
            error_ = {};
        } else if (made.error().code != ErrorCode::cancelled) {
            error_ = made.error();
        }
    }
    if (again) return look();
    Q_EMIT changed();
}

}  // namespace plume::app
