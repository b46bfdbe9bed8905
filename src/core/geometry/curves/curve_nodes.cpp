#include "core/geometry/curves/curve_nodes.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"

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
    std::size_t curve = 0;
    for (; number >= node_count(set.curves[curve]); ++curve)
        number -= node_count(set.curves[curve]);
    return {curve, number};
}

std::optional<std::size_t> number_of(const CurveSet& set, const CurveNode& node) {
    if (node.curve >= set.curves.size() || node.point >= node_count(set.curves[node.curve])) return {};
    std::size_t number = node.point;
    for (std::size_t before = 0; before < node.curve; ++before)
        number += node_count(set.curves[before]);
    return number;
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

double rounding_beside(std::initializer_list<const Column*> coordinates) {
    double largest = 0;
    for (const Column* column : coordinates)
        for (const double coordinate : column->span())
            largest = std::max(largest, std::abs(coordinate));
    return 1e-10 * largest;
}

double meets_them_to(const CurveSet& set) {
    double most = 0;
    for (const SplineCurve& curve : set.curves)
        most = std::max(most, rounding_beside({&curve.x(), &curve.y(), &curve.z()}));
    return most;
}

}  // namespace plume
