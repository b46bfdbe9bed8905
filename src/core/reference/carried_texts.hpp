#pragma once
// Texts that the program carries within itself, made of files when it is built. Private to the reference.

#include <span>

#include "core/reference/examples.hpp"

namespace plume {

std::span<const Example> carried_examples();
// {"kind": [{"slot", "text", "mend"}, ...], ...}
std::string_view carried_refusals();

}  // namespace plume
