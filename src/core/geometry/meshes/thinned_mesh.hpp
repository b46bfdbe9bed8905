#pragma once
// A mesh of fewer triangles that looks nearly the same: edges are collapsed where the squared distances to
// the planes around them stay least (Garland & Heckbert, Surface simplification using quadric error metrics,
// 1997, doi 10.1145/258734.258849). By meshoptimizer, which keeps vertices where they are.

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct ThinnedMesh {
    Mesh mesh;               // of triangles; its vertices are some of those there were, with their numbers
    double deviation = 0;    // from it to the vertices there were, the largest, measured
    std::size_t folded = 0;  // triangles that look against the faces they lie on; as few as could be found
};
struct ThinningRule {
    std::size_t triangles = 0;  // as few as this, if that can be
    double deviation = 0;       // or as few as keep within this; 0: whatever the count needs
    bool keeps_rims = true;
};
// Parts are thinned each for itself, their rims kept. Numbers of faces are lost. Error: cancelled.
Result<ThinnedMesh> thinned(const Mesh& mesh, const ThinningRule& rule, const Run& run);

}  // namespace plume
