#pragma once
// What every command does first: load a study, set controls, evaluate it with progress on a terminal.

#include <cstdio>
#include <string>
#include <vector>

#include "core/evaluation/evaluator.hpp"

namespace plume::cli {

enum ExitStatus { all_done = 0, study_has_errors = 1, wrong_usage = 2, interrupted = 130 };

struct StudyOptions {
    std::string path;
    std::vector<std::string> settings;  // "control=value", value with or without a unit
    double budget_gigabytes = 2;
    double seconds = 0;  // the moment of a study that moves
};

// Prints "plume: ..." to stderr.
void complain(const Error& error);
// The same; what the command ends with.
inline int fail(const Error& error, ExitStatus status = study_has_errors) {
    complain(error);
    return status;
}

// The study with its settings applied. Errors of the file; unknown_name, bad_number for a setting.
Result<StudyPointer> open_study(const StudyOptions& options);

// Evaluates the study, or the page it is made on: steps that hand something off have no outcome then. Shows
// the step in hand on stderr when that is a terminal.
enum class Pages { sheet, all };
EvaluationPlan plan_of(const Study& study, const StudyOptions& options, Pages pages);
Evaluation evaluate_study(const StudyPointer& study, const StudyOptions& options, Pages pages);

// Prints every step's error with its result's name; false when there was none.
bool complain_about_steps(const Evaluation& evaluation);

// Prints what got lost on the way to results: rows left out, numbers that are not finite, keys nobody knows.
void remark_on_steps(const Evaluation& evaluation);
// An error with the step it is about in front.
Error at_step(Error error, const std::string& name);

// Cancelled by Ctrl+C or when the program is told to end; a second time ends it at once.
const Run& interruptible_run();

// The outcome to write or show, or a sentence why there is none.
Result<ValuePointer> result_of(const Evaluation& evaluation, const std::string& name);

}  // namespace plume::cli
