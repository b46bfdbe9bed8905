#pragma once
// Edits of what can have keys, at the moment that is looked at: what has keys gets one there, and time
// stands. While it is recorded all gets keys, and time goes on.

#include "app/document/document.hpp"
#include "core/study/edits/place_handles.hpp"

namespace plume::app {

// What the control is now.
double value_now(const Document& document, const Control& control);
void set_control_now(Document& document, const std::string& name, double value,
                     const std::string& stroke = {});
// Whether they can be moved there.
bool move_places_now(Document& document, const std::vector<PlaceMove>& moves, const ShownValue& shown,
                     const std::string& stroke);

}  // namespace plume::app
