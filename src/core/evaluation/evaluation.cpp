#include "core/evaluation/evaluation.hpp"

#include <algorithm>
#include <array>

namespace plume {

std::string_view key_of(StepState state) {
    static constexpr std::array<std::string_view, 6> keys{"done",  "failed", "blocked",
                                                          "muted", "asks",   "cancelled"};
    return keys[static_cast<std::size_t>(state)];
}

const Outcome* Evaluation::outcome(ItemId id) const {
    const auto found = outcomes.find(id);
    return found == outcomes.end() ? nullptr : &found->second;
}

const Outcome* Evaluation::outcome(std::string_view result_name) const {
    const Step* step = study ? study->step(result_name) : nullptr;
    return step ? outcome(step->id) : nullptr;
}

std::size_t Evaluation::problem_count() const {
    return static_cast<std::size_t>(std::ranges::count_if(outcomes, [](const auto& entry) {
        const Outcome& outcome = entry.second;
        const bool reads_muted = outcome.error && outcome.error->code == ErrorCode::input_muted;
        return outcome.state == StepState::failed || outcome.state == StepState::asks || reads_muted;
    }));
}

}  // namespace plume
