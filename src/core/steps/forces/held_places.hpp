#pragma once
// What is held, and what forces act on: points, nodes of frames, vertices of meshes.

#include "core/forces/net.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// The number of places that says how firmly each is held, 0 to 1.
inline constexpr const char* held_name = "held";

// Of addresses, gaps among them, or of vertices.
struct PlacesOfThing {
    std::vector<Vec3> at;
    std::vector<std::uint8_t> present;
};
PlacesOfThing places_in(const Value& thing);
// Of points and frames, whose addresses name their places; nullptr of meshes.
const PointLattice* lattice_in(const Value& thing);
// Of its points, nodes or vertices.
const std::vector<Field>& numbers_in(const Value& thing);
// 0 where nothing says that it is held. Error: out_of_range, of a number outside 0 .. 1.
Result<std::vector<double>> firmness_in(const Value& thing);

// The same thing with its places elsewhere, and with a number of places; of numbers on points the points.
// Errors: as of BarFrame::with_nodes().
Result<Value> with_places(const Value& thing, const std::vector<Vec3>& places);
Result<Value> with_number_of_places(const Value& thing, Field number);

// Which places are at its corners or on its border. Errors: wrong_kind, of a thing that has none.
Result<std::vector<std::uint8_t>> corners_of(const Value& thing);
Result<std::vector<std::uint8_t>> border_of(const Value& thing);

// A formula over its places: reads x, y, z, numbers of places, addresses of lattices.
FormulaSite site_on_places(const Value& thing);

}  // namespace plume
