#pragma once
// How a falling sheet, or threads, lie when they begin: led out of what they go into, and told what may not
// go as it was meant.

#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/value.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

// Reads what it was given, which outlives it; metres.
struct BegunSheet {
    const Value& thing;  // a mesh or a frame, wherever it lies
    const Sheet& sheet;
    const std::vector<double>& firmness;
    double thickness;
    std::optional<double> ground;
    std::vector<Vec3>& at;  // of its vertices
};

// Out of a form (in metres) that it begins in, as far as that can be; told, as is what still goes through.
// Error: cancelled.
Status lead_out_of(const Mesh& form, const BegunSheet& begun, const Run& run);
// What holds it, whether it is below its ground, and whether it crosses itself. Error: cancelled.
Status say_how_it_begins(const BegunSheet& begun, const Run& run);

}  // namespace plume
