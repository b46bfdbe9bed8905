#include "core/geometry/solids/combined.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Combination combination_of(const std::string& word) {
    if (word == "join") return Combination::joined;
    return word == "share" ? Combination::shared : Combination::cut;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto &first = in.held<SolidSet>("first"), &second = in.held<SolidSet>("second");
    Result<SolidSet> made = combined(first, second, combination_of(in.word("operation")), body_polygons, run);
    if (!made) return about_slot(made.error(), "first");
    SolidSet both = first;
    both.bodies.insert(both.bodies.end(), second.bodies.begin(), second.bodies.end());
    remark_polygons(both, run);
    return some_bodies(
        *std::move(made), "second",
        in.word("operation") == "share" ? "shares no place with the other" : "takes all of the other away");
}

}  // namespace

StepKind combine_bodies() {
    return {
        .key = "body.combine",
        .verb = "Combine bodies",
        .synonyms =
            "join union cut subtract difference share intersect intersection boolean openings holes merge",
        .sentence =
            "{operation} {first}[operation=join| with {second}][operation=cut| by {second}][operation=share| "
            "and "
            "{second}].",
        .slots = {choice_slot("operation", "Operation",
                              {{"join", "Join", "all of both, one body where they overlap"},
                               {"cut", "Cut", "the first without the second"},
                               {"share", "Keep what is shared of", "only what is in both"}}),
                  bodies_slot("first", "First"), bodies_slot("second", "Second")},
        .results = {Kind::bodies},
        .result_name = "combined",
        .help =
            "Flat faces stay exactly where they are; round ones are meshed first. Their number operand says "
            "which of the two a place comes from: 0 the first, 1 the second.",
        .estimate =
            [](const Inputs& in) {
                const Estimate first = bodies_estimate(in, "first", 500, 2e-5),
                               second = bodies_estimate(in, "second", 500, 2e-5);
                return Estimate{first.bytes + second.bytes, first.seconds + second.seconds};
            },
        .make = make,
    };
}

}  // namespace plume
