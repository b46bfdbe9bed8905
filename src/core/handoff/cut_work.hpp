#pragma once
// Flat cutting, rehearsed.

#include "core/handoff/cut_delivery.hpp"
#include "core/handoff/rehearsed_work.hpp"
#include "core/milling/gcode.hpp"

namespace plume {

// The job's sheets are these.
Result<RehearsedWorkPointer> cut_work(GcodeFile file, std::vector<FlatSheet> sheets, FlatRehearsalJob job,
                                      const Run& run);

}  // namespace plume
