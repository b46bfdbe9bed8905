#pragma once
// Panels: the faces of a mesh as plates with gaps between them.

#include <functional>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// What a panel is turned about: nothing; the level line through its middle; its lower or its upper edge (by
// the edges' middles; of what lies level the first edge).
enum class PanelHinge { none, middle, lower, upper };

// By the number of the face; asked on several threads.
struct PanelPlan {
    std::function<double(std::size_t face)> gap;  // from each of its edges, in its plane; below 0 it overlaps
    std::function<double(std::size_t face)> thickness;  // 0: a face without
    std::function<double(std::size_t face)>
        opening;         // share of the panel's area that is cut out, 0 to below 1
    double outside = 1;  // share of the thickness that lies outside of the mesh
    PanelHinge hinge = PanelHinge::none;
    // Radians: outwards of what lies above the hinge, of upper edges of what lies below.
    std::function<double(std::size_t face)> turn = {};
};

struct Panels {
    // A part a face, closed where it has a thickness. Faces carry `panel`, the number of theirs, and the
    // numbers it carries; corners of its outline carry `beyond`, the panel across the edge that begins there
    // (panel_names.hpp).
    Mesh mesh;
    double area = 0;          // of the panels' faces, openings taken off; warped ones by their area vectors
    std::size_t used_up = 0;  // faces that gaps leave nothing of, left out
    std::size_t first_used_up = 0;
};
// Edges move inwards in the plane of the two that meet at a corner, so that warped faces stay warped; the
// thickness runs along the face's normal. Then the panel is turned about its hinge. The opening is the
// panel's outline made smaller about its middle. Errors: out_of_range for a gap, thickness or opening beyond
// its limits, naming the face; empty_input where no panel is left; cancelled. O(corners).
Result<Panels> panels_of(const Mesh& mesh, const PanelPlan& plan, const Run& run);

struct SplitFaces {
    Mesh mesh;
    std::size_t split = 0;
    double worst = 0;  // planarity gap of what was not split
};
// Faces whose planarity gap (flatness.hpp) is larger than the limit in triangles: quadrangles along the
// diagonal over which they fold less, others as they are drawn. Numbers of faces go to both halves. Error:
// cancelled.
Result<SplitFaces> split_warped(const Mesh& mesh, double limit_abs, const Run& run);

}  // namespace plume
