#pragma once
// A kind of step for tests of studies that move: points that drift, moment after moment.

#include <atomic>

#include "core/support.hpp"

namespace plume::test {

// How often points began to drift, and went on by a moment.
inline std::atomic<int> begun{0}, gone_on{0};

// The standard one with test.drift: `points` drift along x by `speed` and rise by `push` a second. It goes on
// after a change unless there are other points.
const Catalogue& moving_catalogue();

// `steps` behind a lattice of 2 rows, named ground, and what drifts of it, named leaves.
StudyPointer moving_study(const std::string& slots, const std::string& steps = {}, int columns = 2);

}  // namespace plume::test
