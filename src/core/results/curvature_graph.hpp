#pragma once
// How tightly curves bend along their length, as readings draw it.

#include <optional>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

struct CurvatureLine {
    std::vector<double> along;       // lengths from the start, even
    std::vector<double> curvatures;  // 1 / length; not a number where the curve stands still
};
// One for each curve, in their order.
using CurvatureGraph = std::vector<CurvatureLine>;
// Of curves that bend; nothing of other values, of straight lines, and of what is too large to be looked
// through beside the rest.
std::optional<CurvatureGraph> curvature_graph_of(const Value& value);

}  // namespace plume
