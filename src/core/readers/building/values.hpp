#pragma once
// Values of properties as the library has them.

#include <ifcpp/IFC4/include/IfcValue.h>

#include <optional>

#include "core/base/units.hpp"
#include "core/readers/building/library.hpp"

namespace plume {

// In the file's units; nothing where it is no number.
std::optional<Quantity> number_in(const std::shared_ptr<IfcValue>& value);
// Of one that is no number: texts, yes and no.
std::string text_in(const std::shared_ptr<IfcValue>& value);

}  // namespace plume
