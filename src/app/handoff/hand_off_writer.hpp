#pragma once
// Writes sentences of the hand-off on a thread of its own, one after the other, and tells how far it is.

#include <QObject>
#include <QThread>
#include <memory>

#include "app/document/document.hpp"
#include "core/handoff/hand_off.hpp"

namespace plume::app {

class HandOffWriter : public QObject {
    Q_OBJECT

public:
    // What is to be written, of which plan of which study and its moments; of `over` even what somebody else
    // changed.
    struct Order {
        std::shared_ptr<const HandOffPlan> plan;
        MomentSource source;
        HandOffPlace place;
        std::vector<ItemId> steps;
        bool over = false;
    };
    struct Report {
        std::string file;
        std::optional<Error> error;
        std::string text;
    };

    explicit HandOffWriter(QObject* parent) : QObject(parent) {}
    ~HandOffWriter() override;

    bool busy() const { return thread_ != nullptr; }
    double fraction() const { return run_.fraction(); }
    // The sentence in hand, from 0, and how many there are.
    std::size_t at() const { return at_; }
    std::size_t count() const { return count_; }
    void write(const Order& order);
    void cancel() { run_.cancel(); }

Q_SIGNALS:
    void moved_on();
    void finished(const std::vector<plume::app::HandOffWriter::Report>& reports);

private:
    void work(const Order& order, const Run& run);

    std::unique_ptr<QThread> thread_;
    Run run_;
    std::size_t at_ = 0, count_ = 0;
};

}  // namespace plume::app
