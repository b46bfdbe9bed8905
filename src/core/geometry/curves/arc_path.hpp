#pragma once
// Flat curves as straight lines and arcs of circles.

#include <optional>
#include <vector>

#include "core/data/curve_set.hpp"

namespace plume {

// From the piece before on. The bulge of an arc is the tangent of a quarter of the angle it turns by, above 0
// anticlockwise; 0 is a straight line. A whole turn is two pieces.
struct ArcPiece {
    Vec3 to;
    double bulge = 0;
};
struct ArcPath {
    Vec3 start;
    std::vector<ArcPiece> pieces;
    bool closed = false;  // the last piece ends at the start
};

// Of a curve at one height whose every bay is straight or, of degree 2, on a circle: five of its places are,
// and no other conic has these. Nothing where one is neither. Bays of one circle are put together up to half
// a turn. O(bays).
std::optional<ArcPath> arc_path(const SplineCurve& curve);

// The centre of a piece that is an arc; where it starts is given.
Vec3 centre_of(Vec3 from, const ArcPiece& piece);

}  // namespace plume
