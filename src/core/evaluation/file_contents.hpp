#pragma once
// What is in a file, told without a study: which kinds of step read it, and what each has to choose from.

#include <filesystem>

#include "core/study/offers.hpp"

namespace plume {

// Kinds with a slot for files of that ending; first those that name it earlier among theirs.
std::vector<const StepKind*> kinds_that_read(const Catalogue& catalogue, const std::filesystem::path& path);

struct FileContents {
    const StepKind* kind = nullptr;
    std::map<std::string, Offers> offers;  // by slot
    std::string outline;                   // of what the step results in on its presets; empty when it asks
    std::optional<Error> error;            // why there is none
};
// Read by that kind on its presets. Error: wrong_kind for a kind without a slot for files.
Result<FileContents> contents_of(const StepKind& kind, const Catalogue& catalogue,
                                 const std::filesystem::path& path, const Run& run);

}  // namespace plume
