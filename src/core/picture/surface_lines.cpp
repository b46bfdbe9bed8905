#include "core/picture/surface_lines.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

// Nodes [low, high] of a direction.
struct Window {
    std::size_t low = 0, high = 0;
    std::size_t bays() const { return high - low; }
};

std::size_t probe_stride(const SplineBasis& basis) {
    return bays_of(basis) / 96 + 1;
}

// The nodes of probe lines `first` to `last` and of their neighbours.
Window around(std::size_t first, std::size_t last, const SplineBasis& basis) {
    const std::size_t stride = probe_stride(basis), bays = bays_of(basis);
    return {first > 0 ? (first - 1) * stride : 0, std::min((last + 1) * stride, bays)};
}

// A little more than the view: what is turned into it before the next picture is there already.
bool seen(const DrawnView& view, Vec3 point) {
    constexpr double margin = 0.15;
    double x = 0, y = 0, depth = 0;
    return view.camera.project(point, view.aspect, x, y, depth) && x > -margin && x < 1 + margin &&
           y > -margin && y < 1 + margin;
}

// Nothing when the view sees none of it.
std::optional<std::pair<Window, Window>> seen_windows(const SplinePatch& patch, const DrawnView& view,
                                                      const Run& run) {
    const auto probe = sample_on(patch, sample_lines(patch.u(), 1, probe_stride(patch.u())),
                                 sample_lines(patch.v(), 1, probe_stride(patch.v())), run);
    if (!probe) return {};
    std::size_t low_u = probe->count_u, high_u = 0, low_v = probe->count_v, high_v = 0;
    for (std::size_t b = 0; b < probe->count_v; ++b)
        for (std::size_t a = 0; a < probe->count_u; ++a) {
            const std::size_t index = a + probe->count_u * b;
            if (!seen(view, {probe->x[index], probe->y[index], probe->z[index]})) continue;
            low_u = std::min(low_u, a);
            high_u = std::max(high_u, a);
            low_v = std::min(low_v, b);
            high_v = std::max(high_v, b);
        }
    if (low_u > high_u) return {};
    return std::pair{around(low_u, high_u, patch.u()), around(low_v, high_v, patch.v())};
}

// Every so many nodes within the window with more samples between them, far fewer lines outside.
SampleLines lines_in(const SplineBasis& basis, Window window, int per_bay, std::size_t every) {
    const std::vector<double> breaks = breaks_of(basis);
    const std::size_t bays = breaks.size() - 1, outside = bays / 32 + 1;
    SampleLines lines;
    const auto add = [&](double parameter, bool at_node) {
        lines.parameters.push_back(parameter);
        lines.at_node.push_back(at_node ? 1 : 0);
    };
    for (std::size_t node = 0; node < window.low; node += outside)
        add(breaks[node], false);
    for (std::size_t node = window.low; node < window.high; node += every) {
        const std::size_t next = std::min(node + every, window.high);
        for (int part = 0; part < per_bay; ++part)
            add(std::lerp(breaks[node], breaks[next], static_cast<double>(part) / per_bay),
                part == 0 && every == 1);
    }
    for (std::size_t node = window.high; node < bays; node += outside)
        add(breaks[node], node == window.high && every == 1);
    if (!basis.closed) add(breaks[bays], window.high == bays && every == 1);
    return lines;
}

}  // namespace

PatchLines usual_lines(const SplinePatch& patch, std::size_t target, std::size_t most) {
    PatchLines lines;
    lines.every = nodes_per_sample(patch, most);
    lines.per_bay = lines.every > 1 ? 1 : samples_per_bay(patch, target);
    lines.u = sample_lines(patch.u(), lines.per_bay, lines.every);
    lines.v = sample_lines(patch.v(), lines.per_bay, lines.every);
    return lines;
}

std::optional<PatchLines> closer_lines(const SplinePatch& patch, const PatchLines& usual,
                                       const DrawnView& view, std::size_t most, const Run& run) {
    const auto windows = seen_windows(patch, view, run);
    if (!windows) return {};
    const auto& [u, v] = *windows;
    const double bays = static_cast<double>(u.bays()) * static_cast<double>(v.bays());
    if (!(bays > 0)) return {};
    // The lines outside take the rest.
    const double samples = static_cast<double>(most) / 2;
    PatchLines closer;
    closer.every = static_cast<std::size_t>(std::max(1.0, std::ceil(std::sqrt(bays / samples))));
    closer.per_bay =
        closer.every > 1 ? 1 : static_cast<int>(std::clamp(std::floor(std::sqrt(samples / bays)), 1.0, 16.0));
    const auto density = [](const PatchLines& lines) {
        return static_cast<double>(lines.per_bay) / static_cast<double>(lines.every);
    };
    constexpr double worth_it = 1.5;
    if (density(closer) < worth_it * density(usual)) return {};
    closer.u = lines_in(patch.u(), u, closer.per_bay, closer.every);
    closer.v = lines_in(patch.v(), v, closer.per_bay, closer.every);
    return closer;
}

}  // namespace plume
