#pragma once
// Studies of which one number is dragged.

#include <string>

#include "core/study/study.hpp"

namespace bench {

struct DraggedStudy {
    std::string what;    // is dragged
    std::string file;    // its study's
    std::string result;  // that follows
    plume::Result<plume::StudyPointer> (*dragged)(const plume::Study& study, int frame);
};

// A pole of the front of a roof, the spacing of contours, the twist of a tower.
DraggedStudy dragged_pole();
DraggedStudy dragged_spacing();
DraggedStudy dragged_twist();

}  // namespace bench
