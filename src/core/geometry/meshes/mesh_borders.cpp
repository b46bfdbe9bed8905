#include "core/geometry/meshes/mesh_borders.hpp"

#include <map>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/solids/bodies.hpp"

namespace plume {
namespace {

using Edges = std::multimap<std::uint32_t, std::uint32_t>;  // to, by from

// From a vertex on until no edge goes on; each edge is used once.
std::vector<std::uint32_t> walked(Edges& edges, std::uint32_t at) {
    std::vector<std::uint32_t> way{at};
    for (auto next = edges.find(at); next != edges.end(); next = edges.find(way.back())) {
        way.push_back(next->second);
        edges.erase(next);
        if (way.back() == way.front()) break;
    }
    return way;
}

// A vertex that more edges leave than come to: where an open border begins; else any.
std::uint32_t begin_of(const Edges& edges, const std::map<std::uint32_t, int>& leave) {
    for (const auto& [from, to] : edges)
        if (const auto found = leave.find(from); found != leave.end() && found->second > 0) return from;
    return edges.begin()->first;
}

}  // namespace

std::vector<std::vector<std::uint32_t>> border_ways(const Mesh& mesh) {
    Edges edges;
    std::map<std::uint32_t, int> leave;
    for (const auto& [from, to] : open_edges(mesh)) {
        edges.emplace(from, to);
        ++leave[from];
        --leave[to];
    }
    std::vector<std::vector<std::uint32_t>> ways;
    while (!edges.empty()) {
        const std::uint32_t begin = begin_of(edges, leave);
        ways.push_back(walked(edges, begin));
        --leave[begin];
        ++leave[ways.back().back()];
    }
    return ways;
}

CurveSet borders_of(const Mesh& mesh) {
    CurveSet borders;
    for (const std::vector<std::uint32_t>& way : border_ways(mesh)) {
        CurvePoints points;
        points.closed = way.front() == way.back() && way.size() > 3;
        for (std::size_t at = 0; at + (points.closed ? 1 : 0) < way.size(); ++at)
            points.points.push_back(mesh.vertex(way[at]));
        if (auto line = curve_through(std::move(points), CurveShape::straight))
            borders.curves.push_back(*std::move(line));
    }
    return borders;
}

}  // namespace plume
