#pragma once
// A button takes each icon for another one, is painted anew and has what is around it laid out.

#include <QAbstractButton>

#include "app/theme/look.hpp"

namespace plume::app {

inline void set_icon(QAbstractButton& button, const char* name, const QColor& colour) {
    constexpr const char* shown = "icon-shown";
    const QString key = QString("%1 %2").arg(name, colour.name());
    if (button.property(shown).toString() == key) return;
    button.setProperty(shown, key);
    button.setIcon(icon(name, colour));
}

}  // namespace plume::app
