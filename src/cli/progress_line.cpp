#include "cli/progress_line.hpp"

#include <unistd.h>

#include <chrono>
#include <cstdio>

#include "core/base/text.hpp"

namespace plume::cli {

ProgressLine::ProgressLine(const Run& run) : run_(run), shown_(isatty(STDERR_FILENO) != 0) {
    if (shown_) thread_ = std::thread([this] { draw_until_done(); });
}

ProgressLine::~ProgressLine() {
    if (!shown_) return;
    {
        const std::scoped_lock lock(mutex_);
        done_ = true;
    }
    changed_.notify_all();
    thread_.join();
    if (drawn_) std::fputs("\r\033[K", stderr);
}

void ProgressLine::say(std::string text) {
    const std::scoped_lock lock(mutex_);
    text_ = std::move(text);
}

void ProgressLine::draw_until_done() {
    std::unique_lock lock(mutex_);
    auto pause = std::chrono::milliseconds(200);
    while (!changed_.wait_for(lock, pause, [this] { return done_; })) {
        std::fprintf(stderr, "\r\033[K%s  %3.0f %%", printable(text_).c_str(), 100 * run_.fraction());
        std::fflush(stderr);
        drawn_ = true;
        pause = std::chrono::milliseconds(100);
    }
}

}  // namespace plume::cli
