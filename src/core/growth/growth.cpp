#include "core/growth/growth.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/growth/brood_plan.hpp"
#include "core/growth/broods.hpp"
#include "core/growth/kept_clear.hpp"
#include "core/growth/part_lanes.hpp"

namespace plume {
namespace {

// Axes are made upright again every so many generations: what rounding does to them stays below 1e-13.
constexpr std::size_t upright_every = 64;

class Grower {
public:
    Grower(const GrowthRules& rules, const GrowthLimits& limits, const Surroundings& around, const Run& run)
        : rules_(rules), limits_(limits), around_(around), run_(run), quiet_(run.part(0, 0)) {}

    Result<Grown> all(const GrowthStart& start) {
        if (Status rooted = set_roots(start); !rooted) return rooted.error();
        if (limits_.apart > 0) clear_ = std::make_unique<KeptApart>(limits_.apart, grown_.parts);
        if (limits_.boxes) clear_ = std::make_unique<KeptBoxes>(*limits_.boxes, grown_.parts);
        while (parts().depth() < limits_.generations) {
            run_.report(static_cast<double>(parts().depth()) / static_cast<double>(limits_.generations));
            const auto more = next_generation();
            if (!more) return more.error();
            if (!*more) break;
        }
        if (grown_.end == GrowthEnd::generations) {
            const auto next = brood_count(rules_, parts(), ended_, limits_.most, around_, quiet_);
            if (!next) return next.error();
            grown_.next = static_cast<std::size_t>(*next);
        }
        return std::move(grown_);
    }

    Result<std::vector<Ancestor>> descent(const GrowthStart& start, std::size_t root,
                                          const std::vector<std::size_t>& numbers) {
        if (Status rooted = set_roots(start); !rooted) return rooted.error();
        std::vector<std::uint8_t> kept(parts().size(), 0);
        kept[root] = 1;
        parts().keep(kept);
        std::vector<Ancestor> ancestors{last_part()};
        for (const std::size_t number : numbers) {
            const std::uint16_t parent = parts().names.back();
            const double for_choice = drawn_for_choice(parts().identities.front());
            const auto more = next_generation();
            if (!more) return more.error();
            if (!*more) break;
            kept.assign(parts().last_size(), 0);
            for (std::size_t local = 0; local < kept.size(); ++local)
                kept[local] = parts().numbers[parts().last_begin() + local] == static_cast<double>(number);
            parts().keep(kept);
            if (parts().last_size() != 1) break;
            ancestors.push_back(last_part());
            add_draws(ancestors.back(), parent, for_choice);
        }
        return ancestors;
    }

private:
    Ancestor last_part() {
        Ancestor last{parts().names.back(), parts().lines.back(), parts().depth()};
        last.number = static_cast<std::size_t>(parts().numbers.back());
        last.siblings = parts().siblings.back();
        last.size = parts().sizes.back();
        for (const Doubles& value : parts().values)
            last.values.push_back(value.back());
        return last;
    }
    void add_draws(Ancestor& child, std::uint16_t parent, double for_choice) {
        for (const GrownChoice& choice : rules_.rules[parent])
            if (choice.conditions.chance) child.drawn_for_choice = for_choice;
        if (grown_lines(rules_)[child.line - 1U]->conditions.chance)
            child.drawn_for_line = drawn_for_line(parts().identities.front());
    }

    Population& parts() { return grown_.parts; }
    const Graph& graph() const { return rules_.formula.graph; }

    // Roots -----------------------------------------------------------------------------------------------

    Status set_roots(const GrowthStart& start) {
        const std::size_t count = start.placements.size();
        Population& roots = parts();
        roots.values.resize(rules_.values.size());
        roots.fields.resize(rules_.fields.size());
        roots.generations.push_back(count);
        roots.add(count);
        roots.placements = start.placements;
        if (mirrors()) roots.sides.assign(count, 1);
        std::ranges::fill(roots.parents, PartTree::none);
        std::ranges::fill(roots.sizes, start.size);
        roots.identities = start.identities;
        roots.siblings.assign(count, static_cast<std::uint32_t>(count));
        for (std::size_t root = 0; root < count; ++root)
            roots.numbers[root] = static_cast<double>(root);
        for (std::size_t value = 0; value < start.inherited.size(); ++value)
            roots.values[value] = start.inherited[value];
        std::vector<NodeId> nodes;
        for (std::size_t value = start.inherited.size(); value < rules_.values.size(); ++value)
            nodes.push_back(rules_.values[value].at_roots);
        if (!nodes.empty()) {
            auto made = evaluate_for(rules_.roots.graph, nodes, {everyone()}, roots, around_, quiet_);
            if (!made) return made.error();
            for (std::size_t at = 0; at < nodes.size(); ++at)
                roots.values[start.inherited.size() + at] = std::move(made->columns[at]);
        }
        return finish_generation();
    }

