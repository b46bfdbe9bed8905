#pragma once
// What every command does first: load a study, set controls, evaluate it with progress on a terminal.

#include <cstdio>
#include <string>
#include <vector>

#include "core/study/evaluator.hpp"

namespace plume::cli {

enum ExitStatus { all_done = 0, study_has_errors = 1, wrong_usage = 2 };

struct StudyOptions {
    std::string path;
    std::vector<std::string> settings;  // "control=value", value with or without a unit
    double budget_gigabytes = 2;
};

// Prints "plume: ..." to stderr.
void complain(const Error& error);

// The study with its settings applied. Errors of the file; unknown_name, bad_number for a setting.
Result<StudyPointer> open_study(const StudyOptions& options);

// Evaluates the whole study; shows the step in hand on stderr when that is a terminal.
Evaluation evaluate_study(const StudyPointer& study, const StudyOptions& options);

// Prints every step's error with its result's name; false when there was none.
bool complain_about_steps(const Evaluation& evaluation);

// The outcome to write or show, or a sentence why there is none.
Result<ValuePointer> result_of(const Evaluation& evaluation, const std::string& name);

}  // namespace plume::cli
