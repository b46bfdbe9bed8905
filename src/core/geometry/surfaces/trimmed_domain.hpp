#pragma once
// Triangles of what of a trimmed patch is there, in its parameters. By CGAL's constrained Delaunay
// triangulation (its manual, ch. 2D Triangulations, 8.4), O(n log n).

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"

namespace plume {

struct TrimmedDomain {
    struct Place {
        double u = 0, v = 0;
    };
    std::vector<Place> places;                            // those on the trims first, loop after loop
    std::vector<std::array<std::uint32_t, 3>> triangles;  // anticlockwise in u, v
    std::vector<std::uint32_t> loop_starts;               // the first place of each loop
    std::size_t on_loops = 0;                             // how many places lie on trims
};

// Each trim runs in so many pieces between its knots, in one where it is straight on a parallelogram; inside
// there are the places of the lines given. Errors: unlike_arrangement when trims cross or touch; cancelled.
Result<TrimmedDomain> trimmed_domain(const SplinePatch& patch, const std::vector<int>& pieces,
                                     const std::vector<double>& u, const std::vector<double>& v,
                                     const Run& run);

class PatchEvaluator;
// Where its places lie on the patch.
std::vector<SurfacePoint> points_of(const TrimmedDomain& domain, const PatchEvaluator& patch);

// The same with no line inside where there is one trim, all of which can be seen from its middle: a fan about
// that, O(places). For looking at, as its triangles are long. Nothing where it is otherwise.
std::optional<TrimmedDomain> fan_domain(const SplinePatch& patch, const std::vector<int>& pieces);

// Pieces between the knots of each trim, at most 64, that make at least so many places around it.
std::vector<int> pieces_round(const SplinePatch& patch, std::size_t around);

}  // namespace plume
