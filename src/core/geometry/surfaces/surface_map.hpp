#pragma once
// From a flat rectangle onto a surface: x along u, y along v, z along the normal.

#include <array>
#include <optional>

#include "core/data/placements.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/surfaces/even_lengths.hpp"

namespace plume {

// From the origin of its placement on, along its two axes.
struct FlatRectangle {
    Placement at;
    double width = 1, depth = 1;  // above 0
};
enum class MapSteps { even_parameters, even_lengths };

class SurfaceMap {
public:
    SurfaceMap(const SplinePatch& patch, const FlatRectangle& rectangle, MapSteps steps);

    struct Laid {
        Vec3 place;
        double u = 0, v = 0;
    };
    // Nothing for what lies beside the rectangle by more than 1e-9 of it; where the surface is closed it goes
    // round instead.
    std::optional<Laid> laid(Vec3 place) const;

private:
    std::optional<double> parameter_at(int direction, double share) const;

    SplinePatch patch_;
    FlatRectangle rectangle_;
    PatchEvaluator evaluator_;
    std::array<std::optional<MeanLength>, 2> lengths_;  // where they count
};

}  // namespace plume
