#pragma once
// A large board that is cut by many short moves.

#include "core/data/mesh.hpp"
#include "core/milling/rehearsal.hpp"

namespace bench {

inline constexpr plume::Board milled_board{2400, 1200, 60};

// As large as the board, hills 40 mm deep, facets of 10 mm.
plume::Mesh relief();

// 200 000 short cuts there and back over the whole board, each ten of its 2000 by 1000 cells long, as deep as
// it happens.
plume::ToolPath short_cuts();

}  // namespace bench
