#include "core/geometry/numbers/direction_field.hpp"

#include <limits>
#include <memory>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/segment_tree.hpp"

namespace plume {
namespace {

struct Pull {
    Vec3 direction;  // unit, or zero on the attractor
    double distance = 0;
};

class Source {
public:
    explicit Source(const Attractor& attractor)
        : attractor_(&attractor),
          tree_(attractor.path ? std::make_unique<const SegmentTree>(*attractor.path) : nullptr) {}

    double weight() const { return attractor_->weight; }

    Pull at(Vec3 point, const DirectionRule& rule, std::size_t& guess) const {
        Vec3 place = attractor_->position, axis = rule.axis;
        if (tree_) {
            const NearestPlace found = tree_->nearest(point, guess);
            guess = found.segment;
            place = found.place;
            axis = found.along;
        }
        const Vec3 off = point - place;
        if (rule.sense == DirectionSense::around) return {unit_or_zero(cross(axis, off)), length(off)};
        return {unit_or_zero(rule.sense == DirectionSense::away ? off : off * -1.0), length(off)};
    }

private:
    const Attractor* attractor_;
    std::unique_ptr<const SegmentTree> tree_;
};

double strength(const DirectionRule& rule, double distance) {
    if (rule.fading.response == Response::distance) return 1;
    respond(rule.fading, rule.reach, {&distance, 1});
    return distance;
}

Vec3 direction_at(Vec3 point, const std::vector<Source>& sources, const DirectionRule& rule,
                  std::vector<std::size_t>& guesses) {
    Vec3 sum, nearest;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t at = 0; at < sources.size(); ++at) {
        const Pull pull = sources[at].at(point, rule, guesses[at]);
        const Vec3 part = pull.direction * (sources[at].weight() * strength(rule, pull.distance));
        sum = sum + part;
        const double weighed = pull.distance / std::abs(sources[at].weight());
        if (weighed >= least) continue;
        least = weighed;
        nearest = part;
    }
    return rule.nearest_only ? nearest : sum;
}

}  // namespace

Result<DirectionColumns> direction_field(const PointLattice& lattice, const Attractors& attractors,
                                         const DirectionRule& rule, const Run& run) {
    const std::vector<Source> sources(attractors.items().begin(), attractors.items().end());
    const std::size_t count = lattice.address_count();
    DirectionColumns result{Doubles(count), Doubles(count), Doubles(count)};
    const bool finished = parallel_blocks(count, usual_block, run, [&](std::size_t begin, std::size_t end) {
        std::vector<std::size_t> guesses(sources.size(), 0);
        for (std::size_t index = begin; index < end; ++index) {
            const Vec3 direction = direction_at(lattice.point(index), sources, rule, guesses);
            result.x[index] = direction.x;
            result.y[index] = direction.y;
            result.z[index] = direction.z;
        }
    });
    if (!finished) return cancelled_error();
    return result;
}

}  // namespace plume
