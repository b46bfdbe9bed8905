#include "core/geometry/levels/nesting.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"

namespace plume {
namespace {

// Of a line's size: how finely it is followed.
constexpr double followed_share = 1e-4;

struct Edge {
    Vec3 from, to;
    std::uint32_t line = 0;
};

// Edges of closed lines in strips along x; each is in every strip it reaches.
class Strips {
public:
    Strips(const std::vector<Edge>& edges, double low, double high)
        : edges_(edges),
          low_(low),
          count_(std::clamp<std::size_t>(
              static_cast<std::size_t>(std::sqrt(static_cast<double>(edges.size()))), 1, 1U << 14U)),
          height_((high - low) / static_cast<double>(count_)),
          starts_(count_ + 1, 0) {
        for (const Edge& edge : edges)
            for_each_strip(edge, [&](std::size_t strip) { ++starts_[strip + 1]; });
        for (std::size_t strip = 0; strip < count_; ++strip)
            starts_[strip + 1] += starts_[strip];
        members_.resize(starts_.back());
        std::vector<std::size_t> next(starts_.begin(), starts_.end() - 1);
        for (std::uint32_t edge = 0; edge < edges.size(); ++edge)
            for_each_strip(edges[edge], [&](std::size_t strip) { members_[next[strip]++] = edge; });
    }

    // The lines a ray from a place crosses, as often as it does.
    void crossed(Vec3 place, std::vector<std::uint32_t>& lines) const {
        lines.clear();
        const std::size_t strip = strip_of(place.y);
        for (std::size_t at = starts_[strip]; at < starts_[strip + 1]; ++at) {
            const Edge& edge = edges_[members_[at]];
            if ((edge.from.y > place.y) == (edge.to.y > place.y)) continue;
            const double share = (place.y - edge.from.y) / (edge.to.y - edge.from.y);
            if (std::lerp(edge.from.x, edge.to.x, share) > place.x) lines.push_back(edge.line);
        }
    }

private:
    std::size_t strip_of(double y) const {
        const double strip = (y - low_) / height_;
        return strip > 0 ? std::min(static_cast<std::size_t>(strip), count_ - 1) : 0;
    }
    template <class Each>
    void for_each_strip(const Edge& edge, const Each& each) const {
        const std::size_t last = strip_of(std::max(edge.from.y, edge.to.y));
        for (std::size_t strip = strip_of(std::min(edge.from.y, edge.to.y)); strip <= last; ++strip)
            each(strip);
    }

    const std::vector<Edge>& edges_;
    double low_;
    std::size_t count_;
    double height_;
    std::vector<std::size_t> starts_;
    std::vector<std::uint32_t> members_;
};

// What is known of a line, seen in plan.
struct Plan {
    std::vector<Vec3> points;
    double area = 0;
};
Plan plan_of(const SplineCurve& curve, const Placement& view) {
    Plan plan;
    for (const Vec3 point : sample(curve, followed_share * poles_box(curve).diagonal()).points)
        plan.points.push_back(view.to_local(point));
    for (std::size_t at = 0; at < plan.points.size(); ++at) {
        const Vec3 a = plan.points[at], b = plan.points[(at + 1) % plan.points.size()];
        plan.area += (a.x * b.y - b.x * a.y) / 2;
    }
    plan.area = std::abs(plan.area);
    return plan;
}

}  // namespace

Result<std::vector<Nesting>> nesting_of(std::span<const SplineCurve> curves,
                                        std::span<const std::size_t> levels, const Placement& view,
                                        const Run& run) {
    std::vector<Plan> plans(curves.size());
    bool done = parallel_blocks(curves.size(), 16, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t line = begin; line < end; ++line)
            plans[line] = plan_of(curves[line], view);
    });
    if (!done) return cancelled_error();
    std::vector<Edge> edges;
    double low = std::numeric_limits<double>::infinity(), high = -low;
    for (std::uint32_t line = 0; line < plans.size(); ++line) {
        const std::vector<Vec3>& points = plans[line].points;
        for (const Vec3 point : points) {
            low = std::min(low, point.y);
            high = std::max(high, point.y);
        }
        if (!curves[line].closed()) continue;
        for (std::size_t at = 0; at < points.size(); ++at)
            edges.push_back({points[at], points[(at + 1) % points.size()], line});
    }
    std::vector<Nesting> nesting(curves.size());
    if (edges.empty()) return nesting;
    const Strips strips(edges, low, high);
    done = parallel_blocks(curves.size(), 16, run, [&](std::size_t begin, std::size_t end) {
        std::vector<std::uint32_t> crossed;
        for (std::size_t line = begin; line < end; ++line) {
            strips.crossed(plans[line].points.front(), crossed);
            std::ranges::sort(crossed);
            for (auto other = crossed.begin(); other != crossed.end();) {
                const auto next = std::find_if(other, crossed.end(), [&](auto one) { return one != *other; });
                const bool around = (next - other) % 2 == 1 && *other != line;
                if (around && levels[*other] == levels[line]) ++nesting[line].depth;
                if (around &&
                    (!nesting[line].within || plans[*other].area < plans[*nesting[line].within].area))
                    nesting[line].within = *other;
                other = next;
            }
        }
    });
    if (!done) return cancelled_error();
    return nesting;
}

}  // namespace plume
