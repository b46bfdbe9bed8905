// `plume why`: why parts of a result are as they are.

#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/sentence.hpp"
#include "core/tracing/trace.hpp"

namespace plume::cli {
namespace {

std::string sentence_here(const Step& step) {
    const StepKind* kind = standard_catalogue().find(step);
    return kind ? sentence_text(*kind, step) : std::string();
}

Json json_of(const Trace& trace, const Study& study) {
    Json steps = Json::array();
    for (const TracedStep& traced : trace.steps) {
        const Step& step = *study.step(traced.step);
        Json parts = Json::array();
        for (const TracedPart& part : traced.parts)
            parts.push_back({{"title", part.title}, {"lines", part.lines}});
        steps.push_back({{"result", step.name},
                         {"sentence", sentence_here(step)},
                         {"parts", parts},
                         {"more", traced.more},
                         {"remarks", traced.remarks},
                         {"ends", traced.ends}});
    }
    return steps;
}

void say_trace(const Trace& trace, const Study& study) {
    for (const TracedStep& traced : trace.steps) {
        const Step& step = *study.step(traced.step);
        say(step.name + " — " + sentence_here(step));
        for (const TracedPart& part : traced.parts) {
            say("  " + part.title);
            for (const std::string& line : part.lines)
                say("    " + line);
        }
        if (traced.more > 0) say("  and " + std::to_string(traced.more) + " more");
        for (const std::string& remark : traced.remarks)
            say("  " + remark);
    }
}

}  // namespace

int why_command(const StudyOptions& study_options, const std::string& result,
                const std::vector<std::string>& parts, bool json) {
    const auto study = open_study(study_options);
    if (!study) return fail(study.error());
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::sheet);
    const auto value = result_of(evaluation, result);
    if (!value) return fail(value.error());
    Json told = Json::array();
    for (const std::string& name : parts) {
        const auto part = part_named(**value, result, name);
        if (!part) return fail(part.error(), wrong_usage);
        const Study& asked = *evaluation.study;
        const auto trace =
            trace_part(evaluation, standard_catalogue(), asked.step(result)->id, *part, interruptible_run());
        if (!trace) return fail(trace.error());
        if (json) {
            told.push_back({{"result", result}, {"part", name}, {"steps", json_of(*trace, asked)}});
        } else {
            if (&name != &parts.front()) say("");
            say_trace(*trace, asked);
        }
    }
    if (json) put_json(parts.size() == 1 ? told[0] : told);
    return all_done;
}

}  // namespace plume::cli
