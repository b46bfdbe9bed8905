#include <gtest/gtest.h>

#include <QApplication>
#include <QSettings>
#include <clocale>

#include "app/theme/look.hpp"
#include "window/own_display.hpp"

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
    const plume::test::OwnDisplay display;
    QApplication application(argc, argv);
    QApplication::setApplicationName("plume-lattice");
    QSettings::setDefaultFormat(QSettings::IniFormat);
    std::setlocale(LC_NUMERIC, "C");
    plume::app::load_fonts();
    plume::app::apply_look(false);
    return RUN_ALL_TESTS();
}
