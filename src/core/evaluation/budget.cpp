#include "core/evaluation/budget.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

// What a step may need without being asked about, however much is held.
constexpr double negligible_bytes = 1e7;

// How a step is made to need less.
std::string less_text(const StepKind& kind) {
    const auto has = [&](SlotType type) {
        return std::ranges::find(kind.slots, type, &SlotSpec::type) != kind.slots.end();
    };
    if (has(SlotType::count))
        return has(SlotType::reference) ? "Lower its counts or what it reads" : "Lower its counts";
    return has(SlotType::reference) ? "Let it read less" : "Let its numbers ask for less";
}

std::string need_text(double bytes) {
    if (!(bytes < 1e18)) return "would need more memory than any machine has";
    return "would need about " + bytes_text(bytes) + " of memory";
}

}  // namespace

std::optional<Error> over_budget(const StepKind& kind, const Estimate& estimate, const Hash& key,
                                 double held_bytes, const Budget& budget) {
    const std::string where = "This step", less = less_text(kind), need = need_text(estimate.bytes);
    const std::string machine = "the " + bytes_text(budget.machine_bytes) + " this machine has";
    const std::string held = ", and the results above it hold " + bytes_text(held_bytes) + " already";
    if (estimate.bytes > budget.machine_bytes)
        return Error{ErrorCode::out_of_memory, where,
                     estimate.bytes < 1e18 ? need + ", more than " + machine : need, less + "."};
    const double together = estimate.bytes + held_bytes;
    if (together > budget.machine_bytes)
        return Error{ErrorCode::out_of_memory, where, need + held + ": more than " + machine,
                     less + ", or mute steps that are not needed."};
    const bool small = estimate.bytes <= budget.bytes && estimate.seconds <= budget.seconds;
    const bool all_small = together <= budget.together_bytes || estimate.bytes < negligible_bytes;
    if ((small && all_small) || budget.permitted.contains(key)) return {};
    const std::string time = duration_text(std::max(1.0, std::round(estimate.seconds)));
    return Error{ErrorCode::over_budget, where, small ? need + held : need + " and about " + time,
                 less + ", or allow it."};
}

}  // namespace plume
