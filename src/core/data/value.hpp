#pragma once
// Value: what a step results in. Immutable and shared; safe to read from any number of threads.

#include <cstdint>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <variant>

#include "core/data/attractors.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/mesh.hpp"
#include "core/data/placements.hpp"
#include "core/data/point_lattice.hpp"
#include "core/data/solids.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// A number on every point of a lattice: the lattice carries the field under this name.
struct FieldOnPoints {
    PointLattice points;
    std::string name;

    const Field& field() const { return *points.field(name); }
};

// A direction on every point: the lattice carries its parts as the fields name_x, name_y, name_z. Lengths
// need not be 1: they say how strong it is.
struct DirectionsOnPoints {
    PointLattice points;
    std::string name;

    const Column& part(char axis) const { return points.field(name + '_' + axis)->values; }
    Vec3 direction(std::size_t index) const { return {part('x')[index], part('y')[index], part('z')[index]}; }
};
// Adds the three fields.
DirectionsOnPoints with_directions(const PointLattice& points, const std::string& name, Doubles x, Doubles y,
                                   Doubles z, Dimension dimension);

// What is handed off, and how (delivery.hpp).
struct DeliveryContent;
using Delivery = std::shared_ptr<const DeliveryContent>;

// A Quantity is a single number, which expressions of later steps read by the result's name.
using Value = std::variant<PointLattice, FieldOnPoints, Attractors, Mesh, SurfaceSet, CurveSet,
                           DirectionsOnPoints, Placements, SolidSet, BarFrame, Quantity, Delivery>;
using ValuePointer = std::shared_ptr<const Value>;

// What was made, or why not, as a value.
template <class T>
Result<Value> as_value(Result<T> made) {
    if (!made) return made.error();
    return Value(*std::move(made));
}

// In the order of Value's alternatives.
enum class Kind {
    points,
    field,
    attractors,
    mesh,
    surface,
    curves,
    directions,
    placements,
    bodies,
    frame,
    number,
    delivery
};
inline constexpr int kind_count = 12;

Kind kind_of(const Value& value);
std::string_view plain_name(Kind kind);  // "points", "numbers on points", ...
std::string with_article(Kind kind);     // "points", "a mesh": what a thing is
std::string_view key_of(Kind kind);      // "points", "field", ... as files and --json say

// Memory it holds, shared columns counted once within the value.
std::size_t bytes_of(const Value& value);
// The same without columns counted before, which are remembered in `seen` by where they lie.
using SeenColumns = std::set<const double*>;
std::size_t bytes_of(const Value& value, SeenColumns& seen);
// The points a value stands on, the nodes of a frame; nothing for meshes, surfaces and curves.
const PointLattice* lattice_of(const Value& value);
// The field in hand of numbers on points, the number that is one; nothing of other kinds.
const Field* field_in_hand(const Value& value);
std::optional<Quantity> number_of(const Value& value);
// "25 × 17 points, 24 × 16 bays", "2 attractors", "384 faces, 425 vertices", "one surface, 27 × 19 poles",
// "one curve through 240 points, closed", "2 bodies, 14 faces, 3.2 m³", "48 members, 24 nodes"; a number as
// it is, "3.2 m".
std::string outline_text(const Value& value, const Units& units);
// Fields it carries, in order; the field in hand of FieldOnPoints last.
std::vector<std::string> field_names(const Value& value);

}  // namespace plume
