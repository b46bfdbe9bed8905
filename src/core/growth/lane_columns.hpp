#pragma once
// Numbers that a graph of rules reads, as columns made of what its outputs really need.

#include <algorithm>
#include <span>

#include "core/base/parallel.hpp"
#include "core/formula/program.hpp"
#include "core/growth/growth_rules.hpp"

namespace plume {

// One column an output, `count` numbers each. at(column, lane) is a number that the graph reads; from many
// threads. Error: cancelled.
template <class At>
Result<Evaluated> evaluate_lanes(const Graph& graph, std::span<const NodeId> outputs, std::size_t count,
                                 const At& at, const Run& run) {
    const std::vector<std::uint32_t> read = columns_read(graph, outputs);
    Domain domain;
    domain.directions[0] = {count, 0, 1, false};
    if (!read.empty()) domain.columns.resize(1 + *std::ranges::max_element(read));
    std::vector<Doubles> made(read.size());
    for (std::size_t column = 0; column < read.size(); ++column) {
        made[column].resize(count);
        const bool finished =
            parallel_blocks(count, usual_block, run, [&](std::size_t begin, std::size_t end) {
                for (std::size_t lane = begin; lane < end; ++lane)
                    made[column][lane] = at(read[column], lane);
            });
        if (!finished) return cancelled_error();
        domain.columns[read[column]] = made[column];
    }
    return evaluate(graph, outputs, domain, Keep::columns, run);
}

}  // namespace plume
