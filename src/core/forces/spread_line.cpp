#include "core/forces/spread_line.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_sampling.hpp"

namespace plume {
namespace {

constexpr double least_closed = 6, least_open = 2;  // edges
constexpr double nearest_spacing = 0.5;

Vec3 between(const SpreadLine& line, std::size_t at) {
    const std::size_t count = line.at.size(), next = (at + 1) % count;
    const Vec3 middle = (line.at[at] + line.at[next]) * 0.5;
    if (!line.closed && (at == 0 || at + 2 >= count)) return middle;
    const Vec3 outer = (line.at[(at + count - 1) % count] + line.at[(at + 2) % count]) * 0.5;
    return middle + (middle - outer) * 0.125;
}

}  // namespace

double length_of(const SpreadLine& line) {
    return polyline_length(line.at, line.closed);
}

std::size_t edges_of(const SpreadLine& line) {
    return line.at.size() - (line.closed ? 0 : 1);
}

SpreadLine evenly(const SpreadLine& line, double apart) {
    const double wished = std::round(length_of(line) / apart);
    const auto edges = static_cast<std::size_t>(std::max(line.closed ? least_closed : least_open, wished));
    const std::size_t count = line.at.size(), given = edges_of(line);
    const double step = length_of(line) / static_cast<double>(edges);
    SpreadLine made{{line.at.front()}, line.closed};
    double before = 0;  // the length up to the edge in hand
    std::size_t edge = 0;
    for (std::size_t at = 1; at < edges; ++at) {
        const double along = static_cast<double>(at) * step;
        double edge_length = length(line.at[(edge + 1) % count] - line.at[edge]);
        while (edge + 1 < given && before + edge_length < along) {
            before += edge_length;
            ++edge;
            edge_length = length(line.at[(edge + 1) % count] - line.at[edge]);
        }
        const double share = edge_length > 0 ? std::min(1.0, (along - before) / edge_length) : 0;
        made.at.push_back(line.at[edge] + (line.at[(edge + 1) % count] - line.at[edge]) * share);
    }
    if (!line.closed) made.at.push_back(line.at.back());
    return made;
}

void mend_spacing(SpreadLine& line, double apart) {
    std::vector<Vec3> mended;
    const std::size_t count = line.at.size(), edges = edges_of(line);
    std::size_t spare =
        edges - std::min(edges, static_cast<std::size_t>(line.closed ? least_closed : least_open));
    for (std::size_t at = 0; at < count; ++at) {
        const bool last = at + 1 == count;
        const double from_last = mended.empty() ? apart : length(line.at[at] - mended.back());
        if (from_last < nearest_spacing * apart && spare > 0 && (line.closed || !last)) {
            --spare;
            continue;
        }
        mended.push_back(line.at[at]);
        if (last && !line.closed) break;
        if (length(line.at[(at + 1) % count] - line.at[at]) > farthest_spacing * apart)
            mended.push_back(between(line, at));
    }
    while (line.closed && spare > 0 && length(mended.back() - mended.front()) < nearest_spacing * apart) {
        mended.pop_back();
        --spare;
    }
    line.at = std::move(mended);
}

}  // namespace plume
