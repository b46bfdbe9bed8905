#include "core/study/step_group.hpp"

namespace plume {
namespace {

// The least there can be; nobody is offered it.
StepGroup preset_group() {
    StepGroup group;
    group.title = "Steps as one";
    group.sentence = "Lay a field of {columns} by {rows} bays";
    group.help = "Several steps with one sentence, whose slots are what they leave open.";
    group.open = {{"columns", "field_of_points", "columns"}, {"rows", "field_of_points", "rows"}};
    group.result = "field_of_points";
    Step step;
    step.id = group.steps.next_id++;
    step.kind = "lattice.rectangular";
    step.name = group.result;
    group.steps.items.emplace_back(std::make_shared<const Step>(std::move(step)));
    return group;
}

StepGroup group_or_preset(const Step& step) {
    const StepGroup* group = group_of(step);
    return group ? *group : preset_group();
}

}  // namespace

StepKind steps_as_one() {
    StepKind kind{
        .key = std::string(group_kind_key),
        .verb = "Do steps as one",
        .synonyms = "group own steps as one",
        .sentence = "Do {steps} as one.",
        .slots = {group_slot(std::string(group_slot_key), "Steps", preset_group())},
        .results = {Kind::points},
        .result_name = "made",
        .help =
            "Several steps with one sentence, whose slots are what they leave open. Select steps and choose "
            "Make one step of these to make such a step; take it apart to change it.",
        .make = [](const Inputs&, const Run&) -> Result<Value> {
            return Error{ErrorCode::empty_input, "This group", "holds no step", "Make it of some steps."};
        },
    };
    kind.offered = false;
    kind.derivation = std::make_shared<const Derivation>(Derivation{
        [](const Step& step) { return hex_text(GroupedSteps(group_or_preset(step)).fingerprint()); },
        [](const Step& step, const Catalogue& catalogue) {
            return kind_of_group(group_or_preset(step), catalogue);
        }});
    return kind;
}

}  // namespace plume
