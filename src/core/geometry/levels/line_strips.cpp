#include "core/geometry/levels/line_strips.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace plume {

void add_edges(std::vector<FlatEdge>& edges, const std::vector<FlatPoint>& places, bool closed,
               std::uint32_t line) {
    for (std::size_t at = 0; at + (closed ? 0 : 1) < places.size(); ++at)
        edges.push_back({places[at], places[(at + 1) % places.size()], line});
}

LineStrips::LineStrips(std::vector<FlatEdge> edges) : edges_(std::move(edges)) {
    double low = std::numeric_limits<double>::infinity(), high = -low;
    for (const FlatEdge& edge : edges_) {
        low = std::min({low, edge.from.y, edge.to.y});
        high = std::max({high, edge.from.y, edge.to.y});
    }
    constexpr std::size_t most = 1U << 14U;
    count_ = std::clamp<std::size_t>(static_cast<std::size_t>(std::sqrt(static_cast<double>(edges_.size()))),
                                     1, most);
    low_ = low;
    height_ = (high - low) / static_cast<double>(count_);
    starts_.assign(count_ + 1, 0);
    for (const FlatEdge& edge : edges_)
        for_each_strip(edge, [&](std::size_t strip) { ++starts_[strip + 1]; });
    for (std::size_t strip = 0; strip < count_; ++strip)
        starts_[strip + 1] += starts_[strip];
    members_.resize(starts_.back());
    std::vector<std::size_t> next(starts_.begin(), starts_.end() - 1);
    for (std::uint32_t edge = 0; edge < edges_.size(); ++edge)
        for_each_strip(edges_[edge], [&](std::size_t strip) { members_[next[strip]++] = edge; });
}

std::size_t LineStrips::strip_of(double y) const {
    const double strip = (y - low_) / height_;
    return strip > 0 ? std::min(static_cast<std::size_t>(strip), count_ - 1) : 0;
}

template <class Each>
void LineStrips::for_each_strip(const FlatEdge& edge, const Each& each) const {
    const std::size_t last = strip_of(std::max(edge.from.y, edge.to.y));
    for (std::size_t strip = strip_of(std::min(edge.from.y, edge.to.y)); strip <= last; ++strip)
        each(strip);
}

void LineStrips::find_around(FlatPoint place, std::vector<std::uint32_t>& lines) const {
    lines.clear();
    const std::size_t strip = strip_of(place.y);
    for (std::size_t at = starts_[strip]; at < starts_[strip + 1]; ++at) {
        const FlatEdge& edge = edges_[members_[at]];
        if ((edge.from.y > place.y) == (edge.to.y > place.y)) continue;
        const double share = (place.y - edge.from.y) / (edge.to.y - edge.from.y);
        if (std::lerp(edge.from.x, edge.to.x, share) > place.x) lines.push_back(edge.line);
    }
    // Those that are crossed an odd number of times, once.
    std::ranges::sort(lines);
    auto kept = lines.begin();
    for (auto one = lines.begin(); one != lines.end();) {
        const auto next = std::find_if(one, lines.end(), [&](std::uint32_t other) { return other != *one; });
        if ((next - one) % 2 == 1) *kept++ = *one;
        one = next;
    }
    lines.erase(kept, lines.end());
}

}  // namespace plume
