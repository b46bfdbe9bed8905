#pragma once
// Menus that open where one points. They do not block: what is chosen comes back as the action's signal.

#include <QMenu>

namespace plume::app {

// Goes when it closes, or with its owner.
inline QMenu* new_popup_menu(QWidget* owner) {
    auto* menu = new QMenu(owner);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    return menu;
}

}  // namespace plume::app
