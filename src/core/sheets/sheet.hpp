#pragma once
// A sheet that stretches, shears and bends, or threads that do: what never changes of it while it moves.
// Metres, kilograms, seconds, newtons.

#include <array>
#include <cstdint>
#include <functional>
#include <vector>

#include "core/base/error.hpp"
#include "core/base/incidence.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Of a square metre of it.
struct SheetMaterial {
    double weight = 0.15;   // kg/m^2
    double stretch = 2000;  // N/m: force a metre of width at twice the length
    double shear = 400;     // N/m, of diagonals in faces of four corners and more
    double bending = 1e-5;  // N m
};

// A spring between two vertices, at rest as long as that.
struct SheetSpring {
    std::uint32_t a = 0, b = 0;
    double rest = 0, stiffness = 0;
    bool diagonal = false;
};

// Two triangles at an edge (0, 1) with the corners 2 and 3, or a thread that goes on: half of stiffness times
// the square of the sum of weight times place is the energy of bending (M. Bergou et al.: A quadratic bending
// model for inextensible surfaces, 2006).
struct SheetHinge {
    std::array<std::uint32_t, 4> corners{};  // one of weight 0 does not count
    std::array<double, 4> weights{};
    double stiffness = 0;
};

struct Sheet {
    std::size_t vertex_count = 0;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::uint32_t> triangle_faces;          // the face of each
    std::vector<std::array<std::uint32_t, 2>> threads;  // what is no side of a triangle
    std::vector<std::vector<std::uint32_t>> paths;      // of vertices, along each thread as far as it goes on
    double thread_width = 0;                            // across the wind
    std::vector<SheetSpring> springs;  // one an edge of triangles, diagonals among them; one a thread
    std::vector<SheetHinge> hinges;
    std::vector<double> mass, area;         // of vertices
    std::vector<double> pull;               // stiffness of all springs at a vertex
    Incidence springs_at, hinges_at, ring;  // of vertices; ring: vertices along edges
    double mean_edge = 0, shortest_edge = 0;
};

// How long the edge between two vertices is at rest; the diagonals of faces as well.
using RestLengths = std::function<double(std::uint32_t, std::uint32_t)>;

// As they are between places of `rest`, times 1 + growth of the mean of their ends (empty: none); it keeps
// both. Errors: not_finite, out_of_range (growth of -1 and less).
Result<RestLengths> lengths_between(std::vector<Vec3> rest, std::vector<double> growth = {});

// What stands between two vertices.
using SheetEdges = std::vector<std::array<std::uint32_t, 2>>;
// Those of its springs that are no diagonal.
SheetEdges edges_of(const Sheet& sheet);

// For whoever makes one. The lengths of edges, whose mean and shortest the sheet keeps. Errors: out_of_range
// (one without length), not_finite.
Result<std::vector<double>> measured(Sheet& sheet, const SheetEdges& edges, const RestLengths& rest);
// What follows from springs and hinges: the pull and what stands at each vertex.
void link(Sheet& sheet);

// Of a mesh, whose faces are cut into triangles. Errors: empty_input (no face with area), out_of_range (an
// edge without length), not_finite.
Result<Sheet> make_sheet(const Mesh& mesh, const RestLengths& rest, const SheetMaterial& material);
// Whose edges are at rest as they are in `rest`, places of its vertices.
Result<Sheet> make_sheet(const Mesh& mesh, const std::vector<Vec3>& rest, const SheetMaterial& material);

}  // namespace plume
