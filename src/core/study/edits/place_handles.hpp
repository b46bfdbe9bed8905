#pragma once
// Places of steps that can be taken hold of in the model: attractors, corners, origins.

#include <functional>
#include <utility>
#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

struct PlaceHandle {
    ItemId step = 0;
    std::string slot;
    std::size_t index = 0;  // as of move_place()
    Vec3 position;
    std::string name;
    bool corner = false;  // one of several in order: lines join it to the next
    bool image = false;   // the mirror image of another
    bool keyed = false;   // it has keys
};

// Pairs of handles, by their positions among these, that lines join: corners in order, round where they
// close.
std::vector<std::pair<std::size_t, std::size_t>> handle_lines(const Study& study, const Catalogue& catalogue,
                                                              const std::vector<PlaceHandle>& handles);

// What a result shows at the moment, by its name; null when it shows nothing.
using ShownValue = std::function<const Value*(const std::string& result)>;

// Of every active slot of places of the step at a moment, as far as their coordinates can be read; images
// behind the places themselves.
std::vector<PlaceHandle> place_handles(const Study& study, const StepKind& kind, const Step& step,
                                       const ShownValue& shown = {}, double seconds = 0);

}  // namespace plume
