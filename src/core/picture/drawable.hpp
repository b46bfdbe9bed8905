#pragma once
// Drawable: a value made ready to draw, by the graphics card or by the still renderer.
//
// Layout. Positions are floats relative to `origin` (so that forms far from zero stay sharp). Vertices:
// position, normal, colour coordinate; triangles index them three by three, edges two by two. Points:
// position and colour coordinate, with the address or item index they stand for. Colour coordinates run 0..1
// over the field's range; -1 means the plain colour, -2 a number that is not finite, -3 and below a colour of
// the point's own (own_colours.hpp).
//
// Parts of a mesh that are one shape are its repeats: the shape's triangles and edges are kept once and drawn
// at each of them.
//
// Directions are arrows, the longest nearly as long as neighbours stand apart; placements are three short
// axes in colours of their own; attractors that are paths are lines.

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/camera.hpp"
#include "core/data/value.hpp"

namespace plume {

struct DrawVertex {
    float x, y, z;
    float nx, ny, nz;
    float colour;
};

struct DrawPoint {
    float x, y, z;
    float colour;
    std::uint32_t index;
};

// A vertex v of a repeated shape stands at x v.x + y v.y + z v.z + to.
struct DrawRepeat {
    std::array<float, 3> x, y, z, to;
    float colour;
    std::uint32_t part;  // of the mesh
};
// A run of indices drawn at each of a run of repeats.
struct DrawShape {
    std::size_t first_triangle_index = 0, triangle_index_count = 0;
    std::size_t first_edge_index = 0, edge_index_count = 0;
    std::size_t first_repeat = 0, repeat_count = 0;
};

// The edges of one curve, and the place of its level among all: which of them are heavier.
struct DrawLine {
    std::size_t first_edge_index = 0, edge_index_count = 0;
    std::int64_t rank = 0;
};

// Sized first and written in full right after; large ones get huge pages.
template <class T>
using DrawArray = std::vector<T, UninitializedAllocator<T>>;

inline constexpr float plain_coordinate = -1, not_finite_coordinate = -2;

// What points and lines are for whoever looks. Points: discs; small ones that something else stands on;
// handles, large and never hidden. Lines: edges of faces or between neighbours, which fade where they stand
// close; lines that are things themselves; bars, which fade with the distance; thinner ones, of arrows; paths
// that are handles.
enum class PointRole { points, feet, handles };
enum class LineRole { edges, lines, bars, arrows, handles };

// What vertices belong to: a part of a mesh, a surface, body, curve or bar; of a mesh of one part a face; of
// surfaces made through points the nearest of these.
enum class DrawnPart { items, faces, nodes };

struct Drawable {
    PointRole points_are = PointRole::points;
    LineRole lines_are = LineRole::edges;
    bool refines = false;           // a view from nearby may have it sampled again (DrawOptions::view)
    std::vector<Vec3> minus_signs;  // handles that turn their answer round
    Vec3 origin;
    Box bounds;  // absolute
    DrawArray<DrawVertex> vertices;
    DrawArray<std::uint32_t> triangles;
    // Triangles, or of what has none edges, for while something moves; empty when there are few anyway.
    DrawArray<std::uint32_t> coarse;
    DrawArray<std::uint32_t> edges;
    DrawArray<DrawPoint> points;
    DrawArray<DrawRepeat> repeats;
    std::vector<DrawShape> shapes;  // with any, all triangles and edges are of one; coarse ones never are
    // What each vertex belongs to; empty where all are one, or with repeats.
    DrawArray<std::uint32_t> vertex_parts;
    DrawnPart parts_are = DrawnPart::items;
    std::vector<std::size_t> node_starts;  // the first node of each surface, with parts that are nodes
    std::vector<DrawLine> lines;           // of curves
    std::string colour_field;              // empty: plain
    Dimension colour_dimension;
    double colour_low = 0, colour_high = 0;
    std::size_t not_finite_points = 0;  // left out
    std::size_t first_not_finite = 0;   // index of the first of them
    bool closed = false;                // of bodies: from outside no back of a triangle is seen
    bool thinned = false;               // only some rows and columns are drawn, without edges
    bool closer = false;                // some of it is drawn more finely, for a view
    int edge_pieces = 1;                // that an edge between two given points is drawn in
    double edge_length = 0;             // a usual one between given points; 0 without edges

    Vec3 absolute(float x, float y, float z) const {
        return origin + Vec3{static_cast<double>(x), static_cast<double>(y), static_cast<double>(z)};
    }
};

// Who looks at it from where.
struct DrawnView {
    Camera camera;
    double aspect = 1;  // width over height
};

// colour_by: a field's name; empty for the points' own colours, else the field in hand or the last one
// carried; "-" for the plain colour.
struct DrawOptions {
    std::string colour_by;
    std::size_t surface_samples = 24'000;  // about so many for a surface, or one a bay if it has more
    // What a screen can show and a software renderer can draw in time; beyond, drafts are made.
    std::size_t most_samples = 60'000, most_triangles = 150'000;
    std::size_t most_repeated = 700'000;  // triangles of repeats, which take no memory each
    std::size_t most_coarse = 12'000;     // triangles, or lines, while something moves
    std::optional<DrawnView> view = {};   // surfaces are drawn as finely as it needs, where it sees them
};

// What its arrays take.
std::size_t bytes_of(const Drawable& drawable);

// A vertex of a shape as one of its repeats has it, with the repeat's colour.
DrawVertex at_repeat(const DrawRepeat& repeat, const DrawVertex& vertex);

// Whether a value's drawable may refine.
bool refines(const Value& value);

Result<Drawable> make_drawable(const Value& value, const DrawOptions& options, const Run& run);

}  // namespace plume
