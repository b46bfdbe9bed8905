#pragma once
// What of a falling sheet or of threads hangs together, and what of that is held nowhere.

#include <cstdint>
#include <vector>

#include "core/data/vec3.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

// Vertices that springs join, in the order of their first vertices. Single ones that no spring holds are
// none.
using Piece = std::vector<std::uint32_t>;
std::vector<Piece> pieces_of(const Sheet& sheet);
// Those of which no vertex is held at all.
std::vector<Piece> loose_pieces(const Sheet& sheet, const std::vector<double>& firmness);

// Whether its middle went farther along a direction (of length 1) than the piece was long.
bool has_gone(const Piece& piece, const std::vector<Vec3>& first, const std::vector<Vec3>& now, Vec3 along);
// Whether all of it is beyond all of these places, so that going on it does not meet them.
bool is_beyond(const Piece& piece, const std::vector<Vec3>& now, const std::vector<Vec3>& places, Vec3 along);

}  // namespace plume
