#include "core/geometry/curves/curve_nodes.hpp"

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/curves/spline_nodes.hpp"

namespace plume {
namespace {

double parameter_of(const SplineCurve& curve, const CurveNode& node) {
    return node_parameters(curve)[node.point];
}

}  // namespace

std::vector<double> node_parameters(const SplineCurve& curve) {
    std::vector<double> parameters = breaks_of(curve.basis());
    if (curve.closed()) parameters.pop_back();
    return parameters;
}

std::size_t node_count(const SplineCurve& curve) {
    const std::vector<double>& nodes = curve.basis().nodes;
    return nodes.empty() ? node_parameters(curve).size() : nodes.size();
}

std::size_t node_count(const CurveSet& set) {
    std::size_t total = 0;
    for (const SplineCurve& curve : set.curves)
        total += node_count(curve);
    return total;
}

CurveNode node_at(const CurveSet& set, std::size_t number) {
    const auto [curve, point] = node_numbered(set.curves, number);
    return {curve, point};
}

std::optional<std::size_t> number_of(const CurveSet& set, const CurveNode& node) {
    if (node.curve >= set.curves.size() || node.point >= node_count(set.curves[node.curve])) return {};
    return number_of_node(set.curves, {node.curve, node.point});
}

Vec3 place_of(const CurveSet& set, const CurveNode& node) {
    const SplineCurve& curve = set.curves[node.curve];
    return evaluate(curve, parameter_of(curve, node)).position;
}

std::vector<double> fields_at(const CurveSet& set, const CurveNode& node) {
    const SplineCurve& curve = set.curves[node.curve];
    const double parameter = parameter_of(curve, node);
    std::vector<double> numbers;
    numbers.reserve(curve.fields().size());
    for (const Field& field : curve.fields())
        numbers.push_back(field_at(curve, field.name, parameter));
    return numbers;
}

double meets_them_to(const CurveSet& set) {
    return rounding_beside(set.curves);
}

}  // namespace plume
