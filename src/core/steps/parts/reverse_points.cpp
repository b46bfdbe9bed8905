#include "core/geometry/parts/subset.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

// Rows of triangular and hexagonal lattices stand shifted by turns: turned round they would belong to others.
bool keeps_its_neighbours(const PointLattice& points) {
    return points.arrangement() != Arrangement::triangular && points.arrangement() != Arrangement::hexagonal;
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const PointLattice& points = in.lattice("points");
    const std::string& direction = in.word("direction");
    if (!keeps_its_neighbours(points))
        return about_slot(Error{ErrorCode::wrong_kind, "",
                                "are " + arrangement_text(points) +
                                    ": its rows stand shifted by turns and cannot be turned round",
                                "Reverse points of a row, grid, polar lattice or block, or sort them."},
                          "points");
    std::vector<std::size_t> from(points.address_count());
    for (std::size_t index = 0; index < from.size(); ++index) {
        Address at = points.address(index);
        if (direction == "i" || direction == "all") at.i = points.counts()[0] - 1 - at.i;
        if (direction == "j" || direction == "all") at.j = points.counts()[1] - 1 - at.j;
        if (direction == "k" || direction == "all") at.k = points.counts()[2] - 1 - at.k;
        from[index] = points.index(at);
    }
    return Value(rearranged(points, shape_of(points), from));
}

}  // namespace

StepKind reverse_points() {
    return {
        .key = "points.reverse",
        .verb = "Reverse points",
        .synonyms = "flip turn round order direction backwards",
        .sentence = "Reverse {points} along {direction}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("direction", "Direction",
                              {{"i", "i", "each row from its end"},
                               {"j", "j", "the last row first"},
                               {"k", "k", "the last layer first"},
                               {"all", "every direction", "the last point first"}})},
        .results = {Kind::points},
        .result_name = "reversed",
        .help =
            "The same points with their addresses turned round along a direction; neighbours stay "
            "neighbours. "
            "Normals turn over with one direction.",
        .estimate =
            [](const Inputs& in) {
                const auto bytes = static_cast<double>(bytes_of(in.value("points")));
                return Estimate{bytes + 8 * static_cast<double>(in.lattice("points").address_count()),
                                bytes * 1e-9};
            },
        .make = make,
    };
}

}  // namespace plume
