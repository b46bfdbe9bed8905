#include <gtest/gtest.h>

#include <QApplication>
#include <QProcess>
#include <QSettings>
#include <QThread>
#include <clocale>

#include "app/theme/look.hpp"

// Windows get the focus from a window manager, as on any desktop; a bare test display has none until we start
// one.
int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
    QApplication application(argc, argv);
    QApplication::setApplicationName("plume-lattice");
    QSettings::setDefaultFormat(QSettings::IniFormat);
    std::setlocale(LC_NUMERIC, "C");
    QProcess manager;
    manager.start("openbox", {"--sm-disable"});
    QThread::msleep(300);
    plume::app::load_fonts();
    plume::app::apply_look(false);
    const int result = RUN_ALL_TESTS();
    manager.kill();
    manager.waitForFinished();
    return result;
}
