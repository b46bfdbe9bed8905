#include "window/own_display.hpp"

#include <sys/prctl.h>

#include <csignal>
#include <stdexcept>

namespace plume::test {
namespace {

void end_with_us(QProcess& process) {
    process.setChildProcessModifier([] { prctl(PR_SET_PDEATHSIG, SIGKILL); });
}

void stop(QProcess& process) {
    process.kill();
    process.waitForFinished();
}

}  // namespace

OwnDisplay::OwnDisplay() {
    if (!qEnvironmentVariableIsSet("PLUME_SHOWN")) {
        end_with_us(server_);
        // It chooses a free number itself and writes it once it can be reached.
        server_.start("Xvfb",
                      {"-displayfd", "1", "-screen", "0", "1280x800x24", "-nolisten", "tcp", "-noreset"});
        if (!server_.waitForReadyRead()) throw std::runtime_error("Xvfb did not start");
        qputenv("DISPLAY", ":" + server_.readLine().trimmed());
    }
    // Windows get the focus from a window manager, as on any desktop.
    end_with_us(manager_);
    manager_.start("openbox", {"--sm-disable"});
    if (!manager_.waitForStarted()) throw std::runtime_error("openbox did not start");
}

OwnDisplay::~OwnDisplay() {
    stop(manager_);
    if (server_.state() != QProcess::NotRunning) stop(server_);
}

}  // namespace plume::test
