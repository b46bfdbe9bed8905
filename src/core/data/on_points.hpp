#pragma once
// Kinds of result that stand on the points of a lattice: numbers on points, directions on points.

#include <concepts>

#include "core/data/value.hpp"

namespace plume {

// Wherever nothing else is said of such a kind, what holds of its points holds of it.
template <class Item>
concept OnPoints = requires(const Item& item) {
    { item.points } -> std::same_as<const PointLattice&>;
    { item.name } -> std::same_as<const std::string&>;
};

}  // namespace plume
