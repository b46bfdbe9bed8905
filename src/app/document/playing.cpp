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
    if (document_.results().behind()) document_.results().compute();
    Q_EMIT playing_changed();
}

void Playing::pause() {
    if (!plays()) return;
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

void Playing::set_shown(bool shown) {
    if (std::exchange(shown_, shown) != shown) Q_EMIT playing_changed();
}

void Playing::tick() {
    // What is not made yet is waited for.
    if (document_.results().behind()) return;
    count_frame();
    const bool last = frame_ >= document_.study().time.last_frame();
    if (last && !loops_) return pause();
    go_to(last ? 0 : frame_ + 1);
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
    pause();
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
