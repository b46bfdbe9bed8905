#pragma once
// The nearest place on a patch, and where a line meets it: a tree over boxes that hold the patch bay by bay,
// then Newton's steps on the patch itself.
//
// The boxes are those of the poles of small bays (a spline lies in the hull of its poles), so that no bay
// that could be nearer is left out: the answer is the nearest of all, as far as each small bay has one
// nearest place (Ma & Hewitt, Point inversion and projection for NURBS curve and surface, Computer Aided
// Geometric Design 20, 2003, doi 10.1016/S0167-8396(03)00021-9, search likewise). O(log bays) each, nearly.

#include <array>
#include <functional>
#include <vector>

#include "core/data/box.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {

struct PlaceOnSurface {
    double u = 0, v = 0;
    Vec3 place;
    double distance = 0;  // from the point asked for; along a line it is below 0 behind it
};

// A stretch of the parameters.
struct SurfaceBay {
    double from_u = 0, to_u = 0, from_v = 0, to_v = 0;
};

// Safe to ask from any number of threads.
class SurfaceSearch {
public:
    explicit SurfaceSearch(const SplinePatch& patch);

    const SplinePatch& patch() const { return patch_; }
    double size() const { return size_; }  // the diagonal around its poles

    // The rims, and of a trimmed patch its trims, count as parts of it.
    PlaceOnSurface nearest(Vec3 point) const;
    // Where the line through a point in a unit direction meets the patch, in order along it.
    std::vector<PlaceOnSurface> along(Vec3 point, Vec3 direction) const;
    // Square to the patch there.
    Vec3 normal(const PlaceOnSurface& place) const;
    // Whether its trims leave it there.
    bool holds(double u, double v) const { return sides_.hold(u, v); }

    // Small bays, each half as large again, for which all boxes around them are entered.
    using Enters = std::function<bool(const Box&)>;
    using LookIn = std::function<void(const SurfaceBay&)>;
    void visit(const Enters& enters, const LookIn& look_in) const;

private:
    // A small bay: its middle with both derivatives, and a box along them that holds its poles.
    struct Bay {
        Box box;
        SurfaceBay range;
        SurfacePoint middle;
        std::array<Vec3, 3> axes;
        Vec3 low, high;  // along the axes, from the middle
    };
    struct Node {
        Box box;
        std::size_t left = 0, right = 0;  // nodes; right is 0 where left is a bay
    };
    Bay bay_of(const SurfaceBay& range, const std::vector<Vec3>& poles) const;
    std::size_t build(std::size_t begin, std::size_t end);
    static double distance_to(const Bay& bay, Vec3 point);
    void look_near(std::size_t node, Vec3 point, PlaceOnSurface& best) const;
    // From the middle of a bay on, as if that were flat.
    PlaceOnSurface nearest_from(const Bay& bay, const SurfaceBay& range, Vec3 point) const;
    // Of a bay that bends so much that it may have several nearest places: from a grid of its own.
    PlaceOnSurface nearest_of_many(const Bay& bay, Vec3 point) const;
    PlaceOnSurface downhill_from(double u, double v, const SurfaceBay& range, Vec3 point) const;
    PlaceOnSurface nearest_on_trims(Vec3 point) const;

    SplinePatch patch_;
    PatchEvaluator evaluator_;
    TrimSides sides_;
    std::vector<Bay> bays_;
    std::vector<Node> nodes_;
    double size_ = 0;
};

}  // namespace plume
