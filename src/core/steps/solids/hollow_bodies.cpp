#include "core/geometry/solids/hollowed.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const SolidSet& set = in.held<SolidSet>("bodies");
    remark_polygons(set, run);
    SolidSet hollow;
    for (std::size_t number = 0; number < set.bodies.size(); ++number) {
        if (run.cancelled()) return cancelled_error();
        Result<Body> one = hollowed(set.bodies[number], in.number("by"), body_polygons, run);
        if (!one) return about_slot(at_body(one.error(), number, set.bodies.size()), "bodies");
        hollow.bodies.push_back(*std::move(one));
    }
    return some_bodies(std::move(hollow), "bodies", "holds no body");
}

}  // namespace

StepKind hollow_bodies() {
    return {
        .key = "body.hollow",
        .verb = "Hollow out bodies",
        .synonyms = "shell wall thickness inside empty cast mould",
        .sentence = "Hollow out {bodies}, leaving walls of {by}.",
        .slots = {bodies_slot(), length_above_zero_slot("by", "Walls", "100 mm")},
        .results = {Kind::bodies},
        .result_name = "hollow",
        .help =
            "Bodies with a hollow of their own form inside: flat walls keep the thickness. Where one smooth "
            "face "
            "closes by itself the walls are exact, else the hollow is a mesh. Walls that leave no room are "
            "refused.",
        .estimate = [](const Inputs& in) { return bodies_estimate(in, "bodies", 1500, 2e-5); },
        .make = make,
    };
}

}  // namespace plume
