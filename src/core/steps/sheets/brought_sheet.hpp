#pragma once
// What the steps share whose sheets are brought into a form in space.

#include "core/sheets/sheet.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// As its edges are to be, and as it lies before that; in lengths of an edge, so that it folds alike in
// whatever units.
struct SheetToBring {
    Mesh::Parts parts;  // of what is made of it, without places
    // What it gives way by: its vertices first, perhaps others behind them.
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<Vec3> from;
    RestLengths rest;              // but between vertices that are held
    std::vector<char> held;        // vertices that stay; may be empty
    std::size_t vertex_count = 0;  // of what is made of it
    std::string from_slot;         // that says where it lies
};

// Faces by their corners, each a range.
template <class Faces>
void add_faces(Mesh::Parts& parts, const Faces& faces) {
    for (const auto& corners : faces) {
        parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
}

// Slots `edge`, `spread` and `seed`, and what sentences say of them.
inline constexpr const char* brought_text =
    "its edges {edge} long[more|, alike within {spread}], from seed {seed}.";
std::vector<SlotSpec> with_brought_slots(std::vector<SlotSpec> slots);

// Never crosses itself. Remark: how much its edges differ. Errors: those of make_sheet(), not_converged (it
// crosses itself as it lies), cancelled.
Result<Value> brought(SheetToBring sheet, const Inputs& in, const Run& run);
// Of so many vertices, whose edges begin that many times shorter than they are to be, or longer.
Estimate brought_estimate(double vertices, double times);

}  // namespace plume
