#pragma once
// What is rehearsed, drawn finely where it stands: on a thread of its own, when nothing has moved for a
// while.

#include <QTimer>

#include "app/parts/latest_work.hpp"
#include "core/handoff/rehearsed_work.hpp"

namespace plume::app {

class StandingPicture : public QObject {
    Q_OBJECT

public:
    explicit StandingPicture(QObject* parent = nullptr);

    // It stands as it is now; nullptr: there is nothing, or it is played.
    void stand(RehearsedWorkPointer work);

Q_SIGNALS:
    void made(const RehearsedDrawing& drawing);
    // How much of it is, while that takes long; 1 when it has ended.
    void going_on(double fraction);

private:
    struct Made {
        RehearsedWorkPointer work;
        double minutes = 0;
        RehearsedDrawing drawing;
    };
    LatestWork<Made>::Work next() const;
    void take(const Made& made);

    RehearsedWorkPointer work_;
    QTimer stands_, told_;
    LatestWork<Made> making_;
};

}  // namespace plume::app
