#pragma once
// Fewer keys for the same way: what was recorded has one a frame, which nobody moves by hand.

#include "core/study/edits/chosen_keys.hpp"

namespace plume {

struct FewerKeys {
    StudyPointer study;
    std::size_t before = 0, left = 0;  // of the chosen ones
};
// As few of the chosen keys as are needed so that at each moment the value differs by at most a share of how
// far it goes while they last: of a place, of the diagonal of the box it moves in; where a place stands along
// a line is measured by itself. Controls are measured before they are put on their step. Keys with
// expressions stay, those from which it does not go on evenly and the ones behind these, and all of cameras.
// By halving at the largest difference (Ramer 1972; Douglas and Peucker 1973), taken at the same moment.
// Error: unknown_name.
Result<FewerKeys> fewer_keys(const Study& study, const Catalogue& catalogue, const KeyChoice& choice,
                             double share);

}  // namespace plume
