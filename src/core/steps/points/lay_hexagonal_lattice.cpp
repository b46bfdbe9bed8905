#include <numbers>

#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    return points_estimate((2 * in.number("columns") + 2) * (in.number("rows") + 1));
}

// A honeycomb is a brick wall bent: rows of zigzag, joined upwards where i + j is even. Of the first and the
// last row one end belongs to no hexagon.
std::vector<std::uint8_t> without_loose_ends(std::size_t columns, std::size_t rows) {
    std::vector<std::uint8_t> present(columns * rows, 1);
    present[columns - 1] = 0;
    present[columns * (rows - 1) + (rows % 2 == 0 ? columns - 1 : 0)] = 0;
    return present;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::size_t across = in.count("columns"), up = in.count("rows");
    const std::size_t columns = 2 * across + 2, rows = up + 1;
    const double side = in.number("side"), step = side * std::numbers::sqrt3 / 2;
    const double width = step * static_cast<double>(columns - 1),
                 depth = 1.5 * side * static_cast<double>(up);
    const Vec3 start = in.word("origin") == "centre" ? Vec3{-width / 2, -depth / 2, 0} : Vec3{0, side / 4, 0};
    return laid_out({Arrangement::hexagonal,
                     {columns, rows, 1},
                     {},
                     without_loose_ends(columns, rows),
                     [=](Address at) {
                         const double swing = (at.i + at.j) % 2 == 0 ? side / 4 : -side / 4;
                         return start + Vec3{step * static_cast<double>(at.i),
                                             1.5 * side * static_cast<double>(at.j) + swing, 0};
                     }},
                    plane_of(in), run);
}

}  // namespace

StepKind lay_hexagonal_lattice() {
    return {
        .key = "lattice.hexagonal",
        .verb = "Lay a hexagonal lattice",
        .synonyms = "honeycomb hexagons cells comb points",
        .sentence = std::string("Lay a honeycomb of {columns} by {rows} hexagons with sides of {side}, ") +
                    plane_words + " from its {origin}.",
        .slots = with_facing_plane({count_slot("columns", "Hexagons along i", "12", 1),
                                    count_slot("rows", "Hexagons along j", "10", 1),
                                    length_above_zero_slot("side", "Side", "1 m"), origin_slot()}),
        .results = {Kind::points},
        .result_name = "comb",
        .help =
            "The corners of hexagons: each point has three neighbours. Rows run in zigzag along i. Take the "
            "cell centres of it for points in the hexagons.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
