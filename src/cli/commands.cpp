#include "cli/commands.hpp"

#include <cmath>
#include <set>

#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/base/rounding.hpp"
#include "core/base/text.hpp"
#include "core/data/place_text.hpp"
#include "core/exchange/export.hpp"
#include "core/exchange/formats.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/measure/statistics.hpp"
#include "core/results/facts.hpp"
#include "core/results/items.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/moving.hpp"
#include "core/study/sentence.hpp"

namespace plume::cli {
namespace {

std::optional<LengthUnit> unit_or_own(const std::string& text, const Study& study) {
    return text.empty() ? study.units.length : length_unit_from(text);
}

Error unknown_unit(const std::string& text) {
    return {ErrorCode::unknown_name, "--unit " + text, "is not a unit of length", "Use m, cm, mm, ft or in."};
}

Json json_of(const Step& step, const Evaluation& evaluation) {
    const Outcome& outcome = *evaluation.outcome(step.id);
    const StepKind* kind = standard_catalogue().find(step);
    Json json{{"result", step.name},
              {"step", step.kind},
              {"state", key_of(outcome.state)},
              {"seconds", outcome.seconds}};
    if (kind) json["sentence"] = sentence_text(*kind, step);
    if (outcome.error) json["error"] = json_of_error(*outcome.error);
    for (const Remark& remark : outcome.remarks) {
        json["remarks"].push_back(remark.text);
        if (remark.loss) json["losses"].push_back(remark.text);
    }
    if (outcome.value) json.update(facts_of(*outcome.value, evaluation.study->units));
    return json;
}

void print_value(const Value& value, const Units& units) {
    say("    " + std::string(plain_name(kind_of(value))) + ": " + outline_text(value, units));
    if (const Box box = bounds_of(value); !box.empty())
        say("    from " + place_text(box.low, box.diagonal(), units) + " to " +
            place_text(box.high, box.diagonal(), units));
    for (const std::string& detail : details_of(value, units))
        say("    " + detail);
    const PointLattice* lattice = lattice_of(value);
    if (!lattice) return;
    for (const Field& field : lattice->fields()) {
        const Statistics figures = statistics_of(*lattice, field.values, 1);
        const auto shown = [&](double number) {
            return quantity_text({without_rounding(number, figures.most - figures.least), field.dimension},
                                 units);
        };
        const std::string odd =
            figures.not_finite > 0 ? ", " + std::to_string(figures.not_finite) + " not finite" : "";
        if (figures.count == figures.not_finite)
            say("    " + field.name + ": no finite number" + odd);
        else
            say("    " + field.name + ": " + shown(figures.least) + " … " + shown(figures.most) + ", mean " +
                shown(figures.mean) + ", middle " + shown(figures.median) + odd);
    }
}

void print_step(const Step& step, const Evaluation& evaluation) {
    const Outcome& outcome = *evaluation.outcome(step.id);
    const StepKind* kind = standard_catalogue().find(step);
    say("\n" + shortened(step.name, 80) + "  " +
        (kind ? sentence_text(*kind, step) : shortened(step.kind, 80)));
    if (outcome.state != StepState::done) say("    " + std::string(key_of(outcome.state)));
    if (outcome.error) say("    " + sentence(*outcome.error));
    for (const Remark& remark : outcome.remarks)
        say("    " + remark.text);
    if (outcome.value) print_value(*outcome.value, evaluation.study->units);
}

std::string number_of_keys(std::size_t keys) {
    if (keys == 0) return "";
    return keys == 1 ? ", 1 key" : ", " + std::to_string(keys) + " keys";
}

// What follows time, and where it is.
void print_time(const Study& study, double seconds) {
    std::string names;
    for (const Item& item : study.items)
        if (const Step* step = step_of(item); step && follows_time(study, standard_catalogue(), *step))
            names += (names.empty() ? "" : ", ") + shortened(step->name, 80);
    if (names.empty()) return;
    say("  moves for " + short_text(study.time.seconds, 8) + " s, " + short_text(study.time.rate, 8) +
        " frames a second; here at " + short_text(seconds, 8) + " s: " + names);
}

void print_head(const Study& study, double seconds) {
    say(shortened(study.title, 400));
    if (!study.note.empty()) say(shortened(study.note, 4000));
    for (const ControlPointer& control : study.controls)
        say("  " + control->name + " = " + short_text(value_at(*control, seconds), 8) + ' ' + control->unit +
            "  (" + short_text(control->least) + " … " + short_text(control->most) +
            number_of_keys(control->keys.size()) + ")");
    print_time(study, seconds);
}

// "a=b" split at the first '='.
bool split(const std::string& text, std::string& left, std::string& right) {
    const std::size_t equals = text.find('=');
    if (equals == std::string::npos || equals == 0 || equals + 1 == text.size()) return false;
    left = text.substr(0, equals);
    right = text.substr(equals + 1);
    return true;
}

struct Output {
    std::vector<std::string> names;  // none: whatever is shown and fits
    std::string file;
};

// "a,b=file". Errors: what can be said of it before anything is computed.
Result<Output> output_of(const Study& study, const std::string& text) {
    const std::string place = "--out " + shortened(text, 200);
    std::string names;
    Output output;
    if (!split(text, names, output.file))
        return Error{ErrorCode::syntax, place, "has to be result=file", "For example --out roof=roof.obj."};
    const ExportFormat* format = export_format_for(output.file);
    if (!format) return no_format_error(place);
    if (names == "*") return output;
    for (const std::string_view name : words_between(names, ",")) {
        output.names.emplace_back(name);
        if (!study.step(output.names.back()))
            return Error{ErrorCode::unknown_name, place,
                         output.names.size() == 1 && names == name
                             ? "names no result of this study"
                             : "names no result ‘" + shortened(printable(name)) + "’ of this study",
                         "See the results with: plume inspect STUDY."};
    }
    if (output.names.empty())
        return Error{ErrorCode::syntax, place, "names no result", "For example --out roof=roof.obj."};
    return output;
}

Result<std::vector<Output>> outputs_of(const Study& study, const std::vector<std::string>& texts) {
    std::vector<Output> outputs;
    std::set<std::filesystem::path> targets;
    for (const std::string& text : texts) {
        auto output = output_of(study, text);
        if (!output) return output.error();
        std::error_code ignored;
        if (!targets.insert(std::filesystem::weakly_canonical(output->file, ignored)).second)
            return Error{ErrorCode::name_clash, "--out " + shortened(text, 200),
                         "is written to by another result, too",
                         "Name both before one file, as in --out roof,frame=site.obj."};
        outputs.push_back(*std::move(output));
    }
    return outputs;
}

// The results that are shown and that a format takes.
std::vector<std::string> shown_results(const Evaluation& evaluation, const ExportFormat& format) {
    std::vector<std::string> names;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        if (!step || !step->show.visible) continue;
        const Outcome* outcome = evaluation.outcome(step->id);
        if (outcome && outcome->value && format.takes(*outcome->value)) names.push_back(step->name);
    }
    return names;
}

// What "result=class" says of one of them.
std::string class_of(const std::string& result, const std::vector<std::string>& classes) {
    std::string name, found;
    for (const std::string& text : classes)
        if (std::string own; split(text, name, own) && name == result) found = own;
    return found;
}

Result<std::string> write_output(const Evaluation& evaluation, const Output& output, LengthUnit unit,
                                 const RunOptions& options) {
    const Study& study = *evaluation.study;
    ExportJob job{{}, study.units, unit};
    job.for_print = options.for_print;
    job.exact = options.exact;
    job.layers_by = options.layers_by;
    job.plan_scale = options.plan_scale;
    const bool shown = output.names.empty();
    for (const std::string& name :
         shown ? shown_results(evaluation, *export_format_for(output.file)) : output.names) {
        const auto value = result_of(evaluation, name);
        if (!value) return value.error();
        job.results.push_back({*value, name, study.step(name)->show, class_of(name, options.classes)});
    }
    if (job.results.empty())
        return Error{ErrorCode::nothing_to_write, "--out *=" + output.file, "finds nothing shown that fits",
                     "Name a result."};
    return export_results(std::move(job), output.file, interruptible_run());
}

}  // namespace

