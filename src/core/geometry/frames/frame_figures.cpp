#include "core/geometry/frames/frame_figures.hpp"

#include <algorithm>
#include <limits>
#include <numeric>

namespace plume {
namespace {

// Nodes that hang together, by halving paths to the one that stands for them.
class Pieces {
public:
    explicit Pieces(std::size_t nodes) : stands_for_(nodes) {
        std::iota(stands_for_.begin(), stands_for_.end(), 0U);
    }
    void join(std::uint32_t a, std::uint32_t b) { stands_for_[of(a)] = of(b); }
    std::uint32_t of(std::uint32_t node) {
        while (stands_for_[node] != node)
            node = stands_for_[node] = stands_for_[stands_for_[node]];
        return node;
    }

private:
    std::vector<std::uint32_t> stands_for_;
};

}  // namespace

FrameFigures figures_of(const BarFrame& frame) {
    FrameFigures figures;
    if (frame.member_count() == 0) return figures;
    figures.shortest = std::numeric_limits<double>::infinity();
    Pieces pieces(frame.nodes().address_count());
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
