#include "core/geometry/levels/arc_chains.hpp"

#include <cmath>

#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/levels/segment_chains.hpp"

namespace plume {
namespace {

// Finds the ends of arcs that are at one place; the end of a closed direction is its start. They wait by the
// cell of the plane they are in, which is so much larger than what is near that cells beside it hardly ever
// count.
class Ends {
public:
    Ends(const SplinePatch& patch, const std::vector<LevelArc>& arcs)
        : patch_(patch),
          partners_(2 * arcs.size(), no_partner),
          places_(partners_.size()),
          waiting_(partners_.size()) {
        for (std::uint32_t end = 0; end < partners_.size(); ++end) {
            const LevelArc& arc = arcs[end / 2];
            places_[end] = place_of(end % 2 == 0 ? arc.from : arc.to);
            if (!pair_up(end)) waiting_.put(key_of(cell_of(places_[end])), end);
        }
    }
    const std::vector<std::uint32_t>& partners() const { return partners_; }

private:
    static constexpr double near = 1e-9;  // of the domain
    static constexpr double cell_size = 1024 * near;
    struct Place {
        double x = 0, y = 0;
    };
    struct CellAt {
        std::int64_t x = 0, y = 0;
    };

    Place place_of(LevelPlace place) const {
        const auto share = [](double at, const SplineBasis& basis) {
            const double of_range = (at - basis.start()) / range_of(basis);
            return basis.closed && of_range > 1 - near ? of_range - 1 : of_range;
        };
        return {share(place.u, patch_.u()), share(place.v, patch_.v())};
    }
    static CellAt cell_of(Place place) {
        return {static_cast<std::int64_t>(std::floor(place.x / cell_size)),
                static_cast<std::int64_t>(std::floor(place.y / cell_size))};
    }
    static std::uint64_t key_of(CellAt cell) {
        return (static_cast<std::uint64_t>(cell.x) << 32U) ^ static_cast<std::uint64_t>(cell.y);
    }

    bool pair_up(std::uint32_t end) {
        const Place place = places_[end];
        const CellAt low = cell_of({place.x - near, place.y - near}),
                     high = cell_of({place.x + near, place.y + near});
        for (std::int64_t x = low.x; x <= high.x; ++x)
            for (std::int64_t y = low.y; y <= high.y; ++y) {
                const std::uint32_t other = waiting_.find(
                    key_of({x, y}), [&](std::uint32_t candidate) { return is_partner(candidate, end); });
                if (other == no_partner) continue;
                partners_[end] = other;
                partners_[other] = end;
                return true;
            }
        return false;
    }
    bool is_partner(std::uint32_t other, std::uint32_t end) const {
        return partners_[other] == no_partner && other / 2 != end / 2 &&
               std::abs(places_[other].x - places_[end].x) <= near &&
               std::abs(places_[other].y - places_[end].y) <= near;
    }

    const SplinePatch& patch_;
    std::vector<std::uint32_t> partners_;
    std::vector<Place> places_;
    WaitingEnds waiting_;
};

}  // namespace

std::vector<ArcChain> arcs_end_to_end(const SplinePatch& patch, const std::vector<LevelArc>& arcs) {
    std::vector<ArcChain> chains;
    for (const SegmentChain& found : chains_of(Ends(patch, arcs).partners())) {
        ArcChain chain{{}, found.closed};
        chain.stretches.reserve(found.entered.size());
        for (const std::uint32_t end : found.entered) {
            const LevelArc& arc = arcs[end / 2];
            chain.stretches.push_back(end % 2 == 0 ? Stretch{arc.from, arc.to} : Stretch{arc.to, arc.from});
        }
        chains.push_back(std::move(chain));
    }
    return chains;
}

}  // namespace plume
