#include "core/geometry/frames/frame_figures.hpp"

#include <algorithm>
#include <limits>

#include "core/geometry/frames/unions.hpp"

namespace plume {

FrameFigures figures_of(const BarFrame& frame) {
    FrameFigures figures;
    if (frame.member_count() == 0) return figures;
    figures.shortest = std::numeric_limits<double>::infinity();
    Unions pieces(frame.nodes().address_count());
    for (const Member& member : frame.members()) {
        ++figures.ways[static_cast<std::size_t>(member.way)];
        const double length = frame.length_of(member);
        figures.total_length += length;
        figures.shortest = std::min(figures.shortest, length);
        figures.longest = std::max(figures.longest, length);
        pieces.join(member.from, member.to);
    }
    const std::vector<std::uint32_t> valences = valences_of(frame);
    figures.least_valence = static_cast<std::uint32_t>(-1);
    for (std::uint32_t node = 0; node < valences.size(); ++node) {
        if (!frame.nodes().present(node)) continue;
        figures.least_valence = std::min(figures.least_valence, valences[node]);
        figures.most_valence = std::max(figures.most_valence, valences[node]);
        figures.pieces += pieces.of(node) == node ? 1 : 0;
    }
    return figures;
}

}  // namespace plume
