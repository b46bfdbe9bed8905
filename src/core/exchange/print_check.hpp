#pragma once
// Whether bodies can be printed.

#include "core/exchange/scene.hpp"

namespace plume {

// Where the job is for print: every object is closed, its faces turned outwards, and no face crosses another.
// Errors: has_gaps, naming the result, what is wrong, how often and where first; cancelled.
Status check_for_print(const std::vector<SceneObject>& scene, const ExportJob& job, const Run& run);

}  // namespace plume
