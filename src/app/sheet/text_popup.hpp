#pragma once
// Lines of a step's own language, edited in a pop-up: rows of points, addresses, choices.

#include "app/sheet/slot_parts.hpp"

namespace plume::app {

void open_text_popup(const SlotAccess& access, QWidget* near);

}  // namespace plume::app
