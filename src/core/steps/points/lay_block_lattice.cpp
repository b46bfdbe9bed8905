#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    return points_estimate((in.number("columns") + 1) * (in.number("rows") + 1) * (in.number("layers") + 1));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::array<std::size_t, 3> bays{in.count("columns"), in.count("rows"), in.count("layers")};
    const Vec3 size{in.number("width"), in.number("depth"), in.number("height")};
    const bool centred = in.word("origin") == "centre";
    const Vec3 start = centred ? Vec3{-size.x / 2, -size.y / 2, 0} : Vec3{};
    const auto share = [bays](std::size_t number, std::size_t direction) {
        return static_cast<double>(number) / static_cast<double>(bays[direction]);
    };
    return laid_out(
        {Arrangement::block,
         {bays[0] + 1, bays[1] + 1, bays[2] + 1},
         {},
         {},
         [=](Address at) {
             return start + Vec3{size.x * share(at.i, 0), size.y * share(at.j, 1), size.z * share(at.k, 2)};
         }},
        plane_of(in), run);
}

}  // namespace

StepKind lay_block_lattice() {
    return {
        .key = "lattice.block",
        .verb = "Lay a block lattice",
        .synonyms = "three directions box volume layers points cubic",
        .sentence =
            std::string("Lay a block of {columns} by {rows} by {layers} bays over {width} by {depth} by "
                        "{height}, ") +
            plane_words + " from its {origin}.",
        .slots = with_facing_plane(
            {count_slot("columns", "Bays along i", "8", 1), count_slot("rows", "Bays along j", "8", 1),
             count_slot("layers", "Bays along k", "4", 1), length_above_zero_slot("width", "Width", "12 m"),
             length_above_zero_slot("depth", "Depth", "12 m"),
             length_above_zero_slot("height", "Height", "6 m"),
             choice_slot("origin", "Origin",
                         {{"centre", "centre", "the middle of the base lies at the origin"},
                          {"corner", "corner", "the first point lies at the origin"}})}),
        .results = {Kind::points},
        .result_name = "block",
        .help = "Points in three directions. n bays have n + 1 points; k runs upwards from the plane.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
