#include <numbers>

#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

// Height of a row over its bay where triangles are to be equilateral.
const double equilateral = std::numbers::sqrt3 / 2;

Estimate estimate(const Inputs& in) {
    return points_estimate((in.number("columns") + 1) * (in.number("rows") + 1));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::size_t columns = in.count("columns") + 1, rows = in.count("rows") + 1;
    const bool spaced = in.word("sizing") == "spaced";
    // Odd rows stand half a bay further, so the whole is half a bay wider than its bays.
    const double bay = spaced ? in.number("side") : in.number("width") / (static_cast<double>(columns) - 0.5);
    const double rise = spaced ? bay * equilateral : in.number("depth") / static_cast<double>(rows - 1);
    const double width = bay * (static_cast<double>(columns) - 0.5),
                 depth = rise * static_cast<double>(rows - 1);
    const bool centred = in.word("origin") == "centre";
    const Vec3 start = centred ? Vec3{-width / 2, -depth / 2, 0} : Vec3{};
    return laid_out({Arrangement::triangular,
                     {columns, rows, 1},
                     {},
                     {},
                     [=](Address at) {
                         const double shift = at.j % 2 == 1 ? 0.5 : 0;
                         return start + Vec3{bay * (static_cast<double>(at.i) + shift),
                                             rise * static_cast<double>(at.j), 0};
                     }},
                    plane_of(in), run);
}

}  // namespace

StepKind lay_triangular_lattice() {
    return {
        .key = "lattice.triangular",
        .verb = "Lay a triangular lattice",
        .synonyms = "grid points equilateral triangles staggered offset rows isometric",
        .sentence = std::string("Lay a triangular lattice of {columns} by {rows} bays {sizing} "
                                "[sizing=spaced|{side}][sizing=over|{width} by {depth}], ") +
                    plane_words + " from its {origin}.",
        .slots = with_facing_plane({count_slot("columns", "Bays along i", "24", 1),
                                    count_slot("rows", "Bays along j", "16", 1),
                                    choice_slot("sizing", "Sizing",
                                                {{"spaced", "spaced", "equilateral triangles of this side"},
                                                 {"over", "over", "the whole size is given"}}),
                                    length_above_zero_slot("side", "Side of a triangle", "1.5 m"),
                                    length_above_zero_slot("width", "Width", "36 m"),
                                    length_above_zero_slot("depth", "Depth", "24 m"), origin_slot()}),
        .results = {Kind::points},
        .result_name = "lattice",
        .help =
            "Rows of points, every other one half a bay further: each point has six neighbours. n bays along "
            "i "
            "have n + 1 points in every row; the triangles between the rows are skinned as they are.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
