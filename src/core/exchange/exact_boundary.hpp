#pragma once
// The faces of a form over edges and vertices that neighbours share, as boundary representations of exact
// formats have them (ISO 10303-42, topology).

#include <cstdint>
#include <vector>

#include "core/data/surface_set.hpp"

namespace plume {

struct BoundaryEdge {
    std::uint32_t from = 0, to = 0;  // vertices
    SplineCurve::Parts curve;        // that way
};
struct BoundaryUse {
    std::uint32_t edge = 0;
    bool forwards = true;
};
// A loop is run through with the face to its left, seen from where the normal of the face points.
struct BoundaryFace {
    SplinePatch::Parts patch;
    bool along_patch = true;                      // whether that is where the patch's own normal points
    std::vector<std::vector<BoundaryUse>> loops;  // the outermost first
};
struct ExactBoundary {
    std::vector<Vec3> vertices;
    std::vector<BoundaryEdge> edges;
    std::vector<BoundaryFace> faces;
    bool closed = false;  // encloses a volume, normals outwards
};

}  // namespace plume
