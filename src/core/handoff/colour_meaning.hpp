#pragma once
// What a colour of a picture means, for its legend.

#include "core/picture/ramp.hpp"

namespace plume {

struct ColourMeaning {
    Rgb colour;
    const char* meaning;
};

}  // namespace plume
