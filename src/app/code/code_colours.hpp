#pragma once
// How words of formulas, rules and scripts look.

#include <QTextCharFormat>

#include "core/formula/spans.hpp"

namespace plume::app {

QTextCharFormat format_of(SpanType type);

}  // namespace plume::app
