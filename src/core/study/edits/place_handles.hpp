#pragma once
// Places of steps that can be taken hold of in the model: attractors, corners, origins.

#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

struct PlaceHandle {
    ItemId step = 0;
    std::string slot;
    std::size_t index = 0;  // as of move_place()
    Vec3 position;
    std::string name;
    bool corner = false;  // of an outline, in order; the next handle of the step is joined to it
    bool image = false;   // the mirror image of another
};

// Of every active slot of places of the step, as far as their coordinates can be read; images behind the
// places themselves.
std::vector<PlaceHandle> place_handles(const Study& study, const StepKind& kind, const Step& step);

}  // namespace plume
