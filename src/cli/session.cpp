#include "cli/session.hpp"

#include <csignal>

#include "cli/output.hpp"
#include "cli/progress_line.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/study_file.hpp"
#include "core/formula/expression.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/study/study_scope.hpp"

namespace plume::cli {
namespace {

Result<StudyPointer> with_setting(const Study& study, const std::string& setting, double seconds) {
    const std::size_t equals = setting.find('=');
    if (equals == std::string::npos || equals == 0)
        return Error{ErrorCode::syntax, "--set " + shortened(setting, 200), "has to be control=value",
                     "For example --set swell=2.5."};
    const std::string name = setting.substr(0, equals), text = setting.substr(equals + 1);
    const Control* control = study.control(name);
    if (!control) {
        std::vector<std::string> names;
        for (const ControlPointer& one : study.controls)
            names.push_back(one->name);
        const auto close = closest_name(name, names);
        return Error{ErrorCode::unknown_name, "--set " + shortened(setting, 200),
                     "names no control of the study",
                     name == time_name ? "The moment is chosen with --time."
                     : close           ? "Did you mean ‘" + *close + "’?"
                                       : "See the controls with: plume inspect STUDY."};
    }
    const auto unit = evaluate("1 " + control->unit, Scope{study.units, {}, {}});
    // A bare number is in the control's own unit.
    const bool bare = read_literal(text) && read_literal(text)->unit.empty();
    const auto value =
        evaluate_as(unit->dimension, bare ? text + " " + control->unit : text, scope_of(study, seconds));
    if (!value) return error_at(value.error(), "--set " + shortened(setting, 200));
    const double wanted = *value / unit->value;
    // A hair beyond the end is the conversion's doing.
    const double slack = 1e-9 * (control->most - control->least);
    if (wanted < control->least - slack || wanted > control->most + slack)
        warn("plume: --set " + shortened(setting, 200) + " lies beyond the control's range, " +
             short_text(control->least, 8) + " … " + short_text(control->most, 8) +
             (control->unit.empty() ? "" : ' ' + control->unit) + "; it is taken all the same.");
    Control fixed = *control;
    fixed.value = wanted;
    fixed.keys.clear();
    return set_control(study, name, std::move(fixed));
}

}  // namespace

void complain(const Error& error) {
    warn("plume: " + sentence(error));
}

Result<StudyPointer> open_study(const StudyOptions& options) {
    Result<StudyPointer> study = load_study(options.path);
    if (study) study = std::make_shared<const Study>(in_form(**study, standard_catalogue()));
    for (const std::string& setting : options.settings) {
        if (!study) break;
        study = with_setting(**study, setting, options.seconds);
    }
    return study;
}

EvaluationPlan plan_of(const Study& study, const StudyOptions& options, Pages pages) {
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.files = std::make_shared<FileStore>(std::filesystem::path(options.path).parent_path());
    plan.budget.bytes = options.budget_gigabytes * 1e9;
    plan.budget.together_bytes = 2 * plan.budget.bytes;
    plan.moment = moment_at(study.time, options.seconds);
    for (std::size_t at = study.page_begin(Page::hand_off); pages == Pages::sheet && at < study.items.size();
         ++at)
        plan.later.insert(id_of(study.items[at]));
    return plan;
}

Evaluation evaluate_study(const StudyPointer& study, const StudyOptions& options, Pages pages) {
    const Run& run = interruptible_run();
    ProgressLine line(run);
    EvaluationPlan plan = plan_of(*study, options, pages);
    plan.before_step = [&](const Step& step, std::size_t index, std::size_t count) {
        line.say("step " + std::to_string(index + 1) + " of " + std::to_string(count) + ", " +
                 shortened(step.name, 60));
    };
    return evaluate(study, plan, run);
}

Error at_step(Error error, const std::string& name) {
    Error bare = error;
    bare.mend.clear();
    std::string message = sentence(bare);
    // One colon is enough: "crest: Formula, ‘x’ is not known".
    if (message.compare(error.where.size(), 2, ": ") == 0) message.replace(error.where.size(), 1, ",");
    error.message = std::move(message);
    error.where = shortened(name, 80) + ":";
    error.begin = error.end = 0;
    return error;
}

void remark_on_steps(const Evaluation& evaluation) {
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step ? evaluation.outcome(step->id) : nullptr;
        if (!outcome) continue;
        for (const Remark& remark : outcome->remarks)
            if (remark.loss) warn("plume: " + shortened(step->name, 80) + ": " + remark.text);
    }
}

namespace {

// What a signal handler may touch.
const Run* run_to_cancel = nullptr;

void cancel_run(int number) {
    run_to_cancel->cancel();
    std::signal(number, SIG_DFL);
}

}  // namespace

const Run& interruptible_run() {
    static const Run run;
    if (!run_to_cancel) {
        run_to_cancel = &run;
        std::signal(SIGINT, cancel_run);
        std::signal(SIGTERM, cancel_run);
    }
    return run;
}

bool complain_about_steps(const Evaluation& evaluation) {
    bool any = false;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step ? evaluation.outcome(step->id) : nullptr;
        if (!outcome || !outcome->error) continue;
        Error error = at_step(*outcome->error, step->name);
        if (outcome->state == StepState::asks) error.mend = "Lower the counts, or allow it with --budget.";
        complain(error);
        any = true;
    }
    return any;
}

Result<ValuePointer> result_of(const Evaluation& evaluation, const std::string& name) {
    const Outcome* outcome = evaluation.outcome(name);
    if (!outcome)
        return Error{ErrorCode::unknown_name, "‘" + name + "’", "is not a result of this study",
                     "See the results with: plume inspect STUDY."};
    if (!outcome->value)
        return Error{ErrorCode::input_failed, "‘" + name + "’", "has no result",
                     outcome->error ? "Its step failed, see above." : "Its step is muted."};
    return outcome->value;
}

}  // namespace plume::cli
