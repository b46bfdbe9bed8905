#include <numeric>

#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Error nothing_left(const char* slot) {
    return about_slot(Error{ErrorCode::out_of_range, "", "leaves nothing of the curve",
                            "Type two places on it, the first before the second."},
                      slot);
}

Result<SplineCurve> part_between(const SplineCurve& curve, double from, double to, double whole,
                                 const char* slot) {
    const CurveLength measure(curve);
    const double scale = measure.total() / whole;
    const double start = curve.basis().start(), period = curve.basis().end() - start;
    double first = measure.parameter_at(from * scale), last = measure.parameter_at(to * scale);
    // Of a closed curve the part may run across its seam.
    if (curve.closed() && !(last > first)) last += period;
    if (!(last > first + 1e-12 * period)) return nothing_left(slot);
    if (first >= curve.basis().end()) {
        if (!curve.closed()) return nothing_left(slot);
        first -= period;
        last -= period;
    }
    return part_of(curve, first, last);
}

Result<Value> on_one_side(const Inputs& in, const Run& run) {
    const Placement plane = in.held<Placements>("plane").present_placements().front();
    const bool above = in.word("side") == "above";
    const CurveSet& set = in.held<CurveSet>("curve");
    CurveSet kept;
    for (const SplineCurve& curve : set.curves) {
        if (run.cancelled()) return cancelled_error();
        for (const SplineCurve& piece : split_at(curve, crossings_with_plane(curve, plane))) {
            const double middle = std::midpoint(piece.basis().start(), piece.basis().end());
            const double height = plane.to_local(evaluate(piece, middle).position).z;
            if (above ? height > 0 : height < 0) kept.curves.push_back(piece);
        }
    }
    if (kept.curves.empty())
        return about_slot(
            Error{ErrorCode::out_of_range, "",
                  above ? "has nothing of the curve above it" : "has nothing of the curve below it",
                  "Keep the other side, or move the plane."},
            "plane");
    return Value(std::move(kept));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& rule = in.word("rule");
    if (rule == "plane") return on_one_side(in, run);
    return each_curve(in, run, [&](const SplineCurve& curve) -> Result<SplineCurve> {
        if (rule == "shares")
            return part_between(curve, in.number("from_share"), in.number("to_share"), 1, "to_share");
        const double total = length_of(curve);
        for (const char* slot : {"from_length", "to_length"})
            if (in.number(slot) > total * (1 + 1e-12))
                return about_slot(Error{ErrorCode::out_of_range, "",
                                        "lies beyond the end of the curve, which is " +
                                            quantity_text({total, a_length}, in.units()) + " long",
                                        "Type a smaller length."},
                                  slot);
        return part_between(curve, in.number("from_length"), in.number("to_length"), total, "to_length");
    });
}

SlotSpec share_slot(const char* key, const char* label, const char* preset) {
    SlotSpec spec = number_slot(key, label, preset);
    spec.least = 0;
    spec.most = 1;
    return spec;
}

SlotSpec along_slot(const char* key, const char* label, const char* preset) {
    SlotSpec spec = length_slot(key, label, preset);
    spec.least = 0;
    return spec;
}

}  // namespace

StepKind take_curve_part() {
    return {
        .key = "curve.part",
        .verb = "Take a part of a curve",
        .synonyms = "trim cut shorten segment stretch piece",
        .sentence =
            "Take the part of {curve} {rule} [rule=shares|{from_share} to {to_share}]"
            "[rule=lengths|{from_length} to {to_length}][rule=plane|{side} {plane}].",
        .slots = {curves_slot(),
                  choice_slot("rule", "Rule",
                              {{"shares", "from the share", "0 is the start, 1 the end of its length"},
                               {"lengths", "from", "by lengths from its start"},
                               {"plane", "that lies", "on one side of a placement's plane"}}),
                  share_slot("from_share", "From", "0.25"), share_slot("to_share", "To", "0.75"),
                  along_slot("from_length", "From", "1 m"), along_slot("to_length", "To", "5 m"),
                  choice_slot("side", "Side",
                              {{"above", "above", "where its up points"}, {"below", "below", ""}}),
                  reference_slot("plane", "Plane", {Kind::placements})},
        .results = {Kind::curves},
        .result_name = "stretch",
        .help =
            "A stretch of a curve, exactly as it runs there. Of a closed curve it may run across the seam: "
            "from 0.8 to 0.2.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 8, 3e-6); },
        .make = make,
    };
}

}  // namespace plume
