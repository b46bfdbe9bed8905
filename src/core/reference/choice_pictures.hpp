#pragma once
// What the words of a choice look like: the example of a kind, made once with each of them.

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/picture/still.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

inline constexpr int choice_picture_width = 144, choice_picture_height = 96;

struct ChoicePictures {
    std::string slot;
    Image strip;  // side by side in the order of the words; nothing where a word needs more than the example
                  // has
};

// Of the choices that the example of the kind shows and of which at least two words can be told apart by
// looking. `folder`: what the files of the example are found from. Error: cancelled.
Result<std::vector<ChoicePictures>> choice_pictures(const StepKind& kind, const Catalogue& catalogue,
                                                    const std::filesystem::path& folder, const Run& run);

}  // namespace plume
