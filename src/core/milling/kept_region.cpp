#include "core/milling/kept_region.hpp"

#include <limits>

namespace plume {
namespace {

std::vector<FlatEdge> edges_of(std::span<const CutRing> rings) {
    std::vector<FlatEdge> edges;
    for (std::uint32_t ring = 0; ring < rings.size(); ++ring)
        add_edges(edges, rings[ring].outline.corners(), true, ring);
    return edges;
}

}  // namespace

KeptRegion::KeptRegion(std::span<const CutRing> rings) : KeptRegion(rings, edges_of(rings)) {}
KeptRegion::KeptRegion(std::span<const CutRing> rings, const std::vector<FlatEdge>& edges)
    : outlines_(edges), strips_(edges) {
    for (const CutRing& ring : rings)
        is_hole_.push_back(ring.is_hole());
}

double KeptRegion::clearance(FlatPoint place) const {
    const auto nearest = outlines_.nearest(place);
    if (!nearest) return std::numeric_limits<double>::infinity();
    const FlatEdge& piece = outlines_.piece(nearest->piece);
    const double x = piece.to.x - piece.from.x, y = piece.to.y - piece.from.y, to_x = place.x - piece.from.x,
                 to_y = place.y - piece.from.y, whole = x * x + y * y, along = to_x * x + to_y * y,
                 hair = 1e-9 * whole;
    // Corners run anticlockwise: what is at the left is within the ring.
    const bool beside = along > hair && along < whole - hair;
    const bool kept =
        beside ? (x * to_y - y * to_x > 0) != is_hole_[piece.line] : rings_around(place).size() % 2 == 1;
    return kept ? -nearest->distance : nearest->distance;
}

double KeptRegion::distance_from_outlines(FlatPoint place) const {
    const auto nearest = outlines_.nearest(place);
    return nearest ? nearest->distance : std::numeric_limits<double>::infinity();
}

std::vector<std::uint32_t> KeptRegion::rings_around(FlatPoint place) const {
    std::vector<std::uint32_t> around;
    strips_.find_around(place, around);
    return around;
}

}  // namespace plume
