#pragma once
// Edits of what can have keys, at the moment that is looked at: what has keys gets one there, and time
// stands.

#include "app/document/document.hpp"

namespace plume::app {

// What the control is now.
double value_now(const Document& document, const Control& control);
void set_control_now(Document& document, const std::string& name, double value,
                     const std::string& stroke = {});

}  // namespace plume::app
