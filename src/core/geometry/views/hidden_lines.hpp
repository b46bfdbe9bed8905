#pragma once
// Lines of meshes and of their own, seen from one side without what hides them: what drawings are made of.
//
// Faces of closed meshes that look away are inside of what is seen, and so are edges between such faces.
// Candidates are rims, edges where faces turn by more than an angle, outlines (edges between a face that
// looks at the viewer and one that does not) and lines besides. Each is cut where a face begins or ends to
// stand before it (Appel, The notion of quantitative invisibility and the machine rendering of solids, Proc.
// ACM 1967, doi 10.1145/800196.806007), face by face of those that a grid over the picture finds near it.

#include <array>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Parallel, along `away` from the viewer; all three unit and square to each other, right × up against `away`.
struct ViewFrame {
    Vec3 right{1, 0, 0}, up{0, 1, 0}, away{0, 0, -1};

    // x to the right, y up, z away from the viewer.
    Vec3 seen(Vec3 place) const { return {dot(place, right), dot(place, up), dot(place, away)}; }
};
ViewFrame plan_view();
// Looking north at azimuth 0, east at 90 degrees; down by the elevation: 90 degrees is a plan with north up.
ViewFrame view_towards(double azimuth_rad, double elevation_rad);

struct SeenThing {
    const Mesh* mesh = nullptr;  // hides what is behind it, and has edges
    bool smooth = false;         // samples of a surface: only its rims and outlines are edges
    std::vector<std::array<Vec3, 2>> lines = {};  // pieces that hide nothing
};

enum class SeenEdge : std::uint8_t { outline, rim, crease, line };

struct SeenPiece {
    Vec3 from, to;  // as the frame sees them
    std::uint32_t thing = 0;
    SeenEdge edge = SeenEdge::line;
    bool hidden = false;
};

struct HiddenLineOptions {
    double crease_rad = 0.35;  // faces that turn by less have no edge between them
    bool keep_hidden = false;  // hidden pieces come, too
};

// Pieces in the order of things and their edges, along each from its first end to its last. Places that are
// not finite have to be left out before. Errors: cancelled. O((e + f) log f) for edges and faces spread
// evenly.
Result<std::vector<SeenPiece>> seen_lines(std::span<const SeenThing> things, const ViewFrame& frame,
                                          const HiddenLineOptions& options, const Run& run);

}  // namespace plume
