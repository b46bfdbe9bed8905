#include "core/geometry/curves/compatible_curves.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

std::vector<SplineCurve> sections_of(const Inputs& in) {
    std::vector<SplineCurve> sections = in.held<CurveSet>("curve").curves;
    if (in.word("from") == "between") {
        const auto& last = in.held<CurveSet>("last").curves;
        sections.insert(sections.end(), last.begin(), last.end());
    }
    return sections;
}

// A tip has the poles of the section it closes.
Status add_tips(const Inputs& in, std::vector<SplineCurve>& sections) {
    const std::string& ends = in.word("ends");
    const auto place = [&](const char* slot) -> Result<Vec3> {
        if (!in.places(slot).empty()) return in.places(slot).front().position;
        return about_slot(Error{ErrorCode::missing_input, "", "is not given", "Add one."}, slot);
    };
    if (ends == "from_tip" || ends == "tips") {
        const auto tip = place("first_tip");
        if (!tip) return tip.error();
        sections.insert(sections.begin(), tip_like(sections.front(), *tip));
    }
    if (ends == "to_tip" || ends == "tips") {
        const auto tip = place("last_tip");
        if (!tip) return tip.error();
        sections.push_back(tip_like(sections.back(), *tip));
    }
    return Done{};
}

Result<Value> make(const Inputs& in, const Run& run) {
    std::vector<SplineCurve> sections = aligned(sections_of(in), in.has("turn") ? in.number("turn") : 0);
    if (sections.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no curve", "Choose another."}, "curve");
    if (Status status = add_tips(in, sections); !status) return status.error();
    Result<SplinePatch> patch =
        lofted({std::move(sections), in.word("shape") == "smooth", in.word("ends") == "ring"}, run);
    if (!patch) return about_slot(patch.error(), "curve");
    return Value(SurfaceSet{{*std::move(patch)}});
}

}  // namespace

StepKind loft_curves() {
    return {
        .key = "surface.loft",
        .verb = "Span a surface over curves",
        .synonyms = "loft skin ruled sections ribs between through cover tent roof",
        .sentence =
            "Span a {shape} surface {from} {curve}[from=between| and {last}], {ends}"
            "[ends=from_tip,tips| at {first_tip}][ends=to_tip| at {last_tip}][ends=tips| and {last_tip}]"
            ", with seams turned by {turn}.",
        .slots = {choice_slot("shape", "Shape",
                              {{"smooth", "smooth", "cubic across the curves, where there are three or more"},
                               {"straight", "straight", "ruled from each curve to the next"}}),
                  choice_slot("from", "Curves",
                              {{"between", "between", "one result and another"},
                               {"over", "over the curves of", "all curves of one result, in their order"}}),
                  curves_slot(), curves_slot("last", "Last curve"),
                  choice_slot(
                      "ends", "Ends",
                      {{"open", "open at its ends", "from the first curve to the last"},
                       {"ring", "closed into a ring", "the last curve is joined to the first"},
                       {"from_tip", "from a tip", "a point before the first curve"},
                       {"to_tip", "to a tip", "a point behind the last curve"},
                       {"tips", "from tip to tip", "a point before the first and one behind the last"}}),
                  places_slot("first_tip", "First tip", {{"tip", "0 m", "0 m", "6 m", "1"}}),
                  places_slot("last_tip", "Last tip", {{"tip", "0 m", "0 m", "-6 m", "1"}}),
                  number_slot("turn", "Turn of the seams", "0")},
        .results = {Kind::surface},
        .result_name = "surface",
        .help =
            "An exact surface through curves. Degrees and knots are made alike without changing a curve, "
            "directions "
            "and seams of closed curves are aligned by themselves; every further seam can be turned on by a "
            "share "
            "of the way round. Numbers that all curves carry go along.",
        .estimate =
            [](const Inputs& in) {
                const std::vector<SplineCurve> sections = sections_of(in);
                const auto curves = static_cast<double>(sections.size());
                const double fields =
                    sections.empty() ? 0 : static_cast<double>(sections.front().fields().size());
                const double poles = compatible_pole_count(sections) * (curves + 2);
                return Estimate{poles * (4 + fields) * 24, poles * 1e-6 + curves * 1e-4};
            },
        .make = make,
    };
}

}  // namespace plume
