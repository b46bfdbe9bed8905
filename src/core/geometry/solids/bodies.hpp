#pragma once
// Closed bodies of patches and of meshes.

#include "core/base/run.hpp"
#include "core/data/solids.hpp"

namespace plume {

// Of patches whose edges meet, all with their normals outwards or all inwards. Errors: too_few_points when
// they enclose no volume; cancelled. That edges meet, and how nearly, is the caller's to know; closed_mesh()
// finds out; or there is a closed mesh, turned as they are, with a part for each.
Result<Body> exact_body(std::vector<SplinePatch> patches, const Run& run, double edges_within = 0,
                        std::optional<Mesh> mesh = {});

// Error: has_gaps when an edge belongs to one face only, or to faces that run along it the same way;
// too_few_points when it encloses no volume. Faces are turned outwards.
Result<Body> meshed_body(Mesh mesh);

// The edges of a mesh that have no other one running the opposite way, a corner pair each.
std::vector<std::pair<std::uint32_t, std::uint32_t>> open_edges(const Mesh& mesh);

Error open_edges_error(const Mesh& mesh, const std::vector<std::pair<std::uint32_t, std::uint32_t>>& open);

// One body for each piece that hangs together; a piece turned inwards is a hollow of the body around it.
Result<SolidSet> bodies_of(const Mesh& closed, const Run& run);

}  // namespace plume
