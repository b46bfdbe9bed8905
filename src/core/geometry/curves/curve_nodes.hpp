#pragma once
// The points that curves were made through, numbered curve by curve; the knots of one that was made through
// none.

#include <optional>
#include <vector>

#include "core/data/curve_set.hpp"
#include "core/data/vec3.hpp"

namespace plume {

// Their parameters; the seam of a closed one once.
std::vector<double> node_parameters(const SplineCurve& curve);
std::size_t node_count(const SplineCurve& curve);
std::size_t node_count(const CurveSet& set);

struct CurveNode {
    std::size_t curve = 0, point = 0;
};
// The number is below node_count(set). O(curves).
CurveNode node_at(const CurveSet& set, std::size_t number);
// Nothing where there is no such node.
std::optional<std::size_t> number_of(const CurveSet& set, const CurveNode& node);

Vec3 place_of(const CurveSet& set, const CurveNode& node);
// The numbers of the curve's fields there.
std::vector<double> fields_at(const CurveSet& set, const CurveNode& node);
// How far from these points the curves may run by rounding alone. O(poles).
double meets_them_to(const CurveSet& set);

}  // namespace plume
