#pragma once
// The points that surfaces were made through, numbered patch by patch, along u first.

#include <optional>
#include <vector>

#include "core/data/surface_set.hpp"
#include "core/data/vec3.hpp"

namespace plume {

// 0 where the patch was made through none, or where trims may have taken some away.
std::size_t node_count(const SplinePatch& patch);
// 0 unless every patch was made through points.
std::size_t node_count(const SurfaceSet& set);

struct SurfaceNode {
    std::size_t patch = 0;
    std::size_t a = 0, b = 0;  // among the nodes along u and v
};
// The number is below node_count(set).
SurfaceNode node_at(const SurfaceSet& set, std::size_t number);
// Nothing where there is no such node.
std::optional<std::size_t> number_of(const SurfaceSet& set, const SurfaceNode& node);

// How far from these points the surfaces may run by rounding alone. O(poles).
double meets_them_to(const SurfaceSet& set);

Vec3 place_of(const SurfaceSet& set, const SurfaceNode& node);
// The numbers of the patch's fields there.
std::vector<double> fields_at(const SurfaceSet& set, const SurfaceNode& node);

// The node whose parameter is nearest, round the seam of what is closed. Nodes rise. O(log n).
std::size_t nearest_node(const SplineBasis& basis, double parameter);

}  // namespace plume
