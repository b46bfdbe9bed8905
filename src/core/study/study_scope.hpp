#pragma once
// What expressions and formulas of a study can read by name.

#include "core/formula/formula.hpp"
#include "core/study/study.hpp"

namespace plume {

// The study's controls; numbers of steps come in where they are made.
Scope scope_of(const Study& study);
// The scope with one more name.
Scope scope_with(const Scope& scope, const std::string& name, const Quantity& value);

}  // namespace plume
