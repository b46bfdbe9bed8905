#include "core/geometry/curves/curve_sampling.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

// Many thousands would make every distance slow; a curve through them is one.
constexpr std::size_t most_points = 100'000;

Attractor path_of(const SplineCurve& curve, std::string name, double weight) {
    CurveSamples samples = sample(curve, usual_tolerance(curve) / 4);
    if (samples.closed) samples.points.push_back(samples.points.front());
    const Vec3 first = samples.points.front();
    return {std::move(name), first, weight,
            std::make_shared<const std::vector<Vec3>>(std::move(samples.points))};
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const double weight = in.number("weight");
    std::vector<Attractor> items;
    if (const auto* set = std::get_if<CurveSet>(&in.value("source"))) {
        for (const SplineCurve& curve : set->curves)
            items.push_back(path_of(curve, "curve " + std::to_string(items.size() + 1), weight));
    } else {
        const PointLattice& points = in.lattice("source");
        if (points.point_count() > most_points)
            return about_slot(Error{ErrorCode::over_budget, "",
                                    "has " + std::to_string(points.point_count()) +
                                        " points, and 100 000 attractors are the most",
                                    "Join them into a curve, or keep fewer."},
                              "source");
        for (std::size_t index = 0; index < points.address_count(); ++index)
            if (points.present(index))
                items.push_back({"point " + std::to_string(items.size() + 1), points.point(index), weight});
    }
    Result<Attractors> attractors = Attractors::make(std::move(items));
    if (!attractors) return about_slot(attractors.error(), "weight");
    return Value(*std::move(attractors));
}

}  // namespace

StepKind attract_by_result() {
    return {
        .key = "attractors.result",
        .verb = "Make attractors of a result",
        .synonyms = "lines curves points path magnets source",
        .sentence = "Take {source} as attractors with weight {weight}.",
        .slots = {reference_slot("source", "Source",
                                 {Kind::points, Kind::curves, Kind::field, Kind::placements}),
                  number_slot("weight", "Weight", "1")},
        .results = {Kind::attractors},
        .result_name = "attractors",
        .help =
            "Attractors from an earlier result: each point one, or each curve one whose nearest place "
            "counts. A "
            "weight below 0 turns their answer round.",
        .estimate =
            [](const Inputs& in) {
                double samples = 0;
                if (const auto* set = std::get_if<CurveSet>(&in.value("source")))
                    for (const SplineCurve& curve : set->curves)
                        samples += static_cast<double>(sample_count(curve, usual_tolerance(curve) / 4));
                else
                    samples = static_cast<double>(in.lattice("source").point_count()) * 6;
                return Estimate{samples * sizeof(Vec3), samples * 1e-7};
            },
        .make = make,
    };
}

}  // namespace plume
