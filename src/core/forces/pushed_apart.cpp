#include "core/forces/pushed_apart.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/forces/place_grid.hpp"

namespace plume {
namespace {

constexpr std::size_t block = 512;
constexpr double first_pull = 0.1, pull_left = 0.985, no_pull = 1e-4;  // of the way, in each round
constexpr double touches_within = 1e-3;

class Pushing {
public:
    Pushing(const Spheres& spheres, const PushingRule& rule)
        : spheres_(spheres),
          rule_(rule),
          places_(spheres.places),
          next_(spheres.places),
          overlaps_(spheres.places.size(), 0),
          grid_(2 * std::ranges::max(spheres.radii)) {}

    Result<PushedApart> all(const Run& run) {
        PushedApart made;
        double pull = rule_.drawn_to ? first_pull : 0;
        for (keep();; pull = pull > no_pull ? pull * pull_left : 0) {
            grid_.sort(places_);
            if (!push(pull, run)) return cancelled_error();
            made.overlap = std::ranges::max(overlaps_);
            if ((pull == 0 && made.overlap <= rule_.overlap) || made.rounds == rule_.most_rounds) break;
            places_.swap(next_);
            ++made.rounds;
            run.report(static_cast<double>(made.rounds) / static_cast<double>(rule_.most_rounds));
        }
        count(made);
        made.places = std::move(places_);
        return made;
    }

private:
    void keep() {
        if (!rule_.kept) return;
        for (std::size_t at = 0; at < places_.size(); ++at)
            if (spheres_.stays[at] == 0) places_[at] = rule_.kept(at, places_[at]);
    }
    bool push(double pull, const Run& run) {
        return parallel_blocks(places_.size(), block, run, [&](std::size_t begin, std::size_t end) {
            grid_.each(places_, begin, end, [&](std::uint32_t at, const std::vector<std::uint32_t>& others) {
                next_[at] = pushed(at, others, pull);
            });
        });
    }
    Vec3 pushed(std::uint32_t at, const std::vector<std::uint32_t>& others, double pull) {
        const Vec3 place = places_[at];
        const double radius = spheres_.radii[at];
        Vec3 push;
        std::size_t pushers = 0;
        double worst = 0;
        for (const std::uint32_t other : others) {
            const double reach = radius + spheres_.radii[other];
            const Vec3 apart = place - places_[other];
            if (other == at || dot(apart, apart) >= reach * reach) continue;
            const double distance = length(apart);
            worst = std::max(worst, (reach - distance) / std::min(radius, spheres_.radii[other]));
            if (spheres_.stays[at] != 0) continue;
            const Vec3 way = distance > 1e-12 * reach ? apart * (1 / distance)
                             : at < other             ? way_by_number(other)
                                                      : way_by_number(at) * -1;
            const double theirs = spheres_.radii[other] * spheres_.radii[other];
            const double share = spheres_.stays[other] != 0 ? 1 : theirs / (theirs + radius * radius);
            push = push + way * ((reach - distance) * share);
            ++pushers;
        }
        // Two that only touch others who stay overlap none of their own.
        overlaps_[at] = worst;
        if (spheres_.stays[at] != 0) return place;
        if (pushers > 1) push = push * (1.5 / static_cast<double>(pushers));
        if (pull > 0) push = push + pulled(place, radius, pull);
        const Vec3 to = place + push;
        return rule_.kept ? rule_.kept(at, to) : to;
    }
    // No further than its own radius at once, so that none jumps over another.
    Vec3 pulled(Vec3 place, double radius, double pull) const {
        const Vec3 way = *rule_.drawn_to - place;
        const double far = length(way);
        return far > 0 ? way * (pull * std::min(1.0, radius / far)) : Vec3{};
    }
    void count(PushedApart& made) {
        grid_.each(
            places_, 0, places_.size(), [&](std::uint32_t at, const std::vector<std::uint32_t>& others) {
                for (const std::uint32_t other : others) {
                    if (other <= at) continue;
                    const double smaller = std::min(spheres_.radii[at], spheres_.radii[other]);
                    const double gap =
                        length(places_[at] - places_[other]) - spheres_.radii[at] - spheres_.radii[other];
                    if (gap <= touches_within * smaller) ++made.touching;
                    if (gap < -rule_.overlap * smaller) ++made.overlaps;
                }
            });
    }

    const Spheres& spheres_;
    const PushingRule& rule_;
    std::vector<Vec3> places_, next_;
    std::vector<double> overlaps_;  // the worst of each
    PlaceGrid grid_;
};

}  // namespace

Result<PushedApart> pushed_apart(const Spheres& spheres, const PushingRule& rule, const Run& run) {
    if (spheres.places.empty()) return PushedApart{};
    if (!std::ranges::all_of(spheres.places, [](Vec3 place) { return is_finite(place); }) ||
        !std::ranges::all_of(spheres.radii, [](double radius) { return std::isfinite(radius); }))
        return Error{ErrorCode::not_finite, "", "has a place or a radius that is not finite",
                     "Mend the step that makes it."};
    if (!std::ranges::all_of(spheres.radii, [](double radius) { return radius > 0; }))
        return Error{ErrorCode::out_of_range, "", "has a radius that is not above 0",
                     "Give all of them a size."};
    return Pushing(spheres, rule).all(run);
}

}  // namespace plume
