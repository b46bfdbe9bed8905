#pragma once
// The shape of a step's response, for pictures of it beside its words.

#include "core/geometry/numbers/response.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// What `word` would be in this step: waves have the numbers of its slots, or of their presets where these
// cannot be read. Errors: those of shaping_of().
Result<Shaping> response_shape(const Study& study, const StepKind& kind, const Step& step,
                               std::string_view word);

}  // namespace plume
