#include <gtest/gtest.h>

#include <QApplication>

#include "app/model/orbit_view.hpp"
#include "app/theme/look.hpp"
#include "app/window/application.hpp"
#include "window/own_display.hpp"

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    if (testing::GTEST_FLAG(list_tests)) return RUN_ALL_TESTS();
    const plume::test::OwnDisplay display;
    QApplication application(argc, argv);
    plume::app::prepare_application();
    plume::app::apply_look(false);
    // Half the time that these tests take is spent drawing in software.
    plume::app::OrbitView::set_samples(0);
    return RUN_ALL_TESTS();
}
