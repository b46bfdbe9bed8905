#pragma once
// How large a window begins.

#include <QScreen>
#include <QWidget>

namespace plume::app {

// As wanted, or as large as the screen has room for, with the frame that the desktop draws around it.
inline void begin_in_size(QWidget& window, QSize wanted) {
    constexpr QSize frame(8, 40);
    window.resize(wanted.boundedTo(window.screen()->availableSize() - frame));
}

}  // namespace plume::app
