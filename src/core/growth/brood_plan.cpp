#include "core/growth/brood_plan.hpp"

#include <utility>

namespace plume {
namespace {

using Type = PartClause::Type;

Vec3 goal_of(const GrownClause& clause, const PartPlace& place, const Surroundings& around) {
    if (clause.goal == BendGoal::attractors)
        return around.attractors->nearest(place.placement.origin) - place.placement.origin;
    return {0, 0, clause.goal == BendGoal::sky ? 1.0 : -1.0};
}

}  // namespace

BroodPlan::Source BroodPlan::source_of(NodeId node, const Graph& graph) {
    if (graph.is_constant(node)) return {graph[node].value};
    nodes_.push_back(node);
    return {0, nodes_.size() - 1};
}

void BroodPlan::add_motion(const GrownClause& clause, const Graph& graph) {
    if (clause.type == Type::mirrored) return last_.mirror(clause.way);
    const Source number = source_of(clause.node, graph);
    if (clause.type != Type::bent && !number.column) {
        if (clause.type == Type::moved) return last_.move(clause.way, number.constant);
        return last_.turn(clause.way, number.constant);
    }
    motions_.push_back({std::exchange(last_, {}), clause, number});
}

BroodPlan::BroodPlan(const GrownLine& line, const Graph& graph) {
    for (const GrownClause& clause : line.clauses) {
        if (clause.type == Type::sized || clause.type == Type::handed)
            handed_.push_back({clause, source_of(clause.node, graph)});
        else
            add_motion(clause, graph);
    }
}

PartPlace BroodPlan::placed(const PartPlace& parent, const std::vector<Doubles>& numbers, std::size_t lane,
                            const Surroundings& around) const {
    PartPlace place = parent;
    for (const Motion& motion : motions_) {
        place = motion.before.applied(place);
        const GrownClause& clause = motion.clause;
        const double number = motion.number.of(numbers, lane);
        if (clause.type == Type::moved) move(place, clause.way, number);
        if (clause.type == Type::turned) turn(place, clause.way, number);
        if (clause.type == Type::bent) bend(place, goal_of(clause, place, around), number);
    }
    return last_.applied(place);
}

double BroodPlan::handed_down(Population& parts, const std::vector<Doubles>& numbers, std::size_t lane,
                              std::size_t parent, std::size_t child) const {
    double size = parts.sizes[parent];
    for (Doubles& value : parts.values)
        value[child] = value[parent];
    for (const Handed& handed : handed_) {
        const double number = handed.number.of(numbers, lane);
        if (handed.clause.type == Type::handed)
            parts.values[handed.clause.handed][child] = number;
        else
            size = handed.clause.absolute ? number : size * number;
    }
    return size;
}

}  // namespace plume
