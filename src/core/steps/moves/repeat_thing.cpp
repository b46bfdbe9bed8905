#include <numbers>

#include "core/geometry/curves/curve_placements.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/moves/copy_story.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    return {copies_bytes(in.value("thing"), in.number("count")), 0};
}

Result<Value> around(const Inputs& in, const Run& run) {
    const Placement axis = axis_of(in);
    const std::size_t count = in.count("count");
    const bool full = in.word("how") == "turn";
    const double step = full ? 2 * std::numbers::pi / static_cast<double>(count) : in.number("angle");
    std::vector<Affine> maps;
    for (std::size_t at = 0; at < count; ++at) {
        const double share = static_cast<double>(at);
        maps.push_back(composed(moved_by(axis.up * (in.number("rise") * share)),
                                turned_about(axis.origin, axis.up, step * share)));
    }
    return copied(in.value("thing"), maps, full && count >= 3 && in.number("rise") == 0, run);
}

Result<Value> in_line(const Inputs& in, const Run& run) {
    std::vector<Affine> maps;
    for (std::size_t at = 0; at < in.count("count"); ++at)
        maps.push_back(moved_by(vector_of(in) * static_cast<double>(at)));
    return copied(in.value("thing"), maps, false, run);
}

Result<Value> along_curve(const Inputs& in, const Run& run) {
    const Result<SplineCurve> single = single_curve(in, "curve");
    if (!single) return single.error();
    const SplineCurve& curve = *single;
    const auto placements = placements_along(curve, in.count("count"), PlacementTurning::least, run);
    if (!placements) return placements.error();
    std::vector<Affine> maps;
    for (const Placement& placement : *placements)
        maps.push_back(between_placements(placements->front(), placement));
    return copied(in.value("thing"), maps, curve.closed() && placements->size() >= 3, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& how = in.word("how");
    if (how == "line") return in_line(in, run);
    return how == "along" ? along_curve(in, run) : around(in, run);
}

PartStory story(const Inputs& in, const Value& made, PartRef part) {
    const auto copy = copy_of(in.value("thing"), made, part);
    if (!copy || copy->copies != in.count("count")) return {};
    return {{copy_text(*copy)}, {{{"thing", copy->part}}}};
}

}  // namespace

StepKind repeat_thing() {
    std::vector<SlotSpec> slots = with_vector(
        {thing_slot(), count_slot("count", "Copies", "6", 1),
         choice_slot("how", "How",
                     {{"line", "in line", "each a step further"},
                      {"turn", "all around", "a full turn about an axis; the last meets the first"},
                      {"steps", "around", "about an axis, by steps of an angle"},
                      {"along", "along", "by the placements of a curve, the first where the thing stands"}})},
        "3 m", "0 m", "0 m");
    slots.push_back(angle_slot("angle", "Angle", "15°"));
    slots.push_back(length_slot("rise", "Rise", "0 m"));
    slots.push_back(reference_slot("curve", "Curve", {Kind::curves}));
    return {
        .key = "thing.repeat",
        .verb = "Repeat",
        .synonyms = "array copies pattern polar linear along curve duplicate",
        .sentence =
            "Repeat {thing} {count} times {how} [how=line|every {x}, {y}, {z}][how=turn,steps|{axis}]"
            "[how=turn,steps&axis=placed| of {placement}][how=steps| by {angle} each][how=turn,steps|, "
            "rising "
            "{rise} each][how=along|{curve}].",
        .slots = with_axis(std::move(slots)),
        .results = movable_kinds(),
        .result_name = "copies",
        .help =
            "Copies of anything, the first where it stands: in line, around an axis, or carried along a "
            "curve by "
            "frames that turn as little as it lets them. Copies of a row of points are the rows of a grid, "
            "those "
            "of a grid the layers of a block, and a full turn closes them.",
        .estimate = estimate,
        .make = make,
        .story = story,
    };
}

}  // namespace plume
