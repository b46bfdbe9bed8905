#include "app/finder/lately_used.hpp"

#include <QSettings>

namespace plume::app {
namespace {

constexpr const char* setting = "finder/lately";
constexpr qsizetype most = 24;

}  // namespace

std::vector<std::string> lately_used() {
    std::vector<std::string> keys;
    for (const QString& key : QSettings().value(setting).toStringList())
        keys.push_back(key.toStdString());
    return keys;
}

void note_used(const std::string& kind) {
    QSettings settings;
    QStringList keys = settings.value(setting).toStringList();
    const QString key = QString::fromStdString(kind);
    keys.removeAll(key);
    keys.prepend(key);
    settings.setValue(setting, keys.mid(0, most));
}

}  // namespace plume::app
