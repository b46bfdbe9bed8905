#pragma once
// What has to hold whatever the bytes are.

#include <cstdlib>

namespace plume {

inline void demand(bool holds) {
    if (!holds) std::abort();
}

}  // namespace plume
