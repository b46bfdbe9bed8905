#include "core/geometry/meshes/mesh_borders.hpp"

#include <map>
#include <optional>
#include <set>

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

// How many more edges leave a vertex than come to it: where it is above 0 an open border begins.
class Begins {
public:
    void add(std::uint32_t vertex, int edges) {
        int& leaving = leaving_[vertex];
        leaving += edges;
        if (leaving > 0)
            begins_.insert(vertex);
        else
            begins_.erase(vertex);
    }
    std::optional<std::uint32_t> first() const {
        return begins_.empty() ? std::nullopt : std::optional(*begins_.begin());
    }

private:
    std::map<std::uint32_t, int> leaving_;
    std::set<std::uint32_t> begins_;
};

}  // namespace

std::vector<std::vector<std::uint32_t>> border_ways(const Mesh& mesh) {
    Edges edges;
    Begins begins;
    for (const auto& [from, to] : open_edges(mesh)) {
        edges.emplace(from, to);
        begins.add(from, 1);
        begins.add(to, -1);
    }
    std::vector<std::vector<std::uint32_t>> ways;
    while (!edges.empty()) {
        const std::uint32_t begin = begins.first().value_or(edges.begin()->first);
        ways.push_back(walked(edges, begin));
        begins.add(begin, -1);
        begins.add(ways.back().back(), 1);
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
