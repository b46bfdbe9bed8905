#include "core/picture/still_canvas.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <utility>

namespace plume {
namespace {

std::uint8_t to_byte(float value) {
    const float v = std::clamp(value, 0.0F, 1.0F);
    const float s = v <= 0.0031308F ? 12.92F * v : 1.055F * std::pow(v, 1 / 2.4F) - 0.055F;
    return static_cast<std::uint8_t>(std::lround(s * 255));
}

}  // namespace

StillCanvas::StillCanvas(StillBuffer sums, float share, double lift) : pixels_(std::move(sums)), lift_(lift) {
    for (std::size_t at = 0; at < pixels_.count(); ++at) {
        pixels_.colours[at] = pixels_.colours[at] * share;
        pixels_.covers[at] *= share;
    }
}

void StillCanvas::blend(std::size_t at, Colour colour, float share) {
    pixels_.colours[at] = mix(pixels_.colours[at], colour, share);
    pixels_.covers[at] += (1 - pixels_.covers[at]) * share;
}

void StillCanvas::blend(int x, int y, double depth, Colour colour, float share) {
    if (x < 0 || y < 0 || x >= pixels_.width || y >= pixels_.height) return;
    const std::size_t at = index(x, y);
    if (depth <= static_cast<double>(pixels_.depths[at]) + lift_) blend(at, colour, share);
}

bool StillCanvas::hidden(const Spot& spot, double by) const {
    const int x = static_cast<int>(spot.x), y = static_cast<int>(spot.y);
    return x < 0 || y < 0 || x >= pixels_.width || y >= pixels_.height ||
           spot.depth > static_cast<double>(pixels_.depths[index(x, y)]) + by;
}

// Some pixels a step along the longer axis: cover(x, y, depth, share).
template <class Cover>
void StillCanvas::cover_line(const Spot& a, const Spot& b, double width, const Cover& cover) const {
    if (!a.visible || !b.visible) return;
    const double dx = b.x - a.x, dy = b.y - a.y;
    const double longest = std::max(std::abs(dx), std::abs(dy));
    if (longest > 4.0 * (pixels_.width + pixels_.height)) return;
    const int steps = std::max(1, static_cast<int>(std::ceil(longest)));
    const bool flat = std::abs(dx) >= std::abs(dy);
    // Across the axis a slanting line is wider.
    const double reach = (width * (longest > 0 ? std::hypot(dx, dy) / longest : 1) + 1) / 2;
    for (int step = 0; step < steps; ++step) {
        const double t = (step + 0.5) / steps, x = a.x + dx * t - 0.5, y = a.y + dy * t - 0.5;
        const double depth = std::lerp(a.depth, b.depth, t), across = flat ? y : x;
        const int main = static_cast<int>(std::lround(flat ? x : y));
        for (int side = static_cast<int>(std::ceil(across - reach)); side < across + reach; ++side)
            cover(flat ? main : side, flat ? side : main, depth,
                  static_cast<float>(std::min(1.0, reach - std::abs(side - across))));
    }
}

void StillCanvas::line(const Spot& a, const Spot& b, Colour ink, float share, double width) {
    cover_line(a, b, width,
               [&](int x, int y, double depth, float part) { blend(x, y, depth, ink, share * part); });
}

void StillCanvas::strokes(const std::vector<std::vector<Spot>>& strokes, Colour ink, float share,
                          double width) {
    std::map<std::pair<int, int>, float> covered;
    for (const std::vector<Spot>& stroke : strokes)
        for (std::size_t at = 1; at < stroke.size(); ++at)
            cover_line(stroke[at - 1], stroke[at], width, [&](int x, int y, double, float part) {
                float& most = covered[{x, y}];
                most = std::max(most, part);
            });
    for (const auto& [pixel, part] : covered)
        blend(pixel.first, pixel.second, -std::numeric_limits<double>::infinity(), ink, share * part);
}

void StillCanvas::disc(Spot middle, double radius, Colour colour) {
    for (int y = static_cast<int>(middle.y - radius - 1); y <= static_cast<int>(middle.y + radius + 1); ++y)
        for (int x = static_cast<int>(middle.x - radius - 1); x <= static_cast<int>(middle.x + radius + 1);
             ++x) {
            const double apart = std::hypot(x + 0.5 - middle.x, y + 0.5 - middle.y);
            const auto share = static_cast<float>(std::clamp(radius + 0.5 - apart, 0.0, 1.0));
            if (share > 0) blend(x, y, -std::numeric_limits<double>::infinity(), colour, share);
        }
}

Image StillCanvas::image() const {
    Image result{width(), height(), {}};
    result.rgba.reserve(pixels_.count() * 4);
    for (std::size_t at = 0; at < pixels_.count(); ++at) {
        const float cover = pixels_.covers[at];
        const Colour c = cover > 0 ? pixels_.colours[at] * (1 / cover) : Colour{};
        result.rgba.push_back(to_byte(c.r));
        result.rgba.push_back(to_byte(c.g));
        result.rgba.push_back(to_byte(c.b));
        result.rgba.push_back(static_cast<std::uint8_t>(std::lround(std::clamp(cover, 0.0F, 1.0F) * 255)));
    }
    return result;
}

}  // namespace plume
