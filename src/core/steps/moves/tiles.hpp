#pragma once
// What was drawn over a rectangle, repeated as tiles side by side before it is mapped.

#include "core/geometry/surfaces/surface_map.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Stands in the sentence.
inline constexpr const char* tile_words = "{tiles}[tiles=many| of {columns} by {rows}, {turned}, {mirrored}]";
// The slots tiles, columns, rows, turned and mirrored, behind those given.
std::vector<SlotSpec> with_tiles(std::vector<SlotSpec> slots);
double tile_count(const Inputs& in);

struct Tiles {
    ValuePointer thing;  // all of them
    FlatRectangle rectangle;
    std::size_t count = 1;
};
// Of the slot `thing`, which lies over the rectangle: a quarter turn of a tile stretches it into its place.
Result<Tiles> tiles_of(const Inputs& in, const FlatRectangle& rectangle, const Run& run);

// Vertices that lie within 1e-9 of the size become one; of other kinds the same.
Result<Value> joints_welded(Value value, double size);

}  // namespace plume
