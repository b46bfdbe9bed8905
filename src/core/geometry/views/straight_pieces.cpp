#include "core/geometry/views/straight_pieces.hpp"

namespace plume {
namespace {

// The sine of what still is straight on.
constexpr double no_turn = 1e-9;

bool goes_straight_on(Vec3 from, Vec3 at, Vec3 to) {
    const Vec3 came = at - from, goes = to - at;
    return dot(came, goes) > 0 && length(cross(came, goes)) <= no_turn * length(came) * length(goes);
}

}  // namespace

std::vector<std::array<Vec3, 2>> straight_pieces(std::span<const Vec3> places, bool closed) {
    std::vector<std::array<Vec3, 2>> pieces;
    const std::size_t count = places.size() + (closed && places.size() > 2 ? 1 : 0);
    for (std::size_t at = 1; at < count; ++at) {
        const Vec3 from = places[at - 1], to = places[at % places.size()];
        if (length(to - from) == 0) continue;
        if (!pieces.empty() && goes_straight_on(pieces.back()[0], from, to))
            pieces.back()[1] = to;
        else
            pieces.push_back({from, to});
    }
    // A closed one may begin within a straight piece.
    const bool joins = closed && pieces.size() > 2 &&
                       goes_straight_on(pieces.back()[0], pieces.back()[1], pieces.front()[1]);
    if (joins) {
        pieces.front()[0] = pieces.back()[0];
        pieces.pop_back();
    }
    return pieces;
}

}  // namespace plume
