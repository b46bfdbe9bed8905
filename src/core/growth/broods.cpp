#include "core/growth/broods.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/noise.hpp"

namespace plume {
namespace {

// More than that is told as that.
constexpr double most_told = 1e18;

class Chooser {
public:
    Chooser(const GrowthRules& rules, const Population& parts, const std::vector<std::uint8_t>& ended,
            std::size_t most, const Surroundings& around, const Run& run)
        : rules_(rules), parts_(parts), ended_(ended), most_(most), around_(around), run_(run) {}

    Result<std::vector<Brood>> all() {
        std::vector<Brood> broods;
        const Status taken =
            for_each_line([&](const GrownLine& line, const std::vector<std::uint32_t>& parents) -> Status {
                auto brood = brood_of(line, parents);
                if (!brood) return brood.error();
                if (!brood->parents.empty() || brood->too_many > 0) broods.push_back(*std::move(brood));
                return Done{};
            });
        if (!taken) return taken.error();
        return broods;
    }

    Result<double> count() {
        double count = 0;
        const Status taken =
            for_each_line([&](const GrownLine& line, const std::vector<std::uint32_t>& parents) -> Status {
                const auto more = count_of(line, parents);
                if (!more) return more.error();
                count += *more;
                return Done{};
            });
        if (!taken) return taken.error();
        return std::min(count, most_told);
    }

private:
    template <class Take>
    Status for_each_line(Take take) {
        return for_each_choice(
            rules_, parts_that_grow(), parts_.identities,
            [this](std::span<const NodeId> nodes, std::span<const std::uint32_t> parts) {
                return evaluate_for(rules_.formula.graph, nodes, {parts}, parts_, around_, run_);
            },
            [&](const GrownChoice& choice, const std::vector<std::uint32_t>& parents) -> Status {
                for (const GrownLine& line : choice.lines)
                    if (Status taken = take(line, parents); !taken) return taken;
                return Done{};
            });
    }

    // Which of them they are matters only to conditions.
    Result<double> count_of(const GrownLine& line, const std::vector<std::uint32_t>& parents) {
        if (line.conditions.any()) {
            const auto brood = brood_of(line, parents);
            if (!brood) return brood.error();
            return static_cast<double>(brood->parents.size()) + brood->too_many;
        }
        if (!line.times) return static_cast<double>(parents.size());
        const auto copies = copies_of(line, parents);
        if (!copies) return copies.error();
        return std::accumulate(copies->begin(), copies->end(), 0.0);
    }

    std::vector<std::vector<std::uint32_t>> parts_that_grow() {
        std::vector<std::vector<std::uint32_t>> by_part(rules_.rules.size());
        const std::size_t first = parts_.last_begin();
        for (std::size_t local = 0; local < parts_.last_size(); ++local) {
            if (!ended_.empty() && ended_[local]) continue;
            const std::uint16_t name = parts_.names[first + local];
            if (!rules_.rules[name].empty()) by_part[name].push_back(static_cast<std::uint32_t>(local));
        }
        return by_part;
    }

    Result<Brood> brood_of(const GrownLine& line, const std::vector<std::uint32_t>& parents) {
        Brood brood{&line};
        if (line.times) {
            if (Status made = add_copies(brood, parents); !made) return made.error();
        } else {
            brood.parents = parents;
        }
        if (!line.conditions.any() || brood.parents.empty()) return brood;
        std::vector<NodeId> nodes;
        for (const auto& node : {line.conditions.where, line.conditions.chance})
            if (node) nodes.push_back(*node);
        const auto numbers = evaluate_for(rules_.formula.graph, nodes, brood.lanes(), parts_, around_, run_);
        if (!numbers) return numbers.error();
        std::size_t to = 0;
        for (std::size_t lane = 0; lane < brood.parents.size(); ++lane) {
            if (line.conditions.where && !holds(numbers->columns.front()[lane])) continue;
            if (line.conditions.chance) {
                const auto identity =
                    identity_of(parts_.identities[brood.parents[lane]], line, brood.copy_of(lane));
                if (!(drawn_for_line(identity) < numbers->columns.back()[lane])) continue;
            }
            brood.parents[to] = brood.parents[lane];
            if (!brood.copy.empty()) {
                brood.copy[to] = brood.copy[lane];
                brood.copies[to] = brood.copies[lane];
            }
            ++to;
        }
        brood.parents.resize(to);
        if (!brood.copy.empty()) {
            brood.copy.resize(to);
            brood.copies.resize(to);
        }
        return brood;
    }

    // How many each parent makes.
    Result<Doubles> copies_of(const GrownLine& line, const std::vector<std::uint32_t>& parents) {
        const std::vector<NodeId> nodes{*line.times};
        auto numbers = evaluate_for(rules_.formula.graph, nodes, {parents}, parts_, around_, run_);
        if (!numbers) return numbers.error();
        for (double& times : numbers->columns.front())
            times = times > 0 ? std::round(times) : 0;
        return std::move(numbers->columns.front());
    }

    Status add_copies(Brood& brood, const std::vector<std::uint32_t>& parents) {
        if (parents.empty()) return Done{};
        const auto all_times = copies_of(*brood.line, parents);
        if (!all_times) return all_times.error();
        const double total = std::accumulate(all_times->begin(), all_times->end(), 0.0);
        if (!(total <= static_cast<double>(most_))) {
            brood.too_many = std::min(total, most_told);
            return Done{};
        }
        const auto count = static_cast<std::size_t>(total);
        brood.parents.reserve(count);
        brood.copy.reserve(count);
        brood.copies.reserve(count);
        for (std::size_t lane = 0; lane < parents.size(); ++lane) {
            const double times = (*all_times)[lane];
            for (double copy = 0; copy < times; ++copy) {
                brood.parents.push_back(parents[lane]);
                brood.copy.push_back(copy);
                brood.copies.push_back(times);
            }
        }
        return Done{};
    }

    const GrowthRules& rules_;
    const Population& parts_;
    const std::vector<std::uint8_t>& ended_;
    std::size_t most_;
    const Surroundings& around_;
    const Run& run_;
};

}  // namespace

std::uint64_t identity_of(std::uint64_t parent, const GrownLine& line, std::uint64_t copy) {
    return random_bits(random_bits(parent ^ line.salt) + copy) >> 11U;
}

Result<std::vector<Brood>> broods_of(const GrowthRules& rules, const Population& parts,
                                     const std::vector<std::uint8_t>& ended, std::size_t most,
                                     const Surroundings& around, const Run& run) {
    return Chooser(rules, parts, ended, most, around, run).all();
}

Result<double> brood_count(const GrowthRules& rules, const Population& parts,
                           const std::vector<std::uint8_t>& ended, std::size_t most,
                           const Surroundings& around, const Run& run) {
    return Chooser(rules, parts, ended, most, around, run).count();
}

}  // namespace plume
