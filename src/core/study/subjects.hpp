#pragma once
// What one wants to do with steps: the groups that they are listed in. A kind belongs to the one of the
// folder it stands in, and to that of files when it reads one.

#include <span>
#include <string_view>

#include "core/study/step_kind.hpp"

namespace plume {

struct Subject {
    std::string_view key;    // "curves"
    std::string_view title;  // "Draw curves"
};

// In the order they are listed.
std::span<const Subject> subjects();
const Subject& subject_of(const StepKind& kind);

}  // namespace plume
