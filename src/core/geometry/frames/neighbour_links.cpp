#include "core/geometry/frames/neighbour_links.hpp"

#include <algorithm>

#include "core/geometry/measures/point_tree.hpp"

namespace plume {
namespace {

// The nearest but the point itself; of several that are equally far, but for rounding, those with the lowest
// numbers.
std::vector<std::size_t> nearest_others(const PointTree& tree, std::span<const Vec3> points,
                                        std::size_t point, std::size_t count) {
    constexpr double equally_far = 1e-9;
    const std::vector<std::size_t> nearest = tree.nearest_of(points[point], count + 1);
    const double reach = length(points[nearest.back()] - points[point]);
    std::vector<std::size_t> surely, perhaps;
    tree.for_each_within(points[point], reach * (1 + equally_far), [&](std::size_t other, double distance) {
        if (other != point) (distance < reach * (1 - equally_far) ? surely : perhaps).push_back(other);
        return true;
    });
    std::ranges::sort(perhaps);
    const std::size_t wanted = std::min(count, points.size() - 1);
    perhaps.resize(std::min(perhaps.size(), wanted - std::min(wanted, surely.size())));
    surely.insert(surely.end(), perhaps.begin(), perhaps.end());
    return surely;
}

}  // namespace

std::pair<std::uint32_t, std::uint32_t> ordered(std::uint32_t a, std::uint32_t b) {
    return {std::min(a, b), std::max(a, b)};
}

void each_once(Pairs& pairs) {
    std::ranges::sort(pairs);
    pairs.erase(std::unique(pairs.begin(), pairs.end()), pairs.end());
}

Result<Pairs> nearest_pairs(std::span<const Vec3> points, std::size_t count, const Run& run) {
    const PointTree tree(points);
    Pairs pairs;
    for (std::uint32_t point = 0; point < points.size(); ++point) {
        if (point % 1024 == 0 && run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(point) / static_cast<double>(points.size()));
        for (const std::size_t other : nearest_others(tree, points, point, count))
            pairs.push_back(ordered(point, static_cast<std::uint32_t>(other)));
    }
    each_once(pairs);
    return pairs;
}

Result<Pairs> pairs_within(std::span<const Vec3> points, double reach, const Run& run) {
    const PointTree tree(points);
    Pairs pairs;
    for (std::uint32_t point = 0; point < points.size(); ++point) {
        if (point % 1024 == 0 && run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(point) / static_cast<double>(points.size()));
        tree.for_each_within(points[point], reach, [&](std::size_t other, double) {
            if (other > point) pairs.emplace_back(point, static_cast<std::uint32_t>(other));
            return true;
        });
    }
    each_once(pairs);
    return pairs;
}

double expected_pairs_within(std::span<const Vec3> points, double reach) {
    constexpr std::size_t looked_at = 64;
    if (points.empty()) return 0;
    const std::size_t every = points.size() / looked_at + 1;
    double seen = 0, looking = 0;
    for (std::size_t from = 0; from < points.size(); from += every, ++looking)
        for (const Vec3 other : points)
            seen += length(points[from] - other) <= reach ? 1 : 0;
    return std::max(0.0, seen / looking - 1) * static_cast<double>(points.size()) / 2;
}

}  // namespace plume
