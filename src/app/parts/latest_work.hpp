#pragma once
// Work on a thread of its own, of which only the latest counts: what is wished while it runs is begun, once,
// when it ends.

#include <QObject>
#include <QThread>
#include <functional>
#include <memory>

#include "core/base/run.hpp"

namespace plume::app {

template <class Made>
class LatestWork {
public:
    // `next` is asked in the receiver's thread when a piece of work begins, and gives what the thread does;
    // `take` is given what came of it there, and whether more is begun right after.
    using Work = std::function<Made(const Run&)>;
    LatestWork(QObject* receiver, std::function<Work()> next, std::function<void(const Made&, bool)> take)
        : receiver_(receiver), next_(std::move(next)), take_(std::move(take)) {}
    LatestWork(const LatestWork&) = delete;
    LatestWork& operator=(const LatestWork&) = delete;
    ~LatestWork() {
        run_.cancel();
        if (thread_) thread_->wait();
    }

    void start() {
        again_ = thread_ != nullptr;
        if (again_) return;
        run_ = Run();
        thread_.reset(QThread::create([this, work = next_(), run = run_] {
            const Made made = work(run);
            QMetaObject::invokeMethod(
                receiver_, [this, made] { end(made); }, Qt::QueuedConnection);
        }));
        thread_->start();
    }
    bool busy() const { return thread_ || again_; }
    double fraction() const { return run_.fraction(); }
    void cancel() { run_.cancel(); }

private:
    void end(const Made& made) {
        thread_->wait();
        thread_.reset();
        take_(made, again_);
        // After it, so that what was just made is not made again; unless it was begun by what followed.
        if (again_ && !thread_) start();
    }

    QObject* receiver_;
    std::function<Work()> next_;
    std::function<void(const Made&, bool)> take_;
    std::unique_ptr<QThread> thread_;
    bool again_ = false;
    Run run_;
};

}  // namespace plume::app
