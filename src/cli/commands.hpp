#pragma once
// The commands of `plume`. Each prints to stdout and returns an exit status.

#include <string>
#include <vector>

#include "cli/session.hpp"

namespace plume::cli {

struct RunOptions {
    std::vector<std::string> outputs;  // "result=file"
    std::string unit;                  // of written files; empty: the study's
};
int run_command(const StudyOptions& study, const RunOptions& options);
int inspect_command(const StudyOptions& study, const std::string& result, bool json);
struct ValuesOptions {
    std::string result, unit, rows, group_by;
    bool json = false;
};
int values_command(const StudyOptions& study, const ValuesOptions& options);
struct PictureOptions {
    std::string file, size = "1280x800", view = "above";
    std::vector<std::string> results;  // empty: what the study shows
    bool parallel = false;
};
int picture_command(const StudyOptions& study, const PictureOptions& options);
int steps_command(bool json);
int check_command(const StudyOptions& study, bool json);

}  // namespace plume::cli
