#include "core/base/parallel.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/steps/parts/kept_points.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const auto outline = Outline::make(in.held<CurveSet>("outline"));
    if (!outline) return about_slot(outline.error(), "outline");
    const std::uint8_t wanted = in.word("side") == "inside" ? 1 : 0;
    std::vector<std::uint8_t> mask(points.address_count());
    const bool finished =
        parallel_blocks(mask.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                mask[index] = (outline->contains(points.point(index)) ? 1 : 0) == wanted ? 1 : 0;
        });
    if (!finished) return cancelled_error();
    return kept(in, mask, "No point lies " + in.word("side") + " the outline",
                "Move the outline, or take the other side.");
}

}  // namespace

StepKind keep_inside() {
    return {
        .key = "points.keep_inside",
        .verb = "Keep points inside an outline",
        .synonyms = "trim clip mask region boundary select within outside",
        .sentence = "Keep the points of {points} {side} {outline}, and {gaps}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("side", "Side", {{"inside", "inside", ""}, {"outside", "outside", ""}}),
                  reference_slot("outline", "Outline", {Kind::curves}), gaps_slot()},
        .results = {Kind::points},
        .result_name = "inside",
        .help =
            "Keeps the points that lie inside an outline, or outside, seen square to the outline's plane.",
        .estimate = kept_estimate,
        .make = make,
    };
}

}  // namespace plume
