#pragma once
// What a running computation carries with it: a way to be stopped and a way to tell how far it is.
// Thread-safe: cancel() and fraction() may be called from any thread while the work runs.

#include <atomic>
#include <memory>

#include "core/base/error.hpp"

namespace plume {

class Run {
public:
    Run() : state_(std::make_shared<State>()) {}

    void cancel() const { state_->cancelled.store(true, std::memory_order_relaxed); }
    bool cancelled() const { return state_->cancelled.load(std::memory_order_relaxed); }

    // Share done of the step in hand, 0 to 1.
    void report(double fraction) const { state_->fraction.store(fraction, std::memory_order_relaxed); }
    double fraction() const { return state_->fraction.load(std::memory_order_relaxed); }

private:
    struct State {
        std::atomic<bool> cancelled{false};
        std::atomic<double> fraction{0};
    };
    std::shared_ptr<State> state_;  // copies of a Run are handles to the same run
};

inline Error cancelled_error() {
    return {ErrorCode::cancelled, "", "The work was cancelled", "Compute again to finish it."};
}

}  // namespace plume
