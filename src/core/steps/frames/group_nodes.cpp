#include <numbers>

#include "core/steps/frames/family_support.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<FamilyCounts> counts(const Inputs& in, const Run& run) {
    return counts_of(node_shapes(in.held<BarFrame>("frame")), std::numbers::pi / 4,
                     {in.number("tolerance"), an_angle}, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    const double tolerance = in.number("tolerance");
    const auto families = families_of(node_shapes(frame), tolerance, run);
    if (!families) return families.error();
    say_families(*families, tolerance, run);
    return Value(
        FieldOnPoints{frame.nodes().with_field({in.result_name(), family_numbers(*families), plain_number}),
                      in.result_name()});
}

// Pairs of members at every node.
Estimate estimate(const Inputs& in) {
    double pairs = 0;
    const std::vector<std::uint32_t> valences = valences_of(in.held<BarFrame>("frame"));
    for (const std::uint32_t valence : valences)
        pairs += static_cast<double>(valence) * valence / 2;
    const auto nodes = static_cast<double>(valences.size());
    return {pairs * 12 + nodes * 90, pairs * 2e-7 + nodes * 2e-6};
}

}  // namespace

StepKind group_nodes() {
    SlotSpec tolerance = angle_slot("tolerance", "Tolerance", "1°");
    tolerance.least = 0;
    return {
        .key = "field.node_families",
        .verb = "Group nodes into families",
        .synonyms = "alike joints valence angles connectors types frame rationalise rationalize",
        .sentence = "Group the nodes of {frame} by the angles between their members within {tolerance}.",
        .slots = {frame_slot(), tolerance},
        .results = {Kind::field},
        .result_name = "node_family",
        .help =
            "A number on each node: nodes with as many members, and angles between them that differ by no "
            "more "
            "than the tolerance, smallest to smallest and so on, are one family. Families are numbered as "
            "nodes "
            "come.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"tolerance", context(counts)}},
    };
}

}  // namespace plume
