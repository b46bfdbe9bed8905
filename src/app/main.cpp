// plume-lattice [STUDY]: the window. plume-lattice --receive FOLDER: what arrived there.

#include <QApplication>
#include <QCommandLineParser>
#include <QSettings>
#include <QTimer>

#include "app/receiving/receive_window.hpp"
#include "app/theme/look.hpp"
#include "app/window/application.hpp"
#include "app/window/main_window.hpp"

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    plume::app::prepare_application();
    QApplication::setApplicationDisplayName("Plume Lattice");
    QApplication::setApplicationVersion(PLUME_VERSION);
    QApplication::setDesktopFileName("plume-lattice");

    QCommandLineParser parser;
    parser.setApplicationDescription("Plume Lattice: forms that come out of rules.");
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument("STUDY", "a .plume file to open");
    const QCommandLineOption receive(
        "receive", "stand in for whoever receives building models: what arrived in this folder", "FOLDER");
    parser.addOption(receive);
    parser.process(application);

    plume::app::apply_look(QSettings().value("dark", false).toBool());
    if (parser.isSet(receive)) {
        plume::app::ReceiveWindow received(parser.value(receive));
        received.show();
        return QApplication::exec();
    }
    plume::app::MainWindow window;
    if (!parser.positionalArguments().isEmpty()) window.open_file(parser.positionalArguments().front());
    window.show();
    QTimer::singleShot(0, &window, &plume::app::MainWindow::offer_recovery);
    return QApplication::exec();
}
