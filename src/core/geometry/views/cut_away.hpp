#pragma once
// Things cut by a plane across the view: what is left behind it, and where they are cut. What sections are
// made of.

#include <optional>

#include "core/geometry/views/flat_region.hpp"
#include "core/geometry/views/hidden_lines.hpp"

namespace plume {

struct CutThing {
    std::optional<Mesh> behind;              // of its faces; without parts and numbers
    std::vector<std::array<Vec3, 2>> lines;  // of its lines
    std::vector<std::array<Vec3, 2>> cuts;   // where faces are cut, places of space
    FlatRegion face;                         // of what is closed: what is cut, as the frame sees it
};

// What is nearer to the viewer than `depth` along frame.away falls away; what lies in the plane stays. Faces
// that are cut are cut into triangles first. Errors: cancelled. O(faces + cuts log cuts).
Result<CutThing> cut_away(const SeenThing& thing, const ViewFrame& frame, double depth, const Run& run);

// The cut face in space: it hides what is behind it.
Mesh mesh_of_cut(const FlatRegion& face, const ViewFrame& frame, double depth);

}  // namespace plume
