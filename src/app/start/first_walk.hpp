#pragma once
// The first walk: the wing canopy in nine stops. A stop waits until what it asks for was done, however it was
// done.

#include <QString>
#include <functional>
#include <span>

#include "core/study/study.hpp"

namespace plume::app {

struct WalkStop {
    const char* why;  // one sentence
    const char* how;  // what to press or drag; rich text
    // before: the study as it was when the stop began.
    std::function<bool(const Study& before, const Study& now)> done;
};

std::span<const WalkStop> canopy_walk();

}  // namespace plume::app
