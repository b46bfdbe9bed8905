#include "core/evaluation/passing_results.hpp"

#include <algorithm>
#include <utility>

#include "core/study/moving.hpp"

namespace plume {
namespace {

constexpr std::size_t large = 1 << 20;  // bytes
constexpr double quickly_s = 0.1;

bool is_large_and_quickly_made(const Outcome& outcome) {
    return outcome.value && !outcome.from_cache && outcome.seconds < quickly_s &&
           bytes_of(*outcome.value) >= large;
}

}  // namespace

void PassingResults::see(const Evaluation& evaluation, bool passing) {
    if (!evaluation.all_seen || evaluation.cancelled) return;
    for (const Hash& key : std::exchange(passed_, {})) {
        const auto still_used = [&](const auto& one) { return one.second.key == key; };
        if (std::ranges::none_of(evaluation.outcomes, still_used)) store_.let_go_of(key);
    }
    if (!passing) return;
    // Those of other moments are gone back to.
    const std::set<ItemId> moving = moving_steps(*evaluation.study, catalogue_);
    for (const auto& [id, outcome] : evaluation.outcomes)
        if (is_large_and_quickly_made(outcome) && !moving.contains(id)) passed_.push_back(outcome.key);
}

}  // namespace plume
