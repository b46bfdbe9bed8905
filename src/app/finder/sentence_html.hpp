#pragma once
// A step's sentence as rich text, with its parts as they look in the page: numbers, words, names of results.

#include <QString>

#include "core/study/step_kind.hpp"

namespace plume::app {

// With links each part is one, to the key of its slot.
enum class PartsAre { plain, links };
QString sentence_html(const StepKind& kind, const Step& step, PartsAre parts = PartsAre::plain);

}  // namespace plume::app
