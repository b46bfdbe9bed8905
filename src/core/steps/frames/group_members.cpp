#include <algorithm>

#include "core/steps/frames/family_support.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Doubles lengths_of(const BarFrame& frame) {
    Doubles lengths(frame.member_count());
    for (std::size_t at = 0; at < lengths.size(); ++at)
        lengths[at] = frame.length_of(frame.members()[at]);
    return lengths;
}

std::vector<std::uint32_t> groups_of(const Inputs& in, const BarFrame& frame) {
    std::vector<std::uint32_t> groups;
    if (in.word("apart") != "ways") return groups;
    groups.reserve(frame.member_count());
    for (const Member& member : frame.members())
        groups.push_back(static_cast<std::uint32_t>(member.way));
    return groups;
}

Result<FamilyCounts> counts(const Inputs& in) {
    const auto& frame = in.held<BarFrame>("frame");
    const Doubles lengths = lengths_of(frame);
    const auto [least, most] = std::ranges::minmax(lengths);
    FamilyCounts made{
        tolerances_up_to(most - least, in.number("tolerance")), {}, a_length, in.number("tolerance")};
    made.counts = family_counts(lengths, groups_of(in, frame), made.tolerances);
    return made;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    const Doubles lengths = lengths_of(frame);
    const double tolerance = in.number("tolerance");
    const Families families = families_of(lengths, groups_of(in, frame), tolerance);
    say_families(families, tolerance, run);
    const auto [least, most] = std::ranges::minmax(lengths);
    if (families.count == 1 && most > least && tolerance > most - least)
        run.remark("The tolerance is larger than all they differ by, " +
                   quantity_text({most - least, a_length}, in.units(), 3) + ".");
    return Value(frame.with_field({in.result_name(), family_numbers(families), plain_number}));
}

}  // namespace

StepKind group_members() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "5 mm");
    tolerance.least = 0;
    return {
        .key = "frame.families",
        .verb = "Group members into families",
        .synonyms = "alike same lengths types sorts clusters bars rationalise rationalize cutting list",
        .sentence = "Group the members of {frame} by their lengths within {tolerance}, {apart}.",
        .slots = {frame_slot(), tolerance,
                  choice_slot(
                      "apart", "Apart",
                      {{"together", "whatever way they run", "a length is a length"},
                       {"ways", "each way by itself", "members along i and diagonals are no family"}})},
        .results = {Kind::frame},
        .result_name = "family",
        .help =
            "A number for each member, the family of its length: the shortest member begins family 0, which "
            "holds all that are no more than the tolerance longer, and so on, which makes as few families as "
            "can be. Readings show how many there would be at other tolerances; drag the line there.",
        .bears_name = true,
        .estimate = [](const Inputs& in) { return frame_estimate(in, 70, 3e-7); },
        .make = make,
        .contexts = {{"tolerance", context(counts)}},
    };
}

}  // namespace plume