    bool mirrors() const {
        for (const GrownLine* line : grown_lines(rules_))
            for (const GrownClause& clause : line->clauses)
                if (clause.type == PartClause::Type::mirrored || may_turn_inside_out(clause)) return true;
        return false;
    }
    // A factor that is known and above 0 does not.
    bool may_turn_inside_out(const GrownClause& clause) const {
        return clause.type == PartClause::Type::sized &&
               !(graph().is_constant(clause.node) && graph()[clause.node].value > 0);
    }

    std::vector<std::uint32_t>& everyone() {
        everyone_.resize(parts().last_size());
        std::iota(everyone_.begin(), everyone_.end(), 0U);
        return everyone_;
    }

    // Generations -----------------------------------------------------------------------------------------

    // Whether there is another one.
    Result<bool> next_generation() {
        auto broods = broods_of(rules_, parts(), ended_, limits_.most, around_, quiet_);
        if (!broods) return broods.error();
        const std::size_t count = give_places(*broods);
        if (count == 0) {
            grown_.end = GrowthEnd::finished;
            return false;
        }
        if (count > limits_.most - std::min(limits_.most, parts().size())) {
            grown_.end = GrowthEnd::most;
            grown_.next = count;
            return false;
        }
        if (Status made = make(*broods, count); !made) return made.error();
        if (Status kept = leave_out(); !kept) return kept.error();
        if (parts().last_size() == 0) {
            parts().generations.pop_back();
            grown_.end = GrowthEnd::finished;
            return false;
        }
        if (Status done = finish_generation(); !done) return done.error();
        return true;
    }

    // Where all of them will stand; returns how many they are.
    std::size_t give_places(std::vector<Brood>& broods) {
        counts_.assign(parts().last_size(), 0);
        std::size_t all = 0;
        double too_many = 0;
        for (const Brood& brood : broods) {
            for (const std::uint32_t parent : brood.parents)
                ++counts_[parent];
            all += brood.parents.size();
            too_many += brood.too_many;
        }
        if (too_many > 0) return all + static_cast<std::size_t>(too_many);
        if (all > limits_.most) return all;
        std::vector<std::uint32_t> next(counts_.size());
        std::exclusive_scan(counts_.begin(), counts_.end(), next.begin(), 0U);
        firsts_ = next;
        for (Brood& brood : broods) {
            brood.places.resize(brood.parents.size());
            for (std::size_t lane = 0; lane < brood.parents.size(); ++lane)
                brood.places[lane] = next[brood.parents[lane]]++;
        }
        return all;
    }

    // Making ----------------------------------------------------------------------------------------------

    Status make(const std::vector<Brood>& broods, std::size_t count) {
        // What is read of the last generation while the next one is written.
        std::vector<BroodPlan> plans;
        std::vector<std::vector<Doubles>> numbers;
        for (const Brood& brood : broods) {
            plans.emplace_back(*brood.line, graph());
            auto made = evaluate_for(graph(), plans.back().nodes(), brood.lanes(), parts(), around_, quiet_);
            if (!made) return made.error();
            numbers.push_back(std::move(made->columns));
        }
        const std::size_t from = parts().last_begin(), to = parts().size();
        const std::vector<std::uint64_t> identities = std::move(parts().identities);
        parts().add(count);
        parts().generations.push_back(parts().size());
        parts().identities = std::vector<std::uint64_t>(count);
        parts().siblings.resize(count);
        for (std::size_t at = 0; at < broods.size(); ++at)
            if (Status made = make_brood(broods[at], plans[at], numbers[at], identities, from, to); !made)
                return made;
        return Done{};
    }

    Status make_brood(const Brood& brood, const BroodPlan& plan, const std::vector<Doubles>& numbers,
                      const std::vector<std::uint64_t>& identities, std::size_t from, std::size_t to) {
        const GrownLine& line = *brood.line;
        Population& all = parts();
        const bool upright = all.depth() % upright_every == 0;
        std::atomic<std::size_t> inside_out{0};
        const auto make_part = [&](std::size_t lane) {
            const std::uint32_t local = brood.parents[lane];
            const std::size_t parent = from + local, child = to + brood.places[lane];
            PartPlace place = plan.placed(all.place(parent), numbers, lane, around_);
            const double size = plan.handed_down(all, numbers, lane, parent, child);
            if (size < 0) {
                turn_inside_out(place);
                ++inside_out;
            }
            if (upright) make_upright(place);
            all.placements[child] = place.placement;
            if (!all.sides.empty()) all.sides[child] = place.side < 0 ? -1 : 1;
            all.sizes[child] = std::abs(size);
            all.names[child] = line.part;
            all.lines[child] = line.number;
            all.parents[child] = static_cast<std::uint32_t>(parent);
            all.numbers[child] = static_cast<double>(brood.places[lane] - firsts_[local]);
            all.siblings[child - to] = counts_[local];
            all.identities[child - to] = identity_of(identities[local], line, brood.copy_of(lane));
        };
        const bool finished = parallel_blocks(brood.parents.size(), usual_block, quiet_,
                                              [&](std::size_t begin, std::size_t end) {
                                                  for (std::size_t lane = begin; lane < end; ++lane)
                                                      make_part(lane);
                                              });
        grown_.mirrored_by_size += inside_out;
        return finished ? Status(Done{}) : Status(cancelled_error());
    }

