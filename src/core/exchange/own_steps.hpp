#pragma once
// Steps that somebody keeps for himself, as files of a folder: a script is a `.lua` file as it stands, any
// other step a `.plume` file that holds nothing else. A study that uses one has it within itself.

#include <filesystem>
#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

struct OwnSteps {
    std::vector<Step> steps;      // in the order of the names of their files; none of them reads anything yet
    std::vector<Error> problems;  // files that hold none, each told by its name
};

// Where they are kept: plume-lattice/steps in the user's folder for data (XDG Base Directory Specification).
std::filesystem::path own_steps_folder();

// Of a folder that is not there none.
OwnSteps read_own_steps(const std::filesystem::path& folder, const Catalogue& catalogue);

// Scripts and groups of steps can.
bool can_be_kept(const Step& step, const Catalogue& catalogue);
// The file it would have: after what it is called.
std::filesystem::path own_step_file(const std::filesystem::path& folder, const Step& step,
                                    const Catalogue& catalogue);
// Writes it there, over an older one. Without what it reads, and the numbers that expressions make it follow
// as they were first. Errors: wrong_kind of a step that cannot be kept, those of its head or group, those of
// write_file().
Status keep_own_step(const std::filesystem::path& file, const Step& step, const Catalogue& catalogue);

}  // namespace plume
