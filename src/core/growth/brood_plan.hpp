#pragma once
// How a line makes its parts: its clauses cut into what is the same for all of them and what is computed.

#include <optional>
#include <span>
#include <vector>

#include "core/growth/population.hpp"
#include "core/growth/surroundings.hpp"

namespace plume {

class BroodPlan {
public:
    BroodPlan(const GrownLine& line, const Graph& graph);

    // What is to be computed, a column each.
    std::span<const NodeId> nodes() const { return nodes_; }
    PartPlace placed(const PartPlace& parent, const std::vector<Doubles>& numbers, std::size_t lane,
                     const Surroundings& around) const;
    // Writes the values of a child; returns its size, below 0 where it is turned inside out.
    double handed_down(Population& parts, const std::vector<Doubles>& numbers, std::size_t lane,
                       std::size_t parent, std::size_t child) const;

private:
    // A number of a part: a constant, or one of the columns.
    struct Source {
        double constant = 0;
        std::optional<std::size_t> column = {};
        double of(const std::vector<Doubles>& numbers, std::size_t lane) const {
            return column ? numbers[*column][lane] : constant;
        }
    };
    Source source_of(NodeId node, const Graph& graph);
    void add_motion(const GrownClause& clause, const Graph& graph);

    // Fixed motions come first, then the clause that is computed, and so on.
    struct Motion {
        FixedMotion before;
        GrownClause clause;
        Source number;
    };
    struct Handed {
        GrownClause clause;
        Source number;
    };
    std::vector<NodeId> nodes_;
    std::vector<Motion> motions_;
    FixedMotion last_;
    std::vector<Handed> handed_;  // sizes and values
};

}  // namespace plume
