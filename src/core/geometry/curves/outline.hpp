#pragma once
// Outlines: closed flat curves that bound a region.
//
// Inside is what an even-odd count of crossings says; edges are found by bands of y, so that a question costs
// the few edges of one band and not all of them.

#include <vector>

#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"

namespace plume {

struct FlatPoint {
    double x = 0, y = 0;
};

// Within a ring of corners, the first not repeated: above 0 where they run anticlockwise.
double signed_area(const std::vector<FlatPoint>& corners);

class Outline {
public:
    // The corners of one closed curve, in the plane that fits them. Errors: has_gaps (open),
    // unlike_arrangement (not flat to a thousandth of its size, or crossing itself, naming where), and
    // too_few_points; empty_input when there is none.
    static Result<Outline> make(const SplineCurve& curve);
    // Of a set that holds one curve. Error: wrong_kind when it holds several.
    static Result<Outline> make(const CurveSet& set);

    const Placement& plane() const { return plane_; }
    const std::vector<FlatPoint>& corners() const { return corners_; }  // anticlockwise
    FlatPoint low() const { return low_; }
    FlatPoint high() const { return high_; }
    double area() const { return area_; }
    bool smooth() const { return smooth_; }  // whether the curve was
    bool contains(FlatPoint point) const;
    // A point of space, seen along the plane's normal.
    bool contains(Vec3 point) const {
        const Vec3 local = plane_.to_local(point);
        return contains(FlatPoint{local.x, local.y});
    }

private:
    void sort_into_bands();

    Placement plane_;
    std::vector<FlatPoint> corners_;
    FlatPoint low_, high_;
    double area_ = 0;
    bool smooth_ = false;
    double band_height_ = 1;
    std::vector<std::vector<std::size_t>> bands_;  // edges by number of their first corner
};

enum class OffsetCorners { sharp, round };

// Loops at a distance from the outline: outwards when positive. Sharp corners reach at most four times the
// distance; round ones are true to `round_to`, or to a ten-thousandth of it. By the Clipper library (Angus
// Johnson, polygon clipping after Vatti 1992, BSL-1.0), on whole numbers of a 2^40th of the size. Error:
// out_of_range when nothing is left.
Result<std::vector<std::vector<FlatPoint>>> offset_loops(const Outline& outline, double distance,
                                                         OffsetCorners corners, double round_to = 0);

}  // namespace plume
