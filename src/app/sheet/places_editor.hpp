#pragma once
// The form for a slot that holds named, weighted places.

#include "app/sheet/slot_parts.hpp"

namespace plume::app {

void open_places_editor(const SlotAccess& access, QWidget* near);

}  // namespace plume::app
