#include "core/geometry/frames/neighbour_links.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<Pairs> pairs_of(const Inputs& in, const std::vector<Vec3>& places, const Run& run) {
    if (in.word("rule") == "nearest") return nearest_pairs(places, in.count("count"), run);
    if (in.word("rule") == "within") return pairs_within(places, in.number("distance"), run);
    return shortest_tree(places, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const auto joined = points_to_join(in, "no nodes", run);
    if (!joined) return joined.error();
    const auto& [places, addresses] = *joined;
    const auto pairs = pairs_of(in, places, run);
    if (!pairs) return pairs.error();
    if (pairs->empty())
        return about_slot(
            Error{ErrorCode::out_of_range, "", "reaches from no point to another", "Type a larger one."},
            "distance");
    return frame_of_pairs(points, addresses, *pairs, run);
}

Estimate estimate(const Inputs& in) {
    const PointLattice& points = in.lattice("points");
    const auto count = static_cast<double>(points.address_count());
    if (in.word("rule") == "tree") return {count * 900, count * 1.5e-5};
    const double pairs = in.word("rule") == "nearest"
                             ? count * std::min(count, in.number("count"))
                             : expected_pairs_within(finite_points(points).places, in.number("distance"));
    return {count * 60 + pairs * 70, count * 1e-6 + pairs * 3e-7};
}

}  // namespace

StepKind frame_neighbours() {
    return {
        .key = "frame.neighbours",
        .verb = "Link points that lie near each other",
        .synonyms = "nearest proximity bars members shortest spanning tree graph network within distance",
        .sentence =
            "Link the points of {points} {rule}[rule=nearest| {count} nearest]"
            "[rule=within| {distance} of it].",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("rule", "Rule",
                              {{"nearest", "each to its", "so many others"},
                               {"within", "each to all within", "a distance"},
                               {"tree", "by the shortest tree", "all hang together, with the least length"}}),
                  count_slot("count", "How many", "3", 1),
                  length_above_zero_slot("distance", "Distance", "1 m")},
        .results = {Kind::frame},
        .result_name = "web",
        .help =
            "Members between points in no arrangement, or whatever their arrangement: each to so many "
            "nearest "
            "others, to all within a distance, or so that all hang together by the least length of members. "
            "Two points have one member, whichever of them it was that reached for the other.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
