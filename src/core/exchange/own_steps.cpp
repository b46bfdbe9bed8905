#include "core/exchange/own_steps.hpp"

#include <algorithm>
#include <cstdlib>

#include "core/base/file.hpp"
#include "core/exchange/study_file.hpp"
#include "core/formula/expression.hpp"
#include "core/script/script_head.hpp"
#include "core/study/step_group.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

constexpr const char* script_ending = ".lua";
constexpr const char* step_ending = ".plume";
constexpr std::size_t most_files = 2'000;

// Its slot for a script; nullptr where it has none.
const SlotSpec* script_slot_of(const StepKind& kind) {
    const auto slot = std::ranges::find(kind.slots, true, &SlotSpec::script);
    return slot == kind.slots.end() ? nullptr : &*slot;
}

// The kind whose scripts give that.
const StepKind* script_kind(const Catalogue& catalogue, const ScriptHead& head) {
    const auto kinds = catalogue.kinds();
    const auto found = std::ranges::find_if(kinds, [&](const StepKind& kind) {
        Step step;
        step.kind = kind.key;
        return script_slot_of(kind) && gives_number(step) == is_number(head.result);
    });
    return found == kinds.end() ? nullptr : &*found;
}

Error no_own_step(const std::string& message) {
    return {ErrorCode::wrong_kind, "", message, "Keep a script or a group of steps."};
}

Result<Step> script_step(const std::string& text, const Catalogue& catalogue) {
    const auto head = read_script_head(text);
    if (!head) return head.error();
    const StepKind* kind = script_kind(catalogue, *head);
    if (!kind) return no_own_step("is a script, and there is no step for one");
    Step step;
    step.kind = kind->key;
    step.slots.emplace(script_slot_of(*kind)->key, Lines{text});
    return step;
}

Result<Step> only_step(const std::string& text) {
    const auto study = study_from_text(text);
    if (!study) return study.error();
    if ((*study)->items.size() != 1 || !step_of((*study)->items.front()))
        return no_own_step("holds other things than one step");
    Step step = *step_of((*study)->items.front());
    if (!group_of(step)) return no_own_step("holds a step that is not made of others");
    step.id = 0;
    return step;
}

Result<Step> step_from(const fs::path& file, const Catalogue& catalogue) {
    const bool script = file.extension() == script_ending;
    const auto text = read_file(file, script ? longest_script : longest_study_file);
    if (!text) return text.error();
    Result<Step> step = script ? script_step(*text, catalogue) : only_step(*text);
    if (!step) return step;
    if (const StepGroup* group = group_of(*step))
        if (const auto slots = open_slots(*group, catalogue); !slots) return slots.error();
    return step;
}

const std::string* script_of(const Step& step, const Catalogue& catalogue) {
    const StepKind* kind = catalogue.find(step);
    const SlotSpec* slot = kind ? script_slot_of(*kind) : nullptr;
    const auto found = slot ? step.slots.find(slot->key) : step.slots.end();
    const auto* lines = found == step.slots.end() ? nullptr : std::get_if<Lines>(&found->second);
    return lines ? &lines->text : nullptr;
}

}  // namespace

fs::path own_steps_folder() {
    // Read once at a time, from one thread, as programs do.
    const char* data = std::getenv("XDG_DATA_HOME");
    const char* home = std::getenv("HOME");
    const fs::path base =
        data && *data == '/' ? fs::path(data) : fs::path(home ? home : ".") / ".local/share";
    return base / "plume-lattice" / "steps";
}

OwnSteps read_own_steps(const fs::path& folder, const Catalogue& catalogue) {
    OwnSteps own;
    std::error_code ignored;
    std::vector<fs::path> files;
    for (auto at = fs::directory_iterator(folder, ignored); !ignored && at != fs::directory_iterator();
         at.increment(ignored))
        if (at->path().extension() == script_ending || at->path().extension() == step_ending)
            files.push_back(at->path());
    std::ranges::sort(files);
    if (files.size() > most_files) files.resize(most_files);
    for (const fs::path& file : files) {
        Result<Step> step = step_from(file, catalogue);
        if (step)
            own.steps.push_back(*std::move(step));
        else
            own.problems.push_back(error_at(step.error(), "‘" + file.filename().string() + "’"));
    }
    return own;
}

bool can_be_kept(const Step& step, const Catalogue& catalogue) {
    return group_of(step) || script_of(step, catalogue);
}

fs::path own_step_file(const fs::path& folder, const Step& step, const Catalogue& catalogue) {
    const StepKind* kind = catalogue.find(step);
    std::string name = readable_name(kind ? kind->verb : step.name);
    std::ranges::replace(name, '_', '-');
    return folder / (name + (script_of(step, catalogue) ? script_ending : step_ending));
}

Status keep_own_step(const fs::path& file, const Step& step, const Catalogue& catalogue) {
    std::string text;
    if (const std::string* script = script_of(step, catalogue)) {
        if (const auto head = read_script_head(*script); !head) return head.error();
        text = *script;
    } else if (const StepGroup* group = group_of(step)) {
        if (const auto slots = open_slots(*group, catalogue); !slots) return slots.error();
        Step bare;
        bare.id = 1;
        bare.kind = step.kind;
        bare.name = group->result;
        bare.slots.emplace(group_slot_key, step.slots.at(std::string(group_slot_key)));
        Study study;
        study.title = group->title;
        study.units = group->steps.units;
        study.items.emplace_back(std::make_shared<const Step>(std::move(bare)));
        text = study_to_text(study);
    } else {
        return no_own_step("This step has no text of its own");
    }
    std::error_code failed;
    fs::create_directories(file.parent_path(), failed);
    if (failed)
        return Error{ErrorCode::file_unwritable, "‘" + file.parent_path().string() + "’",
                     "cannot be made: " + failed.message(), "Look at who may write there."};
    return write_file(file, text);
}

}  // namespace plume
