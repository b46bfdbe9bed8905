#pragma once
// What a study may take of the machine without being asked about it, and beyond permission.

#include <optional>
#include <set>

#include "core/base/hash.hpp"
#include "core/base/machine.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

struct Budget {
    double bytes = 2e9;  // a step estimated above this asks first
    double seconds = 20;
    double together_bytes = 4e9;              // a step with which all results would pass this asks, too
    double machine_bytes = machine_memory();  // above this it cannot be permitted
    std::set<Hash> permitted;                 // keys of steps allowed to go over
};

// Why a step of this estimate is not made: over_budget where it may be permitted, out_of_memory where it
// cannot; nothing when it may be made. `held_bytes` is what the results above it hold.
std::optional<Error> over_budget(const StepKind& kind, const Estimate& estimate, const Hash& key,
                                 double held_bytes, const Budget& budget);

}  // namespace plume
