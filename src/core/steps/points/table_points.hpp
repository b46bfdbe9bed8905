#pragma once
// Points from a table of text, with remarks about what could not be read and under which names fields go.

#include "core/study/step_kind.hpp"

namespace plume {

// A scatter. Errors: those of read_point_table().
Result<PointLattice> points_of_table(std::string_view text, const Inputs& in, const Run& run);

}  // namespace plume
