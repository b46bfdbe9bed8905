#pragma once
// Everything that can be written in a formula: its own lines, what it stands on, controls, functions,
// constants.

#include "app/code/completion_list.hpp"
#include "app/document/document.hpp"

namespace plume::app {

std::vector<Completion> completions_of(const FormulaInsight* insight, const std::string& text);

}  // namespace plume::app
