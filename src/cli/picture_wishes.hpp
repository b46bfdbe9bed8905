#pragma once
// What `picture` and `film` are told alike.

#include "cli/commands.hpp"
#include "core/exchange/picture_file.hpp"

namespace plume::cli {

// How it is drawn, without results and camera. Error: syntax.
Result<PictureJob> job_of(const PictureOptions& options);
// From a usual way to look, or a camera of the study as it is at a moment. Error: unknown_name.
Status look_from(const PictureOptions& options, const Study& study, double seconds, StillOptions& still);
// What is named, or else what the study shows. Error: unknown_name.
Result<std::vector<ExportedResult>> pictured(const Evaluation& evaluation,
                                             const std::vector<std::string>& wanted);

}  // namespace plume::cli
