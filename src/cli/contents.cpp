// `plume contents`: what is in a file that steps read.

#include <algorithm>
#include <filesystem>

#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/evaluation/file_contents.hpp"
#include "core/steps/catalogue.hpp"

namespace plume::cli {
namespace {

Json json_of(const FileContents& contents) {
    Json json{{"step", contents.kind->key}, {"outline", contents.outline}, {"slots", Json::object()}};
    for (const auto& [slot, offers] : contents.offers) {
        Json list = Json::array();
        for (const Offer& offer : offers.offers)
            list.push_back(Json{{"name", offer.name}, {"note", offer.note}});
        json["slots"][slot] = std::move(list);
    }
    json["error"] = contents.error ? json_of_error(*contents.error) : Json();
    return json;
}

// Words of a choice as its sentence says them.
std::string label_of(const SlotSpec& slot, const std::string& name) {
    const auto word = std::ranges::find(slot.words, name, &Word::key);
    if (word != slot.words.end()) return word->label;
    return name.empty() ? "(without a name)" : name;
}

void print(const FileContents& contents) {
    say(contents.kind->verb + " (" + contents.kind->key + ")" +
        (contents.outline.empty() ? "" : ": " + contents.outline));
    for (const auto& [key, offers] : contents.offers) {
        const SlotSpec& slot = *contents.kind->slot(key);
        say("    " + slot.label + (offers.about.empty() ? "" : ", " + offers.about));
        std::size_t widest = 0;
        for (const Offer& offer : offers.offers)
            widest = std::max(widest, std::min<std::size_t>(label_of(slot, offer.name).size(), 40));
        for (const Offer& offer : offers.offers) {
            std::string label = label_of(slot, offer.name);
            label.resize(std::max(widest, label.size()), ' ');
            say("        " + label + "  " + offer.note);
        }
    }
    if (contents.error) say("    " + sentence(*contents.error));
}

Result<std::vector<const StepKind*>> kinds_for(const std::string& file, const std::string& step) {
    if (!step.empty()) {
        const StepKind* kind = standard_catalogue().find(step);
        if (kind) return std::vector{kind};
        return Error{ErrorCode::unknown_step_kind, "--step " + step, "is no kind of step",
                     "`plume steps` lists them."};
    }
    auto kinds = kinds_that_read(standard_catalogue(), file);
    if (!kinds.empty()) return kinds;
    return Error{ErrorCode::unknown_name, "‘" + file + "’", "has an ending that no step reads",
                 "Name the step with --step; `plume steps` lists them."};
}

}  // namespace

int contents_command(const std::string& file, const std::string& step, bool json) {
    const auto kinds = kinds_for(file, step);
    if (!kinds) {
        complain(kinds.error());
        return wrong_usage;
    }
    Json list = Json::array();
    bool any = false;
    for (const StepKind* kind : *kinds) {
        const auto contents = contents_of(*kind, standard_catalogue(), file, interruptible_run());
        if (!contents) {
            complain(contents.error());
            return wrong_usage;
        }
        // What only lacks its unit is understood.
        any = any || !contents->error || !contents->offers.empty();
        if (json)
            list.push_back(json_of(*contents));
        else
            print(*contents);
    }
    if (json) put_json(list);
    return any ? all_done : study_has_errors;
}

}  // namespace plume::cli
