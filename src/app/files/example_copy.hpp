#pragma once
// The example of a kind of step as a study of its own, with the files it reads.

#include <QString>

#include "core/study/study.hpp"

namespace plume::app {

// Files that it reads are written where the application keeps its own. Errors: no example, or one that cannot
// be read.
Result<StudyPointer> copy_of_example(const std::string& kind);

}  // namespace plume::app
