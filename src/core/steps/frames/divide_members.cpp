#include <cmath>

#include "core/geometry/frames/frame_edits.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

std::size_t pieces_of(const Inputs& in, double length) {
    if (in.word("rule") == "count") return in.count("pieces");
    // A length that is a whole number of the longest takes no piece more for its rounding.
    return static_cast<std::size_t>(std::max(1.0, std::ceil(length / in.number("longest") - 1e-9)));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    std::vector<std::size_t> pieces;
    pieces.reserve(frame.member_count());
    for (const Member& member : frame.members())
        pieces.push_back(pieces_of(in, frame.length_of(member)));
    auto divided = divided_members(frame, pieces, run);
    if (!divided) return about_slot(divided.error(), "frame");
    return Value(*std::move(divided));
}

Estimate estimate(const Inputs& in) {
    const auto& frame = in.held<BarFrame>("frame");
    double pieces = 0;
    if (in.word("rule") == "count") {
        pieces = static_cast<double>(frame.member_count()) * in.number("pieces");
    } else {
        for (const Member& member : frame.members())
            pieces += std::max(1.0, std::ceil(frame.length_of(member) / in.number("longest")));
    }
    const auto fields = static_cast<double>(frame.fields().size() + frame.nodes().fields().size());
    return {pieces * (170 + 24 * fields) + static_cast<double>(frame.nodes().address_count()) * 80,
            pieces * 4e-7};
}

}  // namespace

StepKind divide_members() {
    return {
        .key = "frame.divide",
        .verb = "Divide members of a frame",
        .synonyms = "subdivide split bars pieces nodes between longest stock",
        .sentence =
            "Divide the members of {frame} into[rule=count| {pieces} pieces,]"
            "[rule=length| pieces no longer than {longest},] {rule}.",
        .slots = {frame_slot(),
                  choice_slot("rule", "Rule",
                              {{"count", "as many of each", "however long they are"},
                               {"length", "as few as that takes", "equal ones of each"}}),
                  count_slot("pieces", "Pieces", "2", 1),
                  length_above_zero_slot("longest", "Longest", "3 m")},
        .results = {Kind::frame},
        .result_name = "divided",
        .help =
            "Equal pieces of each member, with nodes between them that are marked by the member and their "
            "number. Pieces keep the way, the row and the numbers of their member.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
