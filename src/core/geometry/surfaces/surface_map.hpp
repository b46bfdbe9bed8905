#pragma once
// From a flat rectangle onto a surface, and back: x along u, y along v, z along the normal.

#include <array>
#include <optional>

#include "core/data/placements.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/surfaces/even_lengths.hpp"
#include "core/geometry/surfaces/surface_search.hpp"

namespace plume {

// From the origin of its placement on, along its two axes.
struct FlatRectangle {
    Placement at;
    double width = 1, depth = 1;  // above 0
};
enum class MapSteps { even_parameters, even_lengths };

class SurfaceMap {
public:
    // Of about so many places.
    SurfaceMap(const SplinePatch& patch, const FlatRectangle& rectangle, MapSteps steps,
               std::size_t places = 0);

    struct Laid {
        Vec3 place;
        double u = 0, v = 0;
    };
    // Nothing for what lies beside the rectangle by more than 1e-9 of it; where the surface is closed it goes
    // round instead.
    std::optional<Laid> laid(Vec3 place) const;

private:
    // A direction of the patch, with what is asked for a million times close at hand.
    struct Direction {
        double start, range, over_side;  // over_side: 1 / the side of the rectangle
        bool closed;
        std::optional<MeanLength> lengths;  // where they count
    };
    static bool take_in(const Direction& direction, double& share);
    static double parameter_at(const Direction& direction, double share);

    SplinePatch patch_;
    FlatRectangle rectangle_;
    PatchEvaluator evaluator_;
    std::array<Direction, 2> directions_;
};

// Back again: where a place lies over a surface.
class SurfaceShares {
public:
    SurfaceShares(const SplinePatch& patch, MapSteps steps);

    // How long the mean lines along u and v are.
    double width() const { return lengths_[0].total(); }
    double depth() const { return lengths_[1].total(); }
    // The shares of u and v of the nearest place, 0 to 1, and how far along its normal the place lies.
    // Nothing for what lies beside a rim by more than 1e-6 of the surface's size, or over what trims leave
    // out.
    std::optional<Vec3> shares(Vec3 place) const;

private:
    SurfaceSearch search_;
    MapSteps steps_;
    std::array<MeanLength, 2> lengths_;
};

}  // namespace plume
