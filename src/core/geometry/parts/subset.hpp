#pragma once
// Some of the points of a lattice.

#include <cstdint>
#include <span>
#include <vector>

#include "core/data/point_lattice.hpp"

namespace plume {

// The same arrangement with gaps where `mask` (one entry per address) is 0, besides the gaps it had.
PointLattice with_gaps(const PointLattice& lattice, const std::vector<std::uint8_t>& mask);

// Without its gaps: whole rows, columns or layers that are gone are taken out and the arrangement stays, if
// no gap is left then; otherwise the points are a scatter, or a row if they were one. A closed direction that
// lost points is open.
PointLattice closed_up(const PointLattice& lattice);

// Points by address in another arrangement: entry n of `from` is the old address of the new address n, or
// `no_address` for a gap. Fields come along.
inline constexpr std::size_t no_address = static_cast<std::size_t>(-1);
struct Shape {
    Arrangement arrangement = Arrangement::grid;
    std::array<std::size_t, 3> counts{0, 1, 1};
    std::array<bool, 3> closed{false, false, false};
};
Shape shape_of(const PointLattice& lattice);
// New points, one place per address of the shape.
PointLattice points_at(const Shape& shape, std::span<const Vec3> places);

// The points that are present and finite, with their addresses.
struct FinitePoints {
    std::vector<Vec3> places;
    std::vector<std::size_t> addresses;
};
FinitePoints finite_points(const PointLattice& lattice);

PointLattice rearranged(const PointLattice& lattice, const Shape& shape,
                        const std::vector<std::size_t>& from);

// Points that are weighted means of old ones, in a new arrangement: entry n has the old addresses
// from[first[n]] .. from[first[n + 1] - 1] with these weights; an empty one is a gap. Fields are blended,
// too.
struct Blends {
    std::vector<std::size_t> first{0};
    std::vector<std::size_t> from;
    std::vector<double> weights;
    void add(std::size_t address, double weight) {
        from.push_back(address);
        weights.push_back(weight);
    }
    void end() { first.push_back(from.size()); }
};
PointLattice blended(const PointLattice& lattice, const Shape& shape, const Blends& blends);

// Points of `whole` that `part` does not have. They have the same arrangement.
PointLattice left_over(const PointLattice& whole, const PointLattice& part);

}  // namespace plume
