#include <cmath>

#include "core/base/parallel.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

struct Layout {
    std::size_t columns, rows;  // points
    double start_u, start_v;    // of the first point along the plane's two axes
    double step_u, step_v;
    std::string plane;
};

Layout layout_of(const Inputs& in) {
    const std::size_t bays_u = in.count("columns"), bays_v = in.count("rows");
    const bool spaced = in.word("sizing") == "spaced";
    const double width = spaced ? in.number("pitch_u") * static_cast<double>(bays_u) : in.number("width");
    const double depth = spaced ? in.number("pitch_v") * static_cast<double>(bays_v) : in.number("depth");
    const bool centred = in.word("origin") == "centre";
    return {bays_u + 1,
            bays_v + 1,
            centred ? -width / 2 : 0,
            centred ? -depth / 2 : 0,
            width / static_cast<double>(bays_u),
            depth / static_cast<double>(bays_v),
            in.word("plane")};
}

Estimate estimate(const Inputs& in) {
    const double points = (in.number("columns") + 1) * (in.number("rows") + 1);
    return {points * 3 * sizeof(double), points * 2e-9};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Layout layout = layout_of(in);
    const std::size_t count = layout.columns * layout.rows;
    Doubles u(count), v(count), w(count);
    const bool finished =
        parallel_blocks(layout.rows, std::max<std::size_t>(1, usual_block / layout.columns), run,
                        [&](std::size_t begin, std::size_t end) {
                            for (std::size_t j = begin; j < end; ++j)
                                for (std::size_t i = 0; i < layout.columns; ++i) {
                                    // Multiplied out rather than added up, so that the last point is where it
                                    // should be.
                                    const std::size_t index = i + layout.columns * j;
                                    u[index] = layout.start_u + layout.step_u * static_cast<double>(i);
                                    v[index] = layout.start_v + layout.step_v * static_cast<double>(j);
                                    w[index] = 0;
                                }
                        });
    if (!finished) return cancelled_error();
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::grid;
    parts.counts = {layout.columns, layout.rows, 1};
    Column along_u(std::move(u)), along_v(std::move(v)), zero(std::move(w));
    parts.x = layout.plane == "yz" ? zero : along_u;
    parts.y = layout.plane == "xy" ? along_v : (layout.plane == "yz" ? along_u : zero);
    parts.z = layout.plane == "xy" ? zero : along_v;
    Result<PointLattice> lattice = PointLattice::make(std::move(parts));
    if (!lattice) return lattice.error();
    return Value(*std::move(lattice));
}

}  // namespace

StepKind lay_rectangular_lattice() {
    return {
        .key = "lattice.rectangular",
        .verb = "Lay a rectangular lattice",
        .synonyms = "grid points rows columns bays array rectangle",
        .sentence =
            "Lay a lattice of {columns} by {rows} bays {sizing} [sizing=over|{width} by {depth}]"
            "[sizing=spaced|{pitch_u} by {pitch_v}], on the {plane} plane from its {origin}.",
        .slots = {count_slot("columns", "Bays along i", "24", 1), count_slot("rows", "Bays along j", "16", 1),
                  choice_slot("sizing", "Sizing",
                              {{"over", "over", "the whole size is given"},
                               {"spaced", "spaced", "the size of one bay is given"}}),
                  length_above_zero_slot("width", "Width", "36 m"),
                  length_above_zero_slot("depth", "Depth", "24 m"),
                  length_above_zero_slot("pitch_u", "Bay along i", "1.5 m"),
                  length_above_zero_slot("pitch_v", "Bay along j", "1.5 m"),
                  choice_slot("plane", "Plane",
                              {{"xy", "XY", "flat on the ground"},
                               {"xz", "XZ", "upright, facing along Y"},
                               {"yz", "YZ", "upright, facing along X"}}),
                  choice_slot("origin", "Origin",
                              {{"centre", "centre", "the middle lies at the origin"},
                               {"corner", "corner", "the first point lies at the origin"}})},
        .results = {Kind::points},
        .result_name = "lattice",
        .help =
            "Points in rows and columns. n bays have n + 1 points. i runs along the plane's first axis, j "
            "along "
            "its second.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .formula_place = {},
    };
}

}  // namespace plume
