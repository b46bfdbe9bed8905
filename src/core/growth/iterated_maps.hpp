#pragma once
// A set of placements applied to itself: each is a map that moves, turns and scales everything there is.
//
// Iterated function systems after J. Hutchinson, Fractals and Self-Similarity, 1981,
// doi 10.1512/iumj.1981.30.30055. Generation n has all words of n maps; a part's parent is its word without
// the last map. So what stands at a place of one generation is a small copy of all that came before.

#include "core/base/run.hpp"
#include "core/base/units.hpp"
#include "core/data/placements.hpp"

namespace plume {

struct MapSystem {
    std::vector<Placement> maps;  // as seen from the world's axes
    std::vector<double> scales;   // one each, above 0
};

// From each root, which has this size. Numbers of parts: depth, number (which map came last), size. As many
// generations as asked for. Error: cancelled.
Result<Placements> iterated_maps(const MapSystem& system, const std::vector<Placement>& roots, double size,
                                 std::size_t generations, const Units& units, const Run& run);

}  // namespace plume
