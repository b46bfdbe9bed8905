#pragma once
// What holds of the application before its first window: its name, where its settings are kept, its fonts.

namespace plume::app {

// Call once, after the QApplication was made. Settings are ~/.config/plume-lattice/plume-lattice.ini, data
// lie in ~/.local/share/plume-lattice (or below $XDG_CONFIG_HOME, $XDG_DATA_HOME).
void prepare_application();

}  // namespace plume::app
