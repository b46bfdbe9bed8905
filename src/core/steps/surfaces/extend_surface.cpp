#include <algorithm>
#include <array>

#include "core/base/units.hpp"
#include "core/geometry/surfaces/extended_surface.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

struct NamedRim {
    const char* word;
    int direction;
    bool at_end;
};
constexpr std::array<NamedRim, 4> rims{
    {{"u_start", 0, false}, {"u_end", 0, true}, {"v_start", 1, false}, {"v_end", 1, true}}};

// Of all rims those that are there.
std::vector<NamedRim> rims_of(const SplinePatch& patch, const std::string& word) {
    std::vector<NamedRim> wanted;
    for (const NamedRim& rim : rims)
        if (word == "all" ? has_rim(patch, rim.direction, rim.at_end)
                          : word == rim.word || word == (rim.direction == 0 ? "u" : "v"))
            wanted.push_back(rim);
    return wanted;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const double by = in.number("by");
    const SurfaceExtension shape =
        in.word("shape") == "straight" ? SurfaceExtension::straight : SurfaceExtension::onwards;
    double deviation = 0, shortest = by, longest = by;
    Result<Value> made =
        each_patch(in, run, Trims::refused, [&](const SplinePatch& patch) -> Result<SplinePatch> {
            const std::vector<NamedRim> wanted = rims_of(patch, in.word("rim"));
            if (wanted.empty())
                return Error{ErrorCode::has_gaps, "", "closes everywhere and has no rim",
                             "Take a part of it first."};
            SplinePatch longer = patch;
            for (const NamedRim& rim : wanted) {
                const auto one = extended(longer, {rim.direction, rim.at_end, by, shape}, run);
                if (!one) return one.error();
                longer = one->patch;
                deviation = std::max(deviation, one->deviation);
                shortest = std::min(shortest, one->shortest);
                longest = std::max(longest, one->longest);
            }
            return longer;
        });
    if (!made) return made;
    if (shape == SurfaceExtension::straight) {
        if (deviation > 1e-12 * by) run.remark(deviation_sentence(deviation, in));
    } else if (longest - shortest > 1e-6 * by)
        run.remark("It goes on by " + quantity_text({shortest, a_length}, in.units()) + " to " +
                   quantity_text({longest, a_length}, in.units()) + ".");
    return made;
}

}  // namespace

StepKind extend_surface() {
    return {
        .key = "surface.extend",
        .verb = "Extend a surface",
        .synonyms = "lengthen larger overhang eaves continue beyond rim edge border",
        .sentence = "Extend {surface} at {rim} by {by}, {shape}.",
        .slots = {surface_slot(),
                  choice_slot("rim", "Rim",
                              {{"all", "all rims", "corners are filled"},
                               {"u", "both ends of u", ""},
                               {"v", "both ends of v", ""},
                               {"u_start", "the start of u", ""},
                               {"u_end", "the end of u", ""},
                               {"v_start", "the start of v", ""},
                               {"v_end", "the end of v", ""}}),
                  length_above_zero_slot("by", "Length", "500 mm"),
                  choice_slot("shape", "Shape",
                              {{"straight", "straight on", "along straight lines, each as long"},
                               {"onwards", "as it bends", "its splines go on, as long in the mean"}})},
        .results = {Kind::surface},
        .result_name = "extended",
        .help =
            "A surface that goes on beyond its rims, without a crease. What was there stays exactly what it "
            "is, and its numbers stay what they are at the rim. A straight overhang is as wide everywhere; "
            "one "
            "that goes on as it bends is so in the mean, and how far it goes is said.",
        .estimate = [](const Inputs& in) { return surface_poles_estimate(in, 700, 1e-5); },
        .make = make,
    };
}

}  // namespace plume