int run_command(const StudyOptions& study_options, const RunOptions& options) {
    const auto study = open_study(study_options);
    if (!study) return fail(study.error());
    const auto unit = unit_or_own(options.unit, **study);
    if (!unit) return fail(unknown_unit(options.unit), wrong_usage);
    const auto outputs = outputs_of(**study, options.outputs);
    if (!outputs) return fail(outputs.error(), wrong_usage);
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::sheet);
    bool failed = complain_about_steps(evaluation);
    remark_on_steps(evaluation);
    for (const Output& output : *outputs) {
        const auto report = write_output(evaluation, output, *unit, options);
        if (report)
            say(*report);
        else
            complain(report.error());
        failed = failed || !report;
    }
    if (outputs->empty())
        say(count_text(evaluation.outcomes.size(), "step", "steps") + " in " +
            duration_text(evaluation.seconds));
    return failed ? study_has_errors : all_done;
}

int inspect_command(const StudyOptions& study_options, const std::string& result, bool json) {
    const auto study = open_study(study_options);
    if (!study && json) put_json(Json{{"error", json_of_error(study.error())}});
    if (!study) return fail(study.error());
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::all);
    if (!result.empty() && !evaluation.outcome(result)) return fail(result_of(evaluation, result).error());
    Json list = Json::array();
    bool broken = false;
    if (!json && result.empty()) print_head(**study, evaluation.moment.seconds());
    for (const Item& item : (*study)->items) {
        const Step* step = step_of(item);
        if (!step || (!result.empty() && step->name != result)) continue;
        const Status shown = guarded([&]() -> Status {
            if (json)
                list.push_back(json_of(*step, evaluation));
            else
                print_step(*step, evaluation);
            return Done{};
        });
        if (!shown) {
            complain(at_step(shown.error(), step->name));
            broken = true;
        }
    }
    if (json) {
        Json whole{{"title", (*study)->title},
                   {"length_unit", symbol((*study)->units.length)},
                   {"angle_unit", symbol((*study)->units.angle)},
                   {"moment", evaluation.moment.seconds()}};
        whole["controls"] = Json::array();
        for (const ControlPointer& c : (*study)->controls)
            whole["controls"].push_back(Json{
                {"name", c->name}, {"value", value_at(*c, evaluation.moment.seconds())}, {"unit", c->unit}});
        whole["results"] = list;
        put_json(result.empty() ? whole : list.front());
    }
    return broken || evaluation.problem_count() > 0 ? study_has_errors : all_done;
}

