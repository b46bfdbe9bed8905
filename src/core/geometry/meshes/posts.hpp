#pragma once
// Posts: upright prisms on points, and which of them run into each other.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/data/placements.hpp"

namespace plume {

enum class Footprint { circle, polygon, box };

// One post: its footprint stands around the placement's origin in its plane, turned anticlockwise about its
// up.
struct Post {
    Placement placement;
    double radius = 0.1;              // of circle and polygon: to the corners
    double width = 0.2, depth = 0.2;  // of a box
    double height = 1;                // along up; below 0 downwards; not 0
    double turn_rad = 0;
};

struct PostPlan {
    Footprint footprint = Footprint::circle;
    std::size_t sides = 16;  // of circle and polygon, at least 3
};

// Closed solids, one after the other: `sides` quads, a top and a bottom each; faces turned outwards. Errors:
// over_budget beyond 2^32 corners; cancelled. O(posts x sides).
Result<Mesh> posts_mesh(const std::vector<Post>& posts, const PostPlan& plan, const Run& run);

struct Overlaps {
    std::size_t pairs = 0;
    double worst_depth = 0;  // the shortest way to slide the deepest pair apart, in plan
    std::size_t worst_first = 0, worst_second = 0;  // numbers of that pair's posts
    bool all_counted = true;                        // false: counting was given up
};
// Of posts whose placements stand upright; others are left out. Circles by their radii, the rest by the
// separating axes of their footprints (Gottschalk, Lin, Manocha, OBBTree, SIGGRAPH 1996,
// doi 10.1145/237170.237244, in the plane). Posts that touch do not overlap. O(posts + pairs). Error:
// cancelled.
Result<Overlaps> post_overlaps(const std::vector<Post>& posts, const PostPlan& plan, const Run& run);

}  // namespace plume
