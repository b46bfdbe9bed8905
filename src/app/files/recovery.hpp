#pragma once
// Copies of unsaved work, so that a kill or a power cut loses seconds at most.
//
// One file a running window in the application's data folder, named by its process; beside it a line with the
// path of the study it belongs to. A copy whose process is gone is offered at the next start.

#include <QDateTime>
#include <QObject>
#include <QTimer>
#include <optional>
#include <vector>

#include "app/document/document.hpp"

namespace plume::app {

struct LostWork {
    QString copy;      // the .plume file in the recovery folder
    QString original;  // where it was saved, or empty
    QDateTime time;
};

class Recovery : public QObject {
    Q_OBJECT

public:
    explicit Recovery(Document& document, QObject* parent);
    ~Recovery() override;

    // Copies left by processes that are gone, newest first.
    static std::vector<LostWork> lost_work();
    static void forget(const LostWork& work);

    static constexpr int delay_ms = 1000;

private:
    void write();
    void remove_own();

    Document& document_;
    QTimer timer_;
};

}  // namespace plume::app
