#include "core/picture/draw/drawing.hpp"

#include "core/base/parallel_results.hpp"
#include "core/data/not_finite.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/measures/bounds.hpp"

namespace plume {

void add_line(Vec3 from, Vec3 to, float colour, Drawable& drawable) {
    const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
    for (const Vec3 end : {from, to}) {
        const Floats at = relative(end, drawable.origin);
        drawable.vertices.push_back({at.x, at.y, at.z, 0, 0, 1, colour});
    }
    drawable.edges.insert(drawable.edges.end(), {first, first + 1});
}

void draw_attractors(const Attractors& attractors, Drawable& drawable) {
    drawable.points_are = PointRole::handles;
    drawable.lines_are = LineRole::handles;
    settle(drawable, bounds_of(attractors));
    for (std::size_t index = 0; index < attractors.items().size(); ++index) {
        const Attractor& item = attractors.items()[index];
        if (item.path) {
            for (std::size_t corner = 1; corner < item.path->size(); ++corner)
                add_line((*item.path)[corner - 1], (*item.path)[corner], plain_coordinate, drawable);
            continue;
        }
        const Floats at = relative(item.position, drawable.origin);
        drawable.points.push_back({at.x, at.y, at.z, plain_coordinate, static_cast<std::uint32_t>(index)});
        if (item.weight < 0) drawable.minus_signs.push_back(item.position);
    }
}

namespace {

// Over all curves, so that a colour means one number on each.
std::optional<std::pair<double, double>> shared_range(const std::vector<CurveSamples>& all,
                                                      const std::string& colour_by) {
    const Field* const chosen = all.empty() ? nullptr : chosen_field(all.front().fields, colour_by, "");
    if (!chosen) return {};
    FiniteRange range;
    for (const CurveSamples& samples : all)
        for (const Field& field : samples.fields)
            if (field.name == chosen->name) range.include(field.values);
    return range.empty() ? std::nullopt : std::optional(std::pair(range.least, range.most));
}

// Steps between levels, where they are even ones; else they are counted.
std::vector<std::int64_t> ranks_of(const CurveSet& set) {
    std::vector<double> levels;
    levels.reserve(set.curves.size());
    for (const SplineCurve& curve : set.curves)
        levels.push_back(curve.fields().empty() ? 0 : curve.fields().back().values[0]);
    std::vector<double> apart = levels;
    std::ranges::sort(apart);
    apart.erase(std::unique(apart.begin(), apart.end()), apart.end());
    double step = std::numeric_limits<double>::infinity();
    for (std::size_t at = 1; at < apart.size(); ++at)
        step = std::min(step, apart[at] - apart[at - 1]);
    const bool even = std::ranges::all_of(apart, [&](double level) {
        const double steps = level / step;
        return std::abs(steps - std::round(steps)) < 1e-6 && std::abs(steps) < 1e15;
    });
    std::vector<std::int64_t> ranks;
    ranks.reserve(levels.size());
    for (const double level : levels)
        ranks.push_back(even ? std::llround(level / step)
                             : std::ranges::lower_bound(apart, level) - apart.begin());
    return ranks;
}

}  // namespace

// Curves are edges through their samples, a part each; colours follow the field along them.
Status draw_curves(const CurveSet& set, const DrawOptions& options, const Run& run, Drawable& drawable) {
    drawable.lines_are = LineRole::lines;
    const auto sampled =
        parallel_results<CurveSamples>(set.curves.size(), run, [&](std::size_t at) -> Result<CurveSamples> {
            return sample(set.curves[at], usual_tolerance(set.curves[at]));
        });
    if (!sampled) return sampled.error();
    const std::vector<CurveSamples>& all = *sampled;
    Box bounds;
    for (const CurveSamples& samples : all)
        for (const Vec3 point : samples.points)
            bounds.include(point);
    settle(drawable, bounds);
    const auto range = shared_range(all, options.colour_by);
    const std::vector<std::int64_t> ranks = ranks_of(set);
    for (std::uint32_t curve = 0; curve < all.size(); ++curve) {
        const CurveSamples& samples = all[curve];
        const Colours colours(
            samples.fields, options.colour_by, "", drawable, [](std::size_t) { return true; }, range);
        const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
        const auto count = static_cast<std::uint32_t>(samples.points.size());
        const std::size_t first_edge = drawable.edges.size();
        for (std::uint32_t at = 0; at < count; ++at) {
            drawable.vertices.push_back(
                vertex(samples.points[at], drawable.origin, {0, 0, 1}, colours.at(at)));
            drawable.vertex_parts.push_back(curve);
            if (at + 1 < count || samples.closed)
                drawable.edges.insert(drawable.edges.end(), {first + at, first + (at + 1) % count});
        }
        drawable.lines.push_back({first_edge, drawable.edges.size() - first_edge, ranks[curve]});
    }
    return Done{};
}

}  // namespace plume
