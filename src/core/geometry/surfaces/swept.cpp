#include "core/geometry/surfaces/swept.hpp"
#include "core/geometry/moves/transformed.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/measures/golden_section.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {
namespace {

Result<SplineCurve> moved(const SplineCurve& profile, const Affine& map) {
    Result<Value> value = transformed(Value(CurveSet{{profile}}), map);
    if (!value) return value.error();
    return std::get<CurveSet>(*value).curves.front();
}

// The distance of a place from the curve of one u between two parameters across: by golden section.
double distance_between(const PatchEvaluator& patch, double u, double low, double high, Vec3 place) {
    const auto distance = [&](double v) { return length(patch.at(u, v).position - place); };
    return distance(golden_section(low, high, 40, distance));
}

}  // namespace

Result<Swept> swept(const SplineCurve& profile, std::span<const Affine> stations, bool closed,
                    const Run& run) {
    if (stations.size() < 3)
        return Error{ErrorCode::too_few_points, "", "A sweep needs three stations",
                     "Give the rail a length."};
    Loft loft;
    loft.closed = closed;
    for (std::size_t station = 0; station < stations.size(); station += 2) {
        Result<SplineCurve> section = moved(profile, stations[station]);
        if (!section) return section.error();
        loft.sections.push_back(*std::move(section));
    }
    Result<SplinePatch> patch = lofted(loft, run);
    if (!patch) return patch.error();
    Swept made{*std::move(patch), 0};
    const PatchEvaluator evaluator(made.patch);
    const SplineBasis &u = made.patch.u(), &v = made.patch.v(), &along = profile.basis();
    std::vector<double> nodes = v.nodes;
    nodes.push_back(v.end());
    for (std::size_t station = 1; station < stations.size(); station += 2) {
        if (run.cancelled()) return cancelled_error();
        for (const double share : {0.1, 0.37, 0.5, 0.81}) {
            const Vec3 place = stations[station].at(
                evaluate(profile, std::lerp(along.start(), along.end(), share)).position);
            const double off = distance_between(evaluator, std::lerp(u.start(), u.end(), share),
                                                nodes[station / 2], nodes[station / 2 + 1], place);
            made.deviation = std::max(made.deviation, off);
        }
    }
    return made;
}

}  // namespace plume
