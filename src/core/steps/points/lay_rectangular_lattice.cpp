#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    return points_estimate((in.number("columns") + 1) * (in.number("rows") + 1));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::size_t bays_i = in.count("columns"), bays_j = in.count("rows");
    const bool spaced = in.word("sizing") == "spaced";
    const double width = spaced ? in.number("pitch_u") * static_cast<double>(bays_i) : in.number("width");
    const double depth = spaced ? in.number("pitch_v") * static_cast<double>(bays_j) : in.number("depth");
    const bool centred = in.word("origin") == "centre";
    const Vec3 start = centred ? Vec3{-width / 2, -depth / 2, 0} : Vec3{};
    const double step_i = width / static_cast<double>(bays_i), step_j = depth / static_cast<double>(bays_j);
    // Multiplied out rather than added up, so that the last point is where it should be.
    return laid_out(
        {Arrangement::grid,
         {bays_i + 1, bays_j + 1, 1},
         {},
         {},
         [=](Address at) {
             return start + Vec3{step_i * static_cast<double>(at.i), step_j * static_cast<double>(at.j), 0};
         }},
        plane_of(in), run);
}

}  // namespace

StepKind lay_rectangular_lattice() {
    return {
        .key = "lattice.rectangular",
        .verb = "Lay a rectangular lattice",
        .synonyms = "grid points rows columns bays array rectangle",
        .sentence =
            std::string("Lay a lattice of {columns} by {rows} bays {sizing} [sizing=over|{width} by {depth}]"
                        "[sizing=spaced|{pitch_u} by {pitch_v}], ") +
            plane_words + " from its {origin}.",
        .slots = with_facing_plane(
            {count_slot("columns", "Bays along i", "24", 1), count_slot("rows", "Bays along j", "16", 1),
             choice_slot("sizing", "Sizing",
                         {{"over", "over", "the whole size is given"},
                          {"spaced", "spaced", "the size of one bay is given"}}),
             length_above_zero_slot("width", "Width", "36 m"),
             length_above_zero_slot("depth", "Depth", "24 m"),
             length_above_zero_slot("pitch_u", "Bay along i", "1.5 m"),
             length_above_zero_slot("pitch_v", "Bay along j", "1.5 m"), origin_slot()}),
        .results = {Kind::points},
        .result_name = "lattice",
        .help =
            "Points in rows and columns. n bays have n + 1 points. i runs along the plane's first axis, j "
            "along its "
            "second.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
