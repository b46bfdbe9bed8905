#pragma once
// Program: a graph made ready to run over a domain, block by block of lanes.
//
// A domain has three directions (a missing one counts 1); lanes are its addresses, the first direction
// fastest. Nodes that depend on fewer directions than the domain has are computed once into tables (a stage
// for each set of directions), the rest in one last stage over all addresses. Each stage is a list of
// instructions over registers of one block; registers are reused as soon as their last reader has run.
//
// Deterministic: blocks are cut by the domain alone, so threads change nothing. Memory beyond the outputs:
// the tables, which are left out where they would be more than an eighth of the domain, and a few hundred KB
// a thread.

#include <array>
#include <limits>
#include <span>
#include <string>
#include <vector>

#include "core/base/error.hpp"
#include "core/base/run.hpp"
#include "core/data/column.hpp"
#include "core/formula/graph.hpp"

namespace plume {

// n values along one direction: from, from + 1 step, ... The last is exactly `last`, if there is a last.
struct Direction {
    std::size_t count = 1;
    double first = 0, last = 0;  // of the variable, at index 0 and count - 1
    bool closed = false;

    double value(std::size_t index) const;
    double share(std::size_t index) const;
};

struct Domain {
    std::array<Direction, 3> directions;
    std::vector<std::span<const double>> columns;  // one number per address each

    std::size_t size() const { return directions[0].count * directions[1].count * directions[2].count; }
};

// What is known of the numbers of one output.
struct Survey {
    double least = std::numeric_limits<double>::infinity();  // of the finite ones
    double most = -std::numeric_limits<double>::infinity();
    std::size_t not_finite = 0;
    std::size_t first_not_finite = std::numeric_limits<std::size_t>::max();  // flat address

    void include(const Survey& other);
};

struct Evaluated {
    std::vector<Doubles> columns;  // as `outputs`; empty where only surveyed
    std::vector<Survey> surveys;
};

enum class Keep { columns, surveys_only };

// Numbers of each output at every address. Error: cancelled.
Result<Evaluated> evaluate(const Graph& graph, std::span<const NodeId> outputs, const Domain& domain,
                           Keep keep, const Run& run);

// What evaluating needs at once, its outputs included.
double evaluation_bytes(std::size_t output_count, double address_count);

}  // namespace plume
