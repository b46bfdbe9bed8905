#include "core/geometry/points/poisson_disc.hpp"
#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const auto outline = Outline::make(in.held<CurveSet>("outline"));
    const double count = outline ? poisson_estimate(*outline, in.number("spacing")) : 1;
    return {count * 5 * sizeof(double), count * 6e-6};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto outline = Outline::make(in.held<CurveSet>("outline"));
    if (!outline) return about_slot(outline.error(), "outline");
    const auto flat =
        poisson_points(*outline, in.number("spacing"), static_cast<std::uint64_t>(in.number("seed")), run);
    if (!flat) return about_slot(flat.error(), "spacing");
    std::vector<Vec3> places;
    places.reserve(flat->size());
    for (const FlatPoint point : *flat)
        places.push_back({point.x, point.y, 0});
    return laid_out(Arrangement::scatter, places, false, outline->plane());
}

}  // namespace

StepKind scatter_points() {
    return {
        .key = "lattice.scatter",
        .verb = "Scatter points in an outline",
        .synonyms = "poisson disc random blue noise spread sprinkle",
        .sentence = "Scatter points in {outline}, at least {spacing} apart, from seed {seed}.",
        .slots = {reference_slot("outline", "Outline", {Kind::curves}),
                  length_above_zero_slot("spacing", "Spacing", "1 m"), seed_slot("seed", "Seed", "1")},
        .results = {Kind::points},
        .result_name = "scatter",
        .help =
            "Random points that keep a smallest distance from each other, filling the outline. Another seed "
            "is "
            "another throw; the same seed is always the same points.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
