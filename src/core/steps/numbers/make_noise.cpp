#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/numbers/noise_field.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

struct NoisePlaces {
    Column x, y, z;
};

Column divided(const Column& column, double by) {
    Doubles values(column.size());
    for (std::size_t index = 0; index < values.size(); ++index)
        values[index] = column[index] / by;
    return values;
}

// Bays along each direction in cells; a closed direction gets a whole number of them, so that it has no seam.
NoisePlaces places_by_address(const PointLattice& points, double bays_per_cell, NoiseRule& rule) {
    std::array<double, 3> cells_per_bay{};
    for (std::size_t d = 0; d < 3; ++d) {
        cells_per_bay[d] = 1 / bays_per_cell;
        if (!points.closed(static_cast<int>(d))) continue;
        const auto bays = static_cast<double>(points.counts()[d]);
        rule.period[d] = static_cast<std::uint32_t>(std::clamp(std::round(bays / bays_per_cell), 1.0, 1e6));
        cells_per_bay[d] = rule.period[d] / bays;
    }
    Doubles x(points.address_count()), y(x.size()), z(x.size());
    for (std::size_t index = 0; index < x.size(); ++index) {
        const Address at = points.address(index);
        x[index] = static_cast<double>(at.i) * cells_per_bay[0];
        y[index] = static_cast<double>(at.j) * cells_per_bay[1];
        z[index] = static_cast<double>(at.k) * cells_per_bay[2];
    }
    return {std::move(x), std::move(y), std::move(z)};
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {points * 4 * sizeof(double), points * in.number("octaves") * 2e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    NoiseRule rule;
    rule.octaves = static_cast<int>(in.count("octaves"));
    rule.roughness = in.number("roughness");
    rule.seed = static_cast<std::uint64_t>(in.number("seed"));
    NoisePlaces places;
    if (in.word("over") == "places") {
        const double scale = in.number("scale");
        places = {divided(points.x(), scale), divided(points.y(), scale), divided(points.z(), scale)};
    } else {
        places = places_by_address(points, in.number("bays"), rule);
    }
    Result<Doubles> values = fractal_noise(places.x, places.y, places.z, rule, run);
    if (!values) return values.error();
    Field field{in.result_name(), *std::move(values), plain_number};
    return Value(FieldOnPoints{points.with_field(std::move(field)), in.result_name()});
}

SlotSpec between(SlotSpec slot, double least, double most) {
    slot.least = least;
    slot.most = most;
    return slot;
}

}  // namespace

StepKind make_noise() {
    SlotSpec bays = number_slot("bays", "Bays of a bump", "6");
    bays.least = 0;
    bays.above_least = true;
    return {
        .key = "field.noise",
        .verb = "Make noise",
        .synonyms = "gradient noise fractal octaves terrain rough random smooth hills",
        .sentence =
            "Make noise over the {over} of {points} [over=places|with bumps of {scale}]"
            "[over=rows|with bumps of {bays} bays], {octaves} octaves of roughness {roughness}, from seed "
            "{seed}.",
        .slots = {choice_slot(
                      "over", "Over",
                      {{"places", "places", "x, y and z"},
                       {"rows", "rows and columns", "the address; without a seam where a direction closes"}}),
                  reference_slot("points", "Points", {Kind::points, Kind::field}),
                  length_above_zero_slot("scale", "Scale", "6 m"), bays,
                  between(count_slot("octaves", "Octaves", "4", 1), 1, 12),
                  between(number_slot("roughness", "Roughness", "0.5"), 0, 1),
                  seed_slot("seed", "Seed", "1")},
        .results = {Kind::field},
        .result_name = "hills",
        .help =
            "Smooth random hills, from -1 to 1. Each octave is twice as fine as the one before and as much "
            "weaker "
            "as the roughness says.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
