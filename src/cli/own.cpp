// `plume own`: steps that one keeps for every study, and keeping another one.

#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/exchange/own_steps.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/sentence.hpp"

namespace plume::cli {
namespace {

int keep(const OwnOptions& options) {
    const auto study = open_study(options.study);
    if (!study) return fail(study.error());
    const Step* step = (*study)->step(std::string_view(options.keep));
    if (!step)
        return fail(Error{ErrorCode::missing_input, "‘" + options.keep + "’", "is not the result of any step",
                          "Name the result of a script or of a group of steps."},
                    wrong_usage);
    const auto file = own_step_file(own_steps_folder(), *step, standard_catalogue());
    if (std::filesystem::exists(file) && !options.over)
        return fail(Error{ErrorCode::name_clash, "‘" + file.string() + "’", "is there already",
                          "Replace it with --over, or give the step another title."},
                    wrong_usage);
    if (const Status kept = keep_own_step(file, *step, standard_catalogue()); !kept)
        return fail(kept.error());
    say("‘" + standard_catalogue().find(*step)->verb + "’ is kept in " + file.string());
    return all_done;
}

}  // namespace

int own_command(const OwnOptions& options) {
    if (!options.keep.empty()) return keep(options);
    const OwnSteps own = read_own_steps(own_steps_folder(), standard_catalogue());
    Json json{{"folder", own_steps_folder().string()}, {"steps", Json::array()}, {"problems", Json::array()}};
    for (const Step& step : own.steps) {
        const StepKind& kind = *standard_catalogue().find(step);
        const std::string sentence = sentence_text(kind, step);
        json["steps"].push_back(Json{{"title", kind.verb}, {"step", kind.key}, {"sentence", sentence}});
        if (!options.json) say(kind.verb + "\n  " + sentence);
    }
    for (const Error& problem : own.problems) {
        json["problems"].push_back(json_of_error(problem));
        if (!options.json) warn(sentence(problem));
    }
    if (options.json)
        put_json(json);
    else if (own.steps.empty())
        say("None is kept in " + own_steps_folder().string());
    return own.problems.empty() ? all_done : study_has_errors;
}

}  // namespace plume::cli
