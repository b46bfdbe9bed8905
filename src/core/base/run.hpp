#pragma once
// What a running computation carries with it: a way to be stopped, a way to tell how far it is, and what is
// to be remarked about its result. Thread-safe: everything may be called from any thread while the work runs.

#include <atomic>
#include <memory>
#include <mutex>
#include <string>
#include <utility>
#include <vector>

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

    // A sentence about the result that is no error but has to be known: points left out, gaps that remain.
    void remark(std::string sentence) const {
        const std::scoped_lock lock(state_->mutex);
        state_->remarks.push_back(std::move(sentence));
    }
    std::vector<std::string> take_remarks() const {
        const std::scoped_lock lock(state_->mutex);
        return std::exchange(state_->remarks, {});
    }

private:
    struct State {
        std::atomic<bool> cancelled{false};
        std::atomic<double> fraction{0};
        std::mutex mutex;
        std::vector<std::string> remarks;
    };
    std::shared_ptr<State> state_;  // copies of a Run are handles to the same run
};

inline Error cancelled_error() {
    return {ErrorCode::cancelled, "", "The work was cancelled", "Compute again to finish it."};
}

}  // namespace plume
