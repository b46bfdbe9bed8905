#pragma once
// A picture made small, for showing which one it is.

#include "core/data/raster.hpp"
#include "core/picture/still.hpp"

namespace plume {

// At most `side` pixels wide and high, each the mean of those it stands for (at most 16 x 16 of them). Values
// are limited to 0..1.
Image thumbnail(const Raster& raster, int side);

}  // namespace plume
