#include "core/geometry/moves/copies.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    return joined_values({&in.value("first"), &in.value("second")}, run);
}

}  // namespace

StepKind join_results() {
    return {
        .key = "thing.join",
        .verb = "Join two results",
        .synonyms = "merge concatenate append together union combine lists points meshes curves",
        .sentence = "Join {first} with {second}.",
        .slots = {reference_slot("first", "First", movable_kinds()),
                  reference_slot("second", "Second", movable_kinds())},
        .results = movable_kinds(),
        .result_name = "joined",
        .help =
            "Two results of one kind as one: rows of points go on one behind the other, other points become "
            "a "
            "scatter, meshes and curves stand side by side. Fields that both have are kept.",
        .estimate =
            [](const Inputs& in) {
                return Estimate{copies_bytes(in.value("first"), 1) + copies_bytes(in.value("second"), 1), 0};
            },
        .make = make,
    };
}

}  // namespace plume
