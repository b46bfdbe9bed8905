#include "core/picture/draw/drawing.hpp"

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

// Curves are edges through their samples; colours follow the field along them.
void draw_curves(const CurveSet& set, const DrawOptions& options, Drawable& drawable) {
    drawable.lines_are = LineRole::lines;
    std::vector<CurveSamples> all;
    Box bounds;
    for (const SplineCurve& curve : set.curves) {
        all.push_back(sample(curve, usual_tolerance(curve)));
        for (const Vec3 point : all.back().points)
            bounds.include(point);
    }
    settle(drawable, bounds);
    for (const CurveSamples& samples : all) {
        const Colours colours(samples.fields, options.colour_by, "", drawable,
                              [](std::size_t) { return true; });
        const auto first = static_cast<std::uint32_t>(drawable.vertices.size());
        const auto count = static_cast<std::uint32_t>(samples.points.size());
        for (std::uint32_t at = 0; at < count; ++at) {
            drawable.vertices.push_back(
                vertex(samples.points[at], drawable.origin, {0, 0, 1}, colours.at(at)));
            if (at + 1 < count || samples.closed)
                drawable.edges.insert(drawable.edges.end(), {first + at, first + (at + 1) % count});
        }
    }
}

}  // namespace plume
