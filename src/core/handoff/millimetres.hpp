#pragma once
// What machines count.

#include "core/base/units.hpp"

namespace plume {

// Of a length of the study.
inline double mm_of(const Units& units) {
    return 1000 * metres_per(units.length);
}

}  // namespace plume
