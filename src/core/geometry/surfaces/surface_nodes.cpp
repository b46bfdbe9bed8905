#include "core/geometry/surfaces/surface_nodes.hpp"

#include <algorithm>

#include "core/geometry/curves/spline_nodes.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"

namespace plume {
namespace {

std::pair<double, double> parameters_of(const SplinePatch& patch, const SurfaceNode& node) {
    return {patch.u().nodes[node.a], patch.v().nodes[node.b]};
}

}  // namespace

std::size_t node_count(const SplinePatch& patch) {
    return patch.trimmed() ? 0 : patch.u().nodes.size() * patch.v().nodes.size();
}

std::size_t node_count(const SurfaceSet& set) {
    std::size_t total = 0;
    for (const SplinePatch& patch : set.patches) {
        const std::size_t count = node_count(patch);
        if (count == 0) return 0;
        total += count;
    }
    return total;
}

SurfaceNode node_at(const SurfaceSet& set, std::size_t number) {
    const auto [patch, node] = node_numbered(set.patches, number);
    const std::size_t along_u = set.patches[patch].u().nodes.size();
    return {patch, node % along_u, node / along_u};
}

std::optional<std::size_t> number_of(const SurfaceSet& set, const SurfaceNode& node) {
    if (node_count(set) == 0 || node.patch >= set.patches.size()) return {};
    const SplinePatch& patch = set.patches[node.patch];
    if (node.a >= patch.u().nodes.size() || node.b >= patch.v().nodes.size()) return {};
    return number_of_node(set.patches, {node.patch, node.a + node.b * patch.u().nodes.size()});
}

double meets_them_to(const SurfaceSet& set) {
    return rounding_beside(set.patches);
}

Vec3 place_of(const SurfaceSet& set, const SurfaceNode& node) {
    const auto [u, v] = parameters_of(set.patches[node.patch], node);
    return evaluate(set.patches[node.patch], u, v).position;
}

std::vector<double> fields_at(const SurfaceSet& set, const SurfaceNode& node) {
    const auto [u, v] = parameters_of(set.patches[node.patch], node);
    const auto there = sample_on(set.patches[node.patch], {{u}, {1}}, {{v}, {1}}, Run());
    std::vector<double> numbers;
    if (!there) return numbers;
    for (const Field& field : there->fields)
        numbers.push_back(field.values[0]);
    return numbers;
}

std::size_t nearest_node(const SplineBasis& basis, double parameter) {
    const std::vector<double>& nodes = basis.nodes;
    const auto above = std::ranges::lower_bound(nodes, parameter);
    if (above == nodes.begin()) return 0;
    const double next = above != nodes.end() ? *above : basis.end();
    const auto before = static_cast<std::size_t>(above - nodes.begin()) - 1;
    if (parameter - nodes[before] <= next - parameter) return before;
    return above != nodes.end() ? before + 1 : basis.closed ? 0 : before;
}

}  // namespace plume
