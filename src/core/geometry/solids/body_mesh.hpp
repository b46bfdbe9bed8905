#pragma once
// Meshes of surfaces, and closed ones of bodies. Exact bodies are meshed on lines of parameters that patches
// with equal knots share, so that their edges meet.

#include "core/base/run.hpp"
#include "core/data/solids.hpp"

namespace plume {

// How fine they are: about so many polygons in all; or, above 0, so that the middles of polygons and of their
// sides are no further than that from the surface, measured.
struct Fineness {
    std::size_t about = 0;
    double within = 0;

    Fineness(std::size_t polygons) : about(polygons) {}  // NOLINT: a number of polygons is a fineness
    static Fineness to(double within) {
        Fineness fineness(0);
        fineness.within = within;
        return fineness;
    }
};

// All patches as one mesh: quads between samples that include the points a patch was made through, triangles
// of what trims leave. Fields that all of them have are kept. Error: over_budget for more than five million
// polygons.
Result<Mesh> mesh_of(const SurfaceSet& set, const Fineness& fineness, const Run& run);

// All bodies as one mesh, a part for each.
Result<Mesh> mesh_of(const SolidSet& set, const Fineness& fineness, const Run& run);

// Polygons of a body, a part for each of its faces; of an exact one on common lines of parameters, or the
// mesh it came with. Errors: has_gaps when edges do not meet; over_budget; those of sampling; cancelled.
Result<Mesh> closed_mesh(const Body& body, const Fineness& fineness, const Run& run);

}  // namespace plume
