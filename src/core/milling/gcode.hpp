#pragma once
// Milling files in words of ISO 6983-1: written, and read back to be rehearsed.

#include <string>
#include <string_view>

#include "core/base/file.hpp"
#include "core/base/run.hpp"
#include "core/milling/cutter.hpp"
#include "core/milling/tool_path.hpp"

namespace plume {

struct GcodeHead {
    std::vector<std::string> comments;
    std::vector<Cutter> cutters;
    double spindle = 0;  // turns a minute; 0: not said
    // A beam instead of a cutter: it is put on and off as moves have it, and nothing is said of heights.
    bool beam = false;
};
// Millimetres to four digits behind the point, places absolute, centres of arcs from where they begin; what
// does not change is not said again. Seconds that are waited are G4 P; the machine stops (M0) before another
// sheet.
void write_gcode(const ToolPath& path, const GcodeHead& head, const ByteSink& sink);

struct GcodeFile {
    ToolPath path;
    std::size_t line_count = 0, tool_count = 1;
    std::vector<std::string> remarks;  // words that move nothing and are not understood, by their first line
};
// Moves (G0 to G3, centres or radii), planes, millimetres and inches, absolute and relative places, seconds
// of waiting, tools, feeds, the spindle or beam and its strength; stops (M0, M1) begin another sheet. Places
// before the first move are taken to be the origin. Errors name the line: syntax for what is no word;
// unknown_name for words that move otherwise; out_of_range for an arc without a centre, or one that ends off
// its circle; over_budget for more than 12 million moves; empty_input where nothing moves; cancelled.
// O(bytes).
Result<GcodeFile> gcode_from(std::string_view text, const Run& run);

}  // namespace plume
