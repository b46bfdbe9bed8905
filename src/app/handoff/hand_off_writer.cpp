#include "app/handoff/hand_off_writer.hpp"

namespace plume::app {

HandOffWriter::~HandOffWriter() {
    run_.cancel();
    if (thread_) thread_->wait();
}

void HandOffWriter::write(const Order& order) {
    if (thread_) return;
    run_ = Run();
    at_ = 0;
    count_ = order.steps.size();
    // The thread has its own handle on everything it reads: values are immutable and shared.
    thread_.reset(QThread::create([this, order, run = run_] { work(order, run); }));
    thread_->start();
    Q_EMIT moved_on();
}

// The writer's thread.
void HandOffWriter::work(const Order& order, const Run& run) {
    std::vector<Report> reports;
    for (std::size_t at = 0; at < order.steps.size() && !run.cancelled(); ++at) {
        QMetaObject::invokeMethod(
            this,
            [this, at] {
                at_ = at;
                Q_EMIT moved_on();
            },
            Qt::QueuedConnection);
        const HandOffEntry* entry = order.plan->entry(order.steps[at]);
        if (!entry || !order.source.study->step(order.steps[at])) continue;
        run.report(0);
        const Result<std::string> written =
            hand_off(*order.plan, *entry, order.source, order.place, order.over, run);
        reports.push_back({entry->file.empty() ? entry->name : entry->file,
                           written ? std::nullopt : std::optional(written.error()),
                           written ? *written : std::string()});
    }
    QMetaObject::invokeMethod(
        this,
        [this, reports] {
            thread_->wait();
            thread_.reset();
            Q_EMIT finished(reports);
        },
        Qt::QueuedConnection);
}

}  // namespace plume::app
