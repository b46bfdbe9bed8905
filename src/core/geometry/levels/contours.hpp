#pragma once
// Contours of whatever has a surface: lines on which its height, or a number it carries, is level.
//
// On exact patches the lines are those of level_lines.hpp, on meshes those of mesh_levels.hpp. Lines on faces
// of one thing that end at one place are put end to end. A lattice is taken as the smooth surface through its
// points where it has one, and else as its facets.

#include <span>
#include <utility>
#include <variant>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/placements.hpp"
#include "core/data/value.hpp"

namespace plume {

// A face and what is level on it: x of `function`, a patch over the same knots; one number a vertex.
struct PatchToLevel {
    SplinePatch patch, function;
};
struct MeshToLevel {
    Mesh mesh;
    Column numbers;
};
using FaceToLevel = std::variant<PatchToLevel, MeshToLevel>;

struct FormToLevel {
    std::vector<std::vector<FaceToLevel>> things;  // whose faces hang together
    double edges_within = 0;                       // how far edges that are the same may stand apart
    Dimension dimension;                           // of what is level
};

// Of surfaces, meshes, bodies and points (with or without a number): their heights above a plane, which lies
// square to the up axis of a placement. Errors: of facets(), where points have none; not_finite; cancelled.
Result<FormToLevel> heights_of(const Value& thing, const Placement& plane, const Run& run);
// A number they carry. Error: out_of_range when they carry none of that name.
Result<FormToLevel> numbers_of(const Value& thing, const std::string& number, const Run& run);

// The least and the largest there is; nothing where no number is finite.
std::optional<std::pair<double, double>> range_of(const FormToLevel& form);

struct Contour {
    SplineCurve curve;      // without fields
    std::size_t level = 0;  // its number
};
struct Contours {
    std::vector<Contour> lines;     // by level, the higher side at the left
    double deviation = 0;           // from the surface at the level, the largest that was measured
    std::size_t level_faces = 0;    // or bays of patches: they lie in a level as a whole
    std::size_t faces_without = 0;  // of meshes, left out: a number of theirs is not finite
};
// How true lines on exact patches are: to a distance, or where that is 0 to a share of the size of each.
struct LineTruth {
    double share = 1e-7, distance = 0;
};
// Levels increase. Error: cancelled.
Result<Contours> contours_of(const FormToLevel& form, std::span<const double> levels, LineTruth truth,
                             const Run& run);

}  // namespace plume
