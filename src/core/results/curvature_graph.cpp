#include "core/results/curvature_graph.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"

namespace plume {
namespace {

// What is looked through in some ten milliseconds.
constexpr std::size_t most_curves = 24, most_poles = 10'000, samples = 240;

CurvatureLine curvature_along(const SplineCurve& curve) {
    const CurveLength measure(curve);
    const double size = poles_box(curve).diagonal();
    CurvatureLine line;
    for (std::size_t sample = 0; sample <= samples; ++sample) {
        const double at = measure.total() * static_cast<double>(sample) / samples;
        const double curvature = curvature_of(evaluate_bend(curve, measure.parameter_at(at)));
        line.along.push_back(at);
        // What rounding leaves of a straight line.
        line.curvatures.push_back(curvature * size < 1e-9 ? 0 : curvature);
    }
    return line;
}

bool bends(const CurvatureLine& line) {
    return std::ranges::any_of(line.curvatures,
                               [](double number) { return number > 0 && std::isfinite(number); });
}

}  // namespace

std::optional<CurvatureGraph> curvature_graph_of(const Value& value) {
    const auto* set = std::get_if<CurveSet>(&value);
    if (!set || set->curves.empty() || set->curves.size() > most_curves) return {};
    CurvatureGraph graph;
    for (const SplineCurve& curve : set->curves) {
        if (curve.x().size() > most_poles / set->curves.size()) return {};
        graph.push_back(curvature_along(curve));
    }
    if (std::ranges::none_of(graph, bends)) return {};
    return graph;
}

}  // namespace plume
