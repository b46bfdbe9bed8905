#pragma once
// Milling, rehearsed.

#include "core/handoff/milled_delivery.hpp"
#include "core/handoff/rehearsed_work.hpp"
#include "core/milling/gcode.hpp"

namespace plume {

// `form`: of the job, if it has one.
Result<RehearsedWorkPointer> milled_work(GcodeFile file, const RehearsalJob& job,
                                         std::shared_ptr<const FormInBoard> form, const Run& run);

}  // namespace plume
