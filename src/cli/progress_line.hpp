#pragma once
// How far the work is, on a terminal: one line that is redrawn ten times a second, from a fifth of a second
// on. Nothing where the error output is no terminal.

#include <condition_variable>
#include <mutex>
#include <string>
#include <thread>

#include "core/base/run.hpp"

namespace plume::cli {

class ProgressLine {
public:
    explicit ProgressLine(const Run& run);
    ~ProgressLine();
    ProgressLine(const ProgressLine&) = delete;
    ProgressLine& operator=(const ProgressLine&) = delete;

    // What stands before the share that is done. Any thread.
    void say(std::string text);

private:
    void draw_until_done();

    const Run& run_;
    bool shown_;
    bool drawn_ = false, done_ = false;
    std::mutex mutex_;
    std::condition_variable changed_;
    std::string text_;
    std::thread thread_;
};

}  // namespace plume::cli