int values_command(const StudyOptions& study_options, const ValuesOptions& options) {
    const std::string& result = options.result;
    const auto study = open_study(study_options);
    if (!study) return fail(study.error());
    const auto unit = unit_or_own(options.unit, **study);
    if (!unit) return fail(unknown_unit(options.unit), wrong_usage);
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::sheet);
    const auto value = result_of(evaluation, result);
    if (!value) {
        complain_about_steps(evaluation);
        return fail(value.error());
    }
    const ExportJob job{{{*value, result}}, (*study)->units, *unit, options.rows, options.group_by};
    const auto written = options.json ? write_values_json(job, put, interruptible_run())
                                      : write_csv(job, put, interruptible_run());
    return written ? all_done : fail(written.error());
}

int check_command(const StudyOptions& study_options, bool json) {
    const auto study = open_study(study_options);
    if (!study && json) {
        const Error& e = study.error();
        put_json(Json::array({Json{{"code", code_key(e.code)}, {"message", sentence(e)}}}));
        return study_has_errors;
    }
    if (!study) return fail(study.error());
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::all);
    if (!json) {
        const bool wrong = complain_about_steps(evaluation);
        for (const std::string& sentence : unknown_parts(**study))
            warn(sentence);
        remark_on_steps(evaluation);
        if (wrong) return study_has_errors;
        say("No errors in " + count_text(evaluation.outcomes.size(), "step", "steps") + ".");
        return all_done;
    }
    Json list = Json::array();
    for (const Item& item : (*study)->items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step ? evaluation.outcome(step->id) : nullptr;
        if (outcome && outcome->error)
            list.push_back(Json{{"result", step->name},
                                {"state", key_of(outcome->state)},
                                {"code", code_key(outcome->error->code)},
                                {"message", sentence(*outcome->error)}});
    }
    put_json(list);
    return list.empty() ? all_done : study_has_errors;
}

}  // namespace plume::cli
