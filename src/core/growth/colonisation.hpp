#pragma once
// Growth towards places: branches that reach for goals and share them out.
//
// A. Runions, B. Lane, P. Prusinkiewicz, Modeling Trees with a Space Colonization Algorithm, 2007, doi
// 10.2312/NPH/NPH07/063-070: every goal pulls at the part of the tree that is nearest to it, if that is
// within reach; each part that is pulled makes one more, a step away along the mean of the directions to its
// goals; goals that are come near to are reached and pull no more. Ours finds out for each new part only
// which goals it is nearest to now (a k-d tree of goals), so that a generation costs what it adds and not all
// goals times all parts; where no goal is within reach of anything, the part nearest to one goes straight
// towards it; and where goals pull a part against each other, so that it would make the same part again, it
// goes to the nearest.
//
// About O(parts log goals + parts x goals within reach).

#include <vector>

#include "core/base/run.hpp"
#include "core/data/placements.hpp"

namespace plume {

struct Colonisation {
    double step = 1;   // from part to part
    double reach = 4;  // goals further from the tree pull only where none is nearer
    double near = 1;   // goals this near to a part are reached; not above reach
    std::size_t generations = 1000;
    std::size_t most = 1'000'000;  // parts in all
    double up = 0;                 // how strongly they strive straight up, against the goals' 1
};

enum class ColonisationEnd { reached, generations, most, stuck };

struct Colonised {
    std::vector<Placement> placements;  // up along the way they grew
    std::vector<std::uint32_t> parents;
    std::vector<std::uint32_t> depths;
    // Of each part: how many goals drew it, and the number of the nearest of them; of roots 0.
    std::vector<std::uint32_t> drawn_by, nearest_goal;
    std::vector<std::size_t> generations;  // as PartTree
    std::vector<std::uint8_t> reached;     // of each goal
    ColonisationEnd end = ColonisationEnd::reached;
};

// From the roots, at least one. Goals have to be finite; those that are near to a root are reached. Error:
// cancelled.
Result<Colonised> colonise(const std::vector<Placement>& roots, const std::vector<Vec3>& goals,
                           const Colonisation& wishes, const Run& run);

}  // namespace plume
