#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/segment_tree.hpp"
#include "core/geometry/measures/point_tree.hpp"
#include "core/geometry/numbers/distance.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "core/steps/parts/kept_points.hpp"

namespace plume {
namespace {

std::vector<SegmentTree> trees_of(const Value& value) {
    std::vector<SegmentTree> trees;
    const auto add = [&](std::vector<Vec3> corners) {
        if (corners.size() == 1) corners.push_back(corners.front());
        trees.emplace_back(corners);
    };
    if (const auto* attractors = std::get_if<Attractors>(&value))
        for (const Attractor& item : attractors->items())
            add(item.path ? *item.path : std::vector<Vec3>{item.position});
    if (const auto* set = std::get_if<CurveSet>(&value))
        for (const SplineCurve& curve : set->curves) {
            CurveSamples samples = sample(curve, usual_tolerance(curve) / 4);
            if (samples.closed) samples.points.push_back(samples.points.front());
            add(samples.points);
        }
    return trees;
}

// 1 where a point lies within the distance.
Result<std::vector<std::uint8_t>> near_mask(const PointLattice& points, const Value& things, double distance,
                                            const Run& run) {
    std::vector<std::uint8_t> mask(points.address_count(), 0);
    std::vector<Vec3> others;
    if (const PointLattice* lattice = lattice_of(things)) others = finite_points(*lattice).places;
    const PointTree near(others);
    const std::vector<SegmentTree> trees = trees_of(things);
    const bool finished =
        parallel_blocks(mask.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            std::vector<std::size_t> guesses(trees.size(), 0);
            for (std::size_t index = begin; index < end; ++index) {
                const Vec3 point = points.point(index);
                if (!is_finite(point)) continue;
                for (std::size_t at = 0; at < trees.size() && mask[index] == 0; ++at) {
                    const NearestPlace found = trees[at].nearest(point, guesses[at]);
                    guesses[at] = found.segment;
                    mask[index] = found.distance <= distance ? 1 : 0;
                }
                if (mask[index] == 0 && std::sqrt(near.nearest_square(point)) <= distance) mask[index] = 1;
            }
        });
    if (!finished) return cancelled_error();
    return mask;
}

Result<Value> make(const Inputs& in, const Run& run) {
    Result<std::vector<std::uint8_t>> mask =
        near_mask(in.lattice("points"), in.value("things"), in.number("distance"), run);
    if (!mask) return mask.error();
    if (in.word("side") == "further") turn_over(*mask);
    return kept(in, *mask, "No point lies " + in.word("side") + " than the distance",
                "Type another distance.");
}

}  // namespace

StepKind keep_near() {
    return {
        .key = "points.keep_near",
        .verb = "Keep points by distance",
        .synonyms = "near far within closer further select attractors curve path",
        .sentence = "Keep the points of {points} {side} than {distance} from {things}, and {gaps}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("side", "Side", {{"further", "further", ""}, {"closer", "closer", ""}}),
                  length_above_zero_slot("distance", "Distance", "2 m"),
                  reference_slot("things", "Things",
                                 {Kind::curves, Kind::attractors, Kind::points, Kind::field}),
                  gaps_slot()},
        .results = {Kind::points},
        .result_name = "near",
        .help =
            "Points closer to curves, attractors or other points than a distance, or further from all of "
            "them.",
        .estimate = kept_estimate,
        .make = make,
    };
}

}  // namespace plume
