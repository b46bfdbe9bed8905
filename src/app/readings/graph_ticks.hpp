#pragma once
// Round numbers along an axis of a graph.

#include <QString>
#include <functional>

#include "core/base/units.hpp"

namespace plume::app {

// About `count` of them between two numbers, each with its text in the study's units.
void for_each_tick(double least, double most, Dimension dimension, const Units& units, double count,
                   const std::function<void(double at, const QString& text)>& draw);

}  // namespace plume::app
