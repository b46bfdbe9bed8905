#pragma once
// Points, normals and fields of a spline patch on a grid of parameters. O(samples x degree^2) at worst,
// O(samples x degree) for fine sampling.

#include <cstdint>
#include <functional>
#include <optional>
#include <utility>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// Sample (a, b) is at index a + count_u * b. Closed directions do not repeat the seam.
struct SurfaceSamples {
    std::size_t count_u = 0, count_v = 0;
    bool closed_u = false, closed_v = false;
    Doubles x, y, z;
    Doubles normal_x, normal_y, normal_z;  // unit, or zero at a pole of the surface
    std::vector<Field> fields;
};

struct SurfacePoint {
    Vec3 position, along_u, along_v;  // first derivatives
};
struct SurfaceBend {
    SurfacePoint point;
    Vec3 bend_uu, bend_uv, bend_vv;  // second derivatives
};
SurfacePoint evaluate(const SplinePatch& patch, double u, double v);

// Calls `each` with the numbers of the parameters and the place there, on several threads, each row of one v
// on one of them. False: cancelled.
using EachPoint = std::function<void(std::size_t a, std::size_t b, const SurfacePoint& point)>;
bool visit_points(const SplinePatch& patch, const std::vector<double>& u, const std::vector<double>& v,
                  const EachPoint& each, const Run& run);

// Likewise, with second derivatives.
using EachBend = std::function<void(std::size_t a, std::size_t b, const SurfaceBend& bend)>;
bool visit_bends(const SplinePatch& patch, const std::vector<double>& u, const std::vector<double>& v,
                 const EachBend& each, const Run& run);

// Parameters of one direction to sample at; a closed direction ends before its seam.
struct SampleLines {
    std::vector<double> parameters;
    std::vector<std::uint8_t> at_node;  // 1 where a line runs through points the patch was made through
};
// At every n-th of the nodes and at the last, with per_bay - 1 more between those; at the knots where a patch
// has no nodes. Both are at least 1.
SampleLines sample_lines(const SplineBasis& basis, int per_bay, std::size_t every);
// How many bays there are between the nodes of a direction.
std::size_t bays_of(const SplineBasis& basis);
Result<SurfaceSamples> sample_on(const SplinePatch& patch, const SampleLines& u, const SampleLines& v,
                                 const Run& run);

// Parameters at the patch's nodes with `per_bay` - 1 more between neighbours, so that the interpolated points
// are among the samples. Uses the knots where a patch has no nodes. per_bay is at least 1.
Result<SurfaceSamples> sample(const SplinePatch& patch, int per_bay, const Run& run);

// How many nodes there are to a sample when about `target` samples are enough, at least 1.
std::size_t nodes_per_sample(const SplinePatch& patch, std::size_t target);

// The least and largest of a field's finite numbers at the nodes; nothing when there are none.
std::optional<std::pair<double, double>> range_at_nodes(const SplinePatch& patch, const Field& field);

// Samples per bay for about `target` samples in all, at least 1 and at most 16.
int samples_per_bay(const SplinePatch& patch, std::size_t target);

// Quads between the samples.
Result<Mesh> mesh_of(const SurfaceSamples& samples);

}  // namespace plume
