#include "core/growth/choices.hpp"

#include "core/base/noise.hpp"

namespace plume {
namespace {

// Seeds of the two sorts of chance; no formula is likely to have them.
constexpr double choice_seed = 0x63686f69, line_seed = 0x6c696e65;

// Which of them a part takes, by the columns of its conditions; as many as there are where it takes none.
std::size_t choice_of(const std::vector<GrownChoice>& choices, const std::vector<Doubles>& columns,
                      std::size_t lane, double drawn) {
    double share = 0;
    std::size_t column = 0;
    for (std::size_t choice = 0; choice < choices.size(); ++choice) {
        const GrownConditions& conditions = choices[choice].conditions;
        const bool here = !conditions.where || holds(columns[column++][lane]);
        if (conditions.chance) {
            const double chance = columns[column++][lane];
            if (here) share += chance;
            if (here && drawn < share) return choice;
        } else if (here) {
            return choice;
        }
    }
    return choices.size();
}

// Those of the parts that take each choice.
Result<std::vector<std::vector<std::uint32_t>>> choices_taken(const std::vector<GrownChoice>& choices,
                                                              std::vector<std::uint32_t> parts,
                                                              const std::vector<std::uint64_t>& identities,
                                                              const NumbersOfParts& numbers_of) {
    std::vector<std::vector<std::uint32_t>> taken(choices.size());
    if (!choices.front().conditions.any()) {
        taken.front() = std::move(parts);
        return taken;
    }
    std::vector<NodeId> nodes;
    for (const GrownChoice& choice : choices)
        for (const auto& node : {choice.conditions.where, choice.conditions.chance})
            if (node) nodes.push_back(*node);
    const auto numbers = numbers_of(nodes, parts);
    if (!numbers) return numbers.error();
    for (std::size_t lane = 0; lane < parts.size(); ++lane) {
        const std::size_t choice =
            choice_of(choices, numbers->columns, lane, drawn_for_choice(identities[parts[lane]]));
        if (choice < choices.size()) taken[choice].push_back(parts[lane]);
    }
    return taken;
}

}  // namespace

double drawn_for_choice(std::uint64_t identity) {
    return random_of(choice_seed, static_cast<double>(identity));
}

double drawn_for_line(std::uint64_t identity) {
    return random_of(line_seed, static_cast<double>(identity));
}

Status for_each_choice(const GrowthRules& rules, std::vector<std::vector<std::uint32_t>> by_part,
                       const std::vector<std::uint64_t>& identities, const NumbersOfParts& numbers_of,
                       const ChoiceUse& use) {
    for (std::size_t part = 0; part < by_part.size(); ++part) {
        if (by_part[part].empty()) continue;
        const auto taken = choices_taken(rules.rules[part], std::move(by_part[part]), identities, numbers_of);
        if (!taken) return taken.error();
        for (std::size_t choice = 0; choice < taken->size(); ++choice) {
            if ((*taken)[choice].empty()) continue;
            if (Status used = use(rules.rules[part][choice], (*taken)[choice]); !used) return used;
        }
    }
    return Done{};
}

}  // namespace plume
