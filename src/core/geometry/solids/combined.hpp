#pragma once
// Bodies joined, cut and shared; cut in two by planes. By CGAL's corefinement (Loriot, Rouxel-Labbé,
// Tournois, Yaz, Polygon Mesh Processing, CGAL manual), with exact predicates: flat faces stay where they
// are, only places where edges meet faces are rounded. Exact bodies are meshed first, so that what comes of
// them is a mesh.

#include "core/base/run.hpp"
#include "core/data/solids.hpp"

namespace plume {

enum class Combination {
    joined,  // all of both
    cut,     // the first without the second
    shared,  // what is in both
};
// Faces of the results are those of the operands, the first's before the second's, cut into triangles. The
// vertex field `operand` is 0 on the first, 1 on the second and between them where they meet. No body is in
// the result of a cut or share that leaves nothing. `target`: polygons of an exact body. Errors:
// unlike_arrangement when a body runs through itself, or when what comes of two would touch itself along
// edges only; cancelled; has_gaps.
Result<SolidSet> combined(const SolidSet& first, const SolidSet& second, Combination combination,
                          std::size_t target, const Run& run);

// Closed meshes as one, those that overlap without what is inside of others; a part for each that hangs
// together, without numbers. Errors: has_gaps of one that is open, and those of combined().
Result<Mesh> merged(const std::vector<Mesh>& closed, const Run& run);

// Whether faces of a closed mesh cross each other.
Result<bool> runs_through_itself(const Mesh& mesh, const Run& run);

// Pairs of bodies, by number, that have a volume in common; what only touches has none.
struct Overlap {
    std::size_t first = 0, second = 0;
    double volume = 0;
    Vec3 place;  // the centroid of what they share
};
Result<std::vector<Overlap>> overlaps_of(const SolidSet& set, std::size_t target, const Run& run);

// What lies on the side of a plane that its normal points to, or on the other one.
Result<SolidSet> one_side_of(const SolidSet& set, Vec3 origin, Vec3 normal, bool above, std::size_t target,
                             const Run& run);

}  // namespace plume
