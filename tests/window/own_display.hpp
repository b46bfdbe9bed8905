#pragma once
// An X server in memory and a window manager for one run of tests, so that runs side by side share no focus,
// mouse or clipboard. Both end with the program, even when it is killed.

#include <QProcess>

namespace plume::test {

class OwnDisplay {
public:
    // Before the application is made; sets DISPLAY. With PLUME_SHOWN in the environment the display that is
    // there is used, to look at what happens. Throws when there is none.
    OwnDisplay();
    ~OwnDisplay();
    OwnDisplay(const OwnDisplay&) = delete;
    OwnDisplay& operator=(const OwnDisplay&) = delete;

private:
    QProcess server_, manager_;
};

}  // namespace plume::test
