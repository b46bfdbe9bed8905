#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/base/text.hpp"
#include "core/handoff/hand_off.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"

namespace plume::cli {
namespace {

bool is_wanted(const HandOffEntry& entry, const std::vector<std::string>& only) {
    return only.empty() || std::ranges::find(only, entry.name) != only.end();
}

Json json_of(const PartChange& change) {
    Json json{{"mark", change.part().mark}, {"state", plain_name(change.state)}};
    if (!change.part().as.empty()) json["as"] = change.part().as;
    if (!change.part().material.empty()) json["material"] = change.part().material;
    if (!change.part().figure.empty()) json["figure"] = change.part().figure;
    if (change.was) json["was"] = change.was->value.value;
    if (change.is) json["is"] = change.is->value.value;
    return json;
}

Json json_of(const HandOffEntry& entry) {
    Json json{{"name", entry.name},
              {"file", entry.file},
              {"state", state_text(entry)},
              {"unchanged", entry.unchanged},
              {"parts", Json::array()}};
    if (!entry.written.empty()) json["written"] = entry.written;
    if (entry.error) json["error"] = json_of_error(*entry.error);
    if (entry.asks) json["asks"] = json_of_error(*entry.asks);
    for (const PartChange& change : entry.parts)
        json["parts"].push_back(json_of(change));
    return json;
}

void print_entry(const HandOffEntry& entry) {
    say((entry.file.empty() ? entry.name : entry.file) + "  " + state_text(entry));
}

// What is asked about is allowed by an option here.
Error with_option(Error error) {
    error.mend = "Move it away, or allow it with --over.";
    return error;
}

// False where something could not be written.
bool write_entries(const HandOffPlan& plan, const MomentSource& source, const HandOffPlace& place,
                   const HandOffOptions& options) {
    bool well = true;
    for (const HandOffEntry& entry : plan.entries) {
        if (!is_wanted(entry, options.only)) continue;
        const auto report = hand_off(plan, entry, source, place, options.over, interruptible_run());
        if (report)
            say(*report);
        else if (report.error().code == ErrorCode::file_changed)
            complain(with_option(report.error()));
        else if (entry.delivery)  // else its step has said why
            complain(at_step(report.error(), entry.name));
        well = well && report;
    }
    return well;
}

}  // namespace

int handoff_command(const StudyOptions& study_options, const HandOffOptions& options) {
    auto study = open_study(study_options);
    if (!study) return fail(study.error(), study_has_errors);
    for (const std::string& name : options.only) {
        const Step* step = (*study)->step(name);
        if (!step || page_of(*step) != Page::hand_off)
            return fail(
                {ErrorCode::unknown_name, "--only " + shortened(printable(name), 80),
                 "names nothing that is handed off", "See what is with: plume handoff STUDY --check."},
                wrong_usage);
    }
    if (!options.folder.empty())
        study = set_hand_off_folder(**study, std::filesystem::absolute(options.folder).string());
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::all);
    const bool failed = complain_about_steps(evaluation);
    const HandOffPlace place = place_now(std::filesystem::absolute(study_options.path));
    const auto plan = plan_hand_off(evaluation, place, interruptible_run());
    if (!plan) return fail(plan.error(), study_has_errors);
    if (plan->error) return fail(*plan->error, study_has_errors);
    if (plan->entries.empty()) {
        say("The study hands nothing off.");
        return failed ? study_has_errors : all_done;
    }
    bool well = !failed;
    if (options.json) {
        Json json{{"folder", plan->folder.string()}, {"deliveries", Json::array()}};
        for (const HandOffEntry& entry : plan->entries)
            if (is_wanted(entry, options.only)) json["deliveries"].push_back(json_of(entry));
        json["left_over"] = plan->left_over;
        put_json(json);
    }
    if (options.check) {
        for (const HandOffEntry& entry : plan->entries) {
            if (!is_wanted(entry, options.only)) continue;
            if (!options.json) print_entry(entry);
            if (entry.error && entry.delivery) complain(at_step(*entry.error, entry.name));
            if (entry.asks && !options.over) complain(with_option(*entry.asks));
            well = well && !entry.error && (!entry.asks || options.over);
        }
    } else {
        const MomentSource source{*study, plan_of(**study, study_options, Pages::all)};
        well = write_entries(*plan, source, place, options) && well;
    }
    for (const std::string& file : plan->left_over)
        warn("plume: ‘" + file + "’ is no longer handed off; it stays where it is.");
    return well ? all_done : study_has_errors;
}

}  // namespace plume::cli
