#pragma once
// The numbers that a graph of rules reads, for some parts of the last generation: columns made of what the
// outputs really need.

#include <span>

#include "core/base/run.hpp"
#include "core/formula/program.hpp"
#include "core/growth/population.hpp"
#include "core/growth/surroundings.hpp"

namespace plume {

// Parts of the last generation, by their number in it, some several times.
struct PartLanes {
    std::span<const std::uint32_t> parts;
    std::span<const double> copy = {}, copies = {};  // as long as parts, or empty: 0 and 1
};

// One column an output. Error: cancelled.
Result<Evaluated> evaluate_for(const Graph& graph, std::span<const NodeId> outputs, const PartLanes& lanes,
                               const Population& population, const Surroundings& around, const Run& run);

}  // namespace plume
