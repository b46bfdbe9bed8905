#pragma once
// Every step kind of the product, in the order they are offered. Generated from the list in CMakeLists.txt: a
// file x.cpp there declares `StepKind x()`.

#include "core/study/step_kind.hpp"

namespace plume {

const Catalogue& standard_catalogue();

}  // namespace plume
