#include "core/sheets/ring_pattern.hpp"

#include "core/base/text.hpp"

namespace plume {
namespace {

constexpr double most_vertices = 2147483648.0;

// A ring's vertices by their number along it; a closed one begins again.
struct Ring {
    std::uint32_t first = 0;
    std::size_t count = 0;
    bool closed = true;
    std::size_t bays() const { return closed ? count : count - 1; }
    std::uint32_t at(std::size_t index) const {
        return first + static_cast<std::uint32_t>(closed ? index % count : index);
    }
};

Status sound(const RingPattern& pattern) {
    if (pattern.counts.size() < (pattern.centre ? 1U : 2U))
        return Error{ErrorCode::too_few_points, "", "has no ring beside its first, so there is no sheet",
                     "Grow more rings."};
    double vertices = 0;
    const std::size_t least = pattern.closed ? 3 : 2;
    for (std::size_t ring = 0; ring < pattern.counts.size(); ++ring) {
        if (pattern.counts[ring] < least)
            return Error{ErrorCode::too_few_points, "",
                         "would have " + count_text(pattern.counts[ring], "stitch", "stitches") +
                             " in ring " + std::to_string(ring + 1) + ", where a ring has at least " +
                             std::to_string(least),
                         "Grow fewer rings, or let them become smaller more slowly."};
        vertices += static_cast<double>(pattern.counts[ring]);
    }
    if (vertices > most_vertices)
        return Error{ErrorCode::over_budget, "", "would have more than two thousand million stitches",
                     "Grow fewer rings, or let them become larger more slowly."};
    return Done{};
}

// Each triangle leads to the ring whose next bay has its middle first.
void join(const Ring& inner, const Ring& outer, std::vector<std::array<std::uint32_t, 3>>& triangles) {
    const std::size_t a = inner.bays(), b = outer.bays();
    for (std::size_t i = 0, j = 0; i < a || j < b;)
        if (j < b && (i == a || (2 * j + 1) * a <= (2 * i + 1) * b)) {
            triangles.push_back({inner.at(i), outer.at(j), outer.at(j + 1)});
            ++j;
        } else {
            triangles.push_back({inner.at(i), outer.at(j), inner.at(i + 1)});
            ++i;
        }
}

}  // namespace

Result<RingSheet> ring_sheet(const RingPattern& pattern) {
    if (Status fine = sound(pattern); !fine) return fine.error();
    RingSheet made;
    if (pattern.centre) {
        made.ring.push_back(0);
        made.stitch.push_back(0);
        made.share.push_back(0);
    }
    Ring before;
    for (std::size_t index = 0; index < pattern.counts.size(); ++index) {
        const Ring ring{static_cast<std::uint32_t>(made.ring.size()), pattern.counts[index], pattern.closed};
        for (std::uint32_t stitch = 0; stitch < ring.count; ++stitch) {
            made.ring.push_back(static_cast<std::uint32_t>(index + (pattern.centre ? 1 : 0)));
            made.stitch.push_back(stitch);
            made.share.push_back(static_cast<double>(stitch) / static_cast<double>(ring.bays()));
        }
        if (index > 0) join(before, ring, made.triangles);
        for (std::size_t bay = 0; index == 0 && pattern.centre && bay < ring.bays(); ++bay)
            made.triangles.push_back({0, ring.at(bay), ring.at(bay + 1)});
        before = ring;
    }
    return made;
}

}  // namespace plume
