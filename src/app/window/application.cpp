#include "app/window/application.hpp"

#include <QCoreApplication>
#include <QSettings>
#include <clocale>

#include "app/theme/look.hpp"

namespace plume::app {

void prepare_application() {
    QCoreApplication::setApplicationName("plume-lattice");
    // Names the folder of settings as an organization would, and not the folder of data.
    QCoreApplication::setOrganizationDomain("plume-lattice");
    QSettings::setDefaultFormat(QSettings::IniFormat);
    // Qt takes the user's locale; numbers are read and written the same everywhere.
    std::setlocale(LC_NUMERIC, "C");
    load_fonts();
}

}  // namespace plume::app
