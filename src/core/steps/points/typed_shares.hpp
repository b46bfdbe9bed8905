#pragma once
// Shares of a curve's length, typed.

#include "core/study/step_kind.hpp"

namespace plume {

// "0 0.25 0.5": at least one number, each from 0 to 1. Errors at the slot `shares`.
Result<std::vector<double>> typed_shares(const std::string& text);

}  // namespace plume
