#pragma once
// The overview of everything the keyboard can do.

#include <QWidget>

class QMenuBar;

namespace plume::app {

// Menu commands are read from the menus themselves; keys of the sheet and the model stand beside them.
void open_shortcut_overview(QMenuBar& menus, QWidget* parent);

}  // namespace plume::app
