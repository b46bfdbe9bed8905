#include "core/geometry/levels/nesting.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/levels/line_strips.hpp"

namespace plume {
namespace {

// Of a line's size: how finely it is followed.
constexpr double followed_share = 1e-4;

// What is known of a line, seen in plan.
struct Plan {
    std::vector<FlatPoint> points;
    double area = 0;
};
Plan plan_of(const SplineCurve& curve, const Placement& view) {
    Plan plan;
    for (const Vec3 point : sample(curve, followed_share * poles_box(curve).diagonal()).points) {
        const Vec3 local = view.to_local(point);
        plan.points.push_back({local.x, local.y});
    }
    plan.area = std::abs(signed_area(plan.points));
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
    std::vector<FlatEdge> edges;
    for (std::uint32_t line = 0; line < plans.size(); ++line)
        if (curves[line].closed()) add_edges(edges, plans[line].points, true, line);
    std::vector<Nesting> nesting(curves.size());
    if (edges.empty()) return nesting;
    const LineStrips strips(std::move(edges));
    done = parallel_blocks(curves.size(), 16, run, [&](std::size_t begin, std::size_t end) {
        std::vector<std::uint32_t> around;
        for (std::size_t line = begin; line < end; ++line) {
            strips.find_around(plans[line].points.front(), around);
            for (const std::uint32_t other : around) {
                if (other == line) continue;
                if (levels[other] == levels[line]) ++nesting[line].depth;
                std::optional<std::size_t>& within = nesting[line].within;
                if (!within || plans[other].area < plans[*within].area) within = other;
            }
        }
    });
    if (!done) return cancelled_error();
    return nesting;
}

}  // namespace plume
