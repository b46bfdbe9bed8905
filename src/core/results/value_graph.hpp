#pragma once
// Numbers along something, as readings draw them of a value.

#include <optional>
#include <string>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

struct GraphLine {
    std::vector<double> along, numbers;  // one a sample, evenly along; not a number where there is none
};
struct ValueGraph {
    std::string title;
    Dimension along_dimension, dimension;
    std::vector<GraphLine> lines;  // of curves one each, in their order
    bool radii = false;            // 1 / number is worth telling
};
// Of curves that bend the curvature along their length; nothing of other values, of straight lines, and of
// what is too large to be looked through beside the rest.
std::optional<ValueGraph> graph_of(const Value& value);

}  // namespace plume
