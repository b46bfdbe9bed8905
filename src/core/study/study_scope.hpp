#pragma once
// What expressions and formulas of a study can read by name.

#include "core/formula/formula.hpp"
#include "core/study/study.hpp"

namespace plume {

// The study's controls as they are at a moment, and the moment by the name of time, which a control of that
// name hides; numbers of steps come in where they are made.
Scope scope_of(const Study& study, double seconds = 0);
// The scope with one more name.
Scope scope_with(const Scope& scope, const std::string& name, const Quantity& value);

}  // namespace plume
