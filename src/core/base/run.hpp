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

struct Remark {
    std::string text;
    bool loss = false;
    bool operator==(const Remark&) const = default;
};

class Run {
public:
    Run() : state_(std::make_shared<State>()) {}

    void cancel() const { state_->cancelled.store(true, std::memory_order_relaxed); }
    bool cancelled() const { return state_->cancelled.load(std::memory_order_relaxed); }

    // Share done of the step in hand, 0 to 1.
    void report(double fraction) const {
        state_->fraction.store(begin_ + fraction * (end_ - begin_), std::memory_order_relaxed);
    }
    double fraction() const { return state_->fraction.load(std::memory_order_relaxed); }

    // The same run for a part of the work, from one share of it to another.
    Run part(double begin, double end) const {
        Run run = *this;
        run.begin_ = begin_ + begin * (end_ - begin_);
        run.end_ = begin_ + end * (end_ - begin_);
        return run;
    }

    // A sentence about the result that is worth knowing: how far corners moved, that nothing overlaps.
    void remark(std::string sentence) const { add({std::move(sentence), false}); }
    // One that has to be known: something given is not in the result, or is no number.
    void remark_loss(std::string sentence) const { add({std::move(sentence), true}); }
    std::vector<Remark> take_remarks() const {
        const std::scoped_lock lock(state_->mutex);
        return std::exchange(state_->remarks, {});
    }

private:
    void add(Remark remark) const {
        const std::scoped_lock lock(state_->mutex);
        state_->remarks.push_back(std::move(remark));
    }
    struct State {
        std::atomic<bool> cancelled{false};
        std::atomic<double> fraction{0};
        std::mutex mutex;
        std::vector<Remark> remarks;
    };
    double begin_ = 0, end_ = 1;    // of the whole work, what this handle reports about
    std::shared_ptr<State> state_;  // copies of a Run are handles to the same run
};

inline Error cancelled_error() {
    return {ErrorCode::cancelled, "", "The work was cancelled", "Compute again to finish it."};
}

}  // namespace plume
