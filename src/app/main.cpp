// plume-lattice [STUDY]: the window.

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <QTimer>

#include "app/theme/look.hpp"
#include "app/window/main_window.hpp"

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    QApplication::setApplicationName("plume-lattice");
    QApplication::setApplicationDisplayName("Plume Lattice");
    QApplication::setApplicationVersion(PLUME_VERSION);
    QApplication::setDesktopFileName("plume-lattice");
    QSettings::setDefaultFormat(QSettings::IniFormat);
    // Qt takes the user's locale; numbers are read and written the same everywhere.
    std::setlocale(LC_NUMERIC, "C");

    QCommandLineParser parser;
    parser.setApplicationDescription("Plume Lattice: forms that come out of rules.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("STUDY", "a .plume file to open");
    parser.process(application);

    plume::app::load_fonts();
    plume::app::apply_look(QSettings().value("dark", false).toBool());
    plume::app::MainWindow window;
    if (!parser.positionalArguments().isEmpty()) window.open_file(parser.positionalArguments().front());
    window.show();
    QTimer::singleShot(0, &window, &plume::app::MainWindow::offer_recovery);
    return QApplication::exec();
}
