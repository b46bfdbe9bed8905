#pragma once
// A mouse that is moved to and fro with its button held down, 125 times a second, on the X server's display.

#include <QPoint>
#include <atomic>
#include <thread>

namespace bench {

class MovedMouse {
public:
    // Between this and so many pixels beside it, until it goes.
    MovedMouse(QPoint screen, int reach);
    ~MovedMouse();
    MovedMouse(const MovedMouse&) = delete;
    MovedMouse& operator=(const MovedMouse&) = delete;

private:
    std::atomic<bool> ends_{false};
    std::thread hand_;
};

}  // namespace bench
