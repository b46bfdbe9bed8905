#pragma once
// Waiting as an application does: asleep between events. A loop that asks again and again would take a core
// from what is waited for.

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QTimer>

namespace bench {

// Handles events until it is done, or for so many ms.
template <typename Done>
void wait_until(Done done, qint64 longest_ms = 60'000) {
    constexpr int looked_every_ms = 20;
    QTimer waking;
    waking.start(looked_every_ms);
    QElapsedTimer timer;
    timer.start();
    while (!done() && timer.elapsed() < longest_ms)
        QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents);
}

inline void wait_for(qint64 ms) {
    wait_until([] { return false; }, ms);
}

}  // namespace bench
