#include "app/document/playing.hpp"

#include <algorithm>
#include <cmath>

#include "app/document/document.hpp"

namespace plume::app {

Playing::Playing(Document& document) : document_(document) {
    timer_.setTimerType(Qt::PreciseTimer);
    connect(&timer_, &QTimer::timeout, this, &Playing::tick);
}

Moment Playing::moment() const {
    return {frame_, document_.study().time.rate};
}

void Playing::go_to(std::size_t frame) {
    const std::size_t nearest = std::min(frame, document_.study().time.last_frame());
    if (nearest == frame_) return;
    frame_ = nearest;
    Q_EMIT moment_changed();
    document_.results().follow_moment();
}

void Playing::step(int frames) {
    pause();
    const auto to = static_cast<std::ptrdiff_t>(frame_) + frames;
    go_to(static_cast<std::size_t>(std::max<std::ptrdiff_t>(to, 0)));
}

void Playing::look_at(double seconds) {
    pause();
    go_to(moment_at(document_.study().time, seconds).frame);
}

int Playing::between_frames_ms() const {
    return static_cast<int>(std::floor(1000 / document_.study().time.rate));
}

void Playing::play() {
    if (plays()) return;
    if (frame_ >= document_.study().time.last_frame()) go_to(0);
    timer_.start(between_frames_ms());
    counting_.start();
    counted_ = 0;
    measured_ = 0;
    document_.results().set_passing(true);
    begin_recording();
    if (document_.results().behind()) document_.results().compute();
    Q_EMIT playing_changed();
}

void Playing::pause() {
    if (!plays()) return;
    make_waiting_edit();
    timer_.stop();
    document_.results().set_passing(false);
    Q_EMIT playing_changed();
}

void Playing::set_scrubbing(bool scrubbing) {
    if (!plays()) document_.results().set_passing(scrubbing);
}

void Playing::set_loops(bool loops) {
    if (std::exchange(loops_, loops) != loops) Q_EMIT playing_changed();
}

void Playing::set_records(bool records) {
    if (std::exchange(records_, records) == records) return;
    begin_recording();
    Q_EMIT playing_changed();
}

// What was changed by hand while nothing was recorded is not in the study.
void Playing::begin_recording() {
    if (is_recording()) document_.results().begin_at_beginning();
}

void Playing::edit_next_frame(const std::string& stroke, std::function<void()> edit) {
    if (waiting_stroke_ != stroke) make_waiting_edit();
    waiting_stroke_ = stroke;
    waiting_edit_ = std::move(edit);
}

void Playing::make_waiting_edit() {
    if (const auto edit = std::exchange(waiting_edit_, nullptr)) edit();
}

void Playing::set_shown(bool shown) {
    if (std::exchange(shown_, shown) != shown) Q_EMIT playing_changed();
}

void Playing::tick() {
    // What is not made yet is waited for.
    if (document_.results().behind()) return;
    count_frame();
    const bool last = frame_ >= document_.study().time.last_frame();
    if (last && (!loops_ || records_)) return pause();
    if (!waiting_edit_) return go_to(last ? 0 : frame_ + 1);
    const StudyPointer before = document_.snapshot();
    ++frame_;
    make_waiting_edit();
    if (document_.snapshot() != before) return;
    Q_EMIT moment_changed();
    document_.results().follow_moment();
}

void Playing::count_frame() {
    constexpr qint64 second_ms = 1000;
    ++counted_;
    if (counting_.elapsed() < second_ms) return;
    measured_ = 1000.0 * counted_ / static_cast<double>(counting_.restart());
    counted_ = 0;
    Q_EMIT playing_changed();
}

void Playing::take_in_hand(std::vector<Keyed> things) {
    if (in_hand_ == things) return;
    in_hand_ = std::move(things);
    Q_EMIT in_hand_changed();
}

bool Playing::key_in_hand() {
    if (in_hand_.empty()) return false;
    StudyPointer study = document_.snapshot();
    for (const Keyed& what : in_hand_) {
        const Edited keyed = key_here(*study, document_.catalogue(), what, seconds());
        if (!keyed) return document_.apply(keyed, {});
        study = *keyed;
    }
    document_.apply(study, tr("key"));
    return true;
}

void Playing::begin_anew() {
    waiting_edit_ = nullptr;
    pause();
    set_records(false);
    frame_ = 0;
    take_in_hand({});
    Q_EMIT moment_changed();
}

void Playing::follow_edit() {
    const std::size_t last = document_.study().time.last_frame();
    if (frame_ > last) frame_ = last;
    if (plays()) timer_.setInterval(between_frames_ms());
    Q_EMIT moment_changed();
}

}  // namespace plume::app
