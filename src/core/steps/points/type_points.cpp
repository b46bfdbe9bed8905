#include "core/steps/points/table_points.hpp"

namespace plume {
namespace {

// Rows in the order typed are a row or a scatter, as the designer says.
Result<Value> arranged(const PointLattice& points, const std::string& arrangement) {
    if (arrangement == "scatter") return Value(points);
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = points.counts();
    parts.x = points.x();
    parts.y = points.y();
    parts.z = points.z();
    parts.fields = points.fields();
    return as_value(PointLattice::make(std::move(parts)));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto points = points_of_table(in.word("rows"), in, run);
    if (!points) return about_slot(points.error(), "rows");
    return arranged(*points, in.word("arrangement"));
}

}  // namespace

StepKind type_points() {
    return {
        .key = "points.typed",
        .verb = "Type points",
        .synonyms = "paste list coordinates table by hand enter",
        .sentence = "Take the points {rows} as {arrangement}.",
        .slots = {text_slot("rows", "Rows", "x, y, z\n-6, -4, 0\n0, 5, 0\n6, -4, 0"),
                  choice_slot("arrangement", "Arrangement",
                              {{"row", "a row", "each point is the neighbour of the next"},
                               {"scatter", "a scatter", "no point is another's neighbour"}})},
        .results = {Kind::points},
        .result_name = "points",
        .help =
            "Points typed or pasted, one in a line: x, y and z, separated by commas, semicolons, tabs or "
            "spaces. "
            "A first line of names makes further columns fields; a unit in brackets, as in height [mm], is "
            "that of the column.",
        .estimate =
            [](const Inputs& in) {
                // A number takes a few characters in a table and eight bytes in memory.
                const auto size = static_cast<double>(in.word("rows").size());
                return Estimate{size * 4, size * 1e-8};
            },
        .make = make,
    };
}

}  // namespace plume
