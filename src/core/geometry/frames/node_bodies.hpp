#pragma once
// Bodies that stand for nodes.

#include <functional>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Balls are faceted, their corners on the ball. Discs stand about the node, square to `up`.
struct NodePlan {
    bool discs = false;
    std::function<double(std::size_t node)> diameter;
    double thickness = 0.02;  // of discs
    std::function<Vec3(std::size_t node)> up;
};

// A closed part a node that is present, in their order; faces carry `node`, its flat address, and `valence`.
// Errors: out_of_range for a diameter that is not above 0, naming the node; over_budget; cancelled.
Result<Mesh> node_bodies(const BarFrame& frame, const NodePlan& plan, const Run& run);

}  // namespace plume
