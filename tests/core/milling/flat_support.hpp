#pragma once
// Flat lines in closed form, for whatever cuts them.

#include <cmath>
#include <numbers>

#include "core/milling/flat_cutting.hpp"
#include "core/milling/flat_rehearsal.hpp"
#include "core/support.hpp"

namespace plume::test {

inline FlatLine rectangle(double left, double below, double width, double depth) {
    return {{{left, below}, {left + width, below}, {left + width, below + depth}, {left, below + depth}},
            true};
}
inline FlatLine round_line(double x, double y, double radius, int sides = 360) {
    FlatLine line;
    line.closed = true;
    for (int side = 0; side < sides; ++side) {
        const double angle = 2 * std::numbers::pi * side / sides;
        line.places.push_back({x + radius * std::cos(angle), y + radius * std::sin(angle)});
    }
    return line;
}

inline std::vector<FlatSheet> sheets(FlatLines lines, double margin = 20) {
    auto made = flat_sheets(std::move(lines), margin, plume::Run());
    if (!made) throw std::runtime_error(sentence(made.error()));
    return *std::move(made);
}
inline FlatTool beam(double kerf) {
    FlatTool tool;
    tool.kerf = kerf;
    tool.feed = 3000;
    tool.mark_feed = 6000;
    tool.power = 1000;
    tool.mark_power = 200;
    tool.pierce_s = 0.5;
    return tool;
}
inline FlatTool cutter(double diameter) {
    FlatTool tool;
    tool.beam = false;
    tool.kerf = diameter;
    tool.depth = 18.5;
    tool.step_down = 6.5;
    tool.mark_depth = 0.5;
    tool.feed = 2000;
    return tool;
}
inline FlatCuts cuts(const std::vector<FlatSheet>& sheets, const FlatTool& tool) {
    auto made = flat_cuts(sheets, tool, plume::Run());
    if (!made) throw std::runtime_error(sentence(made.error()));
    return *std::move(made);
}
inline FlatRehearsalJob job_of(const std::vector<FlatSheet>& sheets, const FlatTool& tool) {
    FlatRehearsalJob job;
    job.sheets = sheets;
    job.beam = tool.beam;
    job.kerf = tool.kerf;
    job.thickness = 18;
    job.mark_depth = tool.mark_depth;
    return job;
}
inline FlatRehearsal rehearsed_flat(const ToolPath& path, const std::vector<FlatSheet>& sheets,
                                    const FlatTool& tool) {
    auto made = flat_rehearsed(path, job_of(sheets, tool), plume::Run());
    if (!made) throw std::runtime_error(sentence(made.error()));
    return *std::move(made);
}

}  // namespace plume::test