    // Leaving out -----------------------------------------------------------------------------------------

    Status leave_out() {
        const std::size_t first = parts().last_begin(), count = parts().last_size();
        std::vector<std::uint8_t> kept(count, 1);
        std::atomic<std::size_t> outside{0}, small{0};
        const bool finished =
            parallel_blocks(count, usual_block, quiet_, [&](std::size_t begin, std::size_t end) {
                for (std::size_t local = begin; local < end; ++local) {
                    const std::size_t part = first + local;
                    const bool usable = is_finite(parts().placements[part].origin) &&
                                        is_finite(parts().placements[part].up) &&
                                        is_finite(parts().placements[part].along) &&
                                        std::isfinite(parts().sizes[part]) && parts().sizes[part] > 0;
                    if (!usable) {
                        kept[local] = 2;
                    } else if (parts().sizes[part] < limits_.least_size) {
                        kept[local] = 0;
                        ++small;
                    } else if (around_.contains && !around_.contains(parts().placements[part].origin)) {
                        kept[local] = 0;
                        ++outside;
                    }
                }
            });
        if (!finished) return cancelled_error();
        grown_.outside += outside;
        grown_.too_small += small;
        tell_unusable(kept);
        if (clear_) {
            const auto in_the_way = clear_->leave_out(parts(), kept, run_);
            if (!in_the_way) return in_the_way.error();
            grown_.in_the_way += *in_the_way;
        }
        if (std::ranges::find(kept, 0) != kept.end()) parts().keep(kept);
        return Done{};
    }

    // Those marked 2 are told and left out.
    void tell_unusable(std::vector<std::uint8_t>& kept) {
        const std::size_t first = parts().last_begin();
        for (std::size_t local = 0; local < kept.size(); ++local) {
            if (kept[local] != 2) continue;
            kept[local] = 0;
            const std::size_t part = first + local;
            if (grown_.not_a_number + grown_.without_size == 0)
                grown_.first_left_out = "in generation " + std::to_string(parts().depth()) +
                                        " by the line ‘" + rules_.line_texts[parts().lines[part]] + "’";
            (parts().sizes[part] == 0 ? grown_.without_size : grown_.not_a_number) += 1;
        }
    }

    Status finish_generation() {
        const std::size_t first = parts().last_begin(), count = parts().last_size();
        if (!rules_.fields.empty()) {
            std::vector<NodeId> nodes;
            for (const PartField& field : rules_.fields)
                nodes.push_back(field.node);
            const auto made = evaluate_for(graph(), nodes, {everyone()}, parts(), around_, quiet_);
            if (!made) return made.error();
            for (std::size_t at = 0; at < nodes.size(); ++at)
                parts().fields[at].insert(parts().fields[at].end(), made->columns[at].begin(),
                                          made->columns[at].end());
        }
        ended_.clear();
        if (limits_.reach > 0 && around_.attractors) {
            ended_.resize(count);
            for (std::size_t local = 0; local < count; ++local) {
                const Vec3 place = parts().placements[first + local].origin;
                ended_[local] = length(around_.attractors->nearest(place) - place) <= limits_.reach ? 1 : 0;
            }
        }
        return run_.cancelled() ? Status(cancelled_error()) : Status(Done{});
    }

    const GrowthRules& rules_;
    const GrowthLimits& limits_;
    const Surroundings& around_;
    const Run& run_;
    const Run quiet_;
    Grown grown_;
    std::unique_ptr<KeptClear> clear_;
    std::vector<std::uint32_t> everyone_;
    std::vector<std::uint32_t> counts_,
        firsts_;                       // of each of the last generation: how many it makes, and which
    std::vector<std::uint8_t> ended_;  // 1 of those of the last generation that make nothing more
};

}  // namespace

Result<Grown> grow(const GrowthRules& rules, const GrowthStart& start, const GrowthLimits& limits,
                   const Surroundings& around, const Run& run) {
    return Grower(rules, limits, around, run).all(start);
}

Result<std::vector<Ancestor>> retraced(const GrowthRules& rules, const GrowthStart& start, std::size_t root,
                                       const std::vector<std::size_t>& numbers, const Surroundings& around,
                                       const Run& run) {
    const GrowthLimits none;
    Surroundings anywhere = around;
    anywhere.contains = {};
    return Grower(rules, none, anywhere, run).descent(start, root, numbers);
}

}  // namespace plume
