#pragma once
// Families: what is alike within a tolerance.

#include <cstdint>
#include <functional>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct Families {
    std::vector<std::uint32_t> family;  // of each item; no_family where it is left out
    std::size_t count = 0;
};
inline constexpr auto no_family = static_cast<std::uint32_t>(-1);

// Numbers, the smallest first: a family begins with the smallest number left and holds what is no more than
// the tolerance above it, which makes as few of them as can be. Groups have families of their own (`group`,
// one per number; empty: all are of one), one group after the other. Not-finite numbers are left out. O(n log
// n), most of it sorting.
Families families_of(std::span<const double> numbers, std::span<const std::uint32_t> group, double tolerance);

// How many families there would be at each of these tolerances. Sorts once.
std::vector<std::size_t> family_counts(std::span<const double> numbers, std::span<const std::uint32_t> group,
                                       std::span<const double> tolerances);

// Shapes, told by a row of numbers each (of whatever length; other lengths are never alike). `alike` compares
// two rows; their sums may differ by the tolerance times their length at most when they are. Each shape joins
// the first family whose first member it is like, taken in the order of their sums; families are numbered as
// their items come. O(n x families whose sums are near). Error: cancelled.
struct ShapeRows {
    std::vector<std::vector<double>> rows;
    std::function<bool(const std::vector<double>& a, const std::vector<double>& b, double tolerance)> alike;
};
Result<Families> families_of(const ShapeRows& shapes, double tolerance, const Run& run);

// The angles between members at each node, the smallest first; an empty row at gaps. Alike when none differs
// by more.
ShapeRows node_shapes(const BarFrame& frame);

// Faces: for each corner the distances to the corners behind it, in order, and of quadrangles how far the
// second diagonal lies above the first. Two are alike when some turn of one brings all distances within the
// tolerance; `mirrored` also when it is walked the other way round, seen from behind.
ShapeRows face_shapes(const Mesh& mesh, bool mirrored);

}  // namespace plume
