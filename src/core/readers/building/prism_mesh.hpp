#pragma once
// Flat outlines with holes, pulled along a direction, as closed meshes.

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Rings of places in a plane, z 0; neither closed nor in any sense of turning that is asked for.
struct FlatOutline {
    std::vector<Vec3> outer;
    std::vector<std::vector<Vec3>> holes;
};

// Triangles of an outline over its places, ring after ring.
struct FilledOutline {
    std::vector<std::vector<Vec3>> rings;  // the outer one anticlockwise, holes clockwise
    std::vector<std::array<std::uint32_t, 3>> triangles;
};
// Errors: those of outlines that cross or have no area.
Result<FilledOutline> filled(FlatOutline outline, const Run& run);

// Between the outline's plane and the same one moved along, faces outwards.
Result<Mesh> prism_mesh(const FilledOutline& outline, Vec3 along);

}  // namespace plume
