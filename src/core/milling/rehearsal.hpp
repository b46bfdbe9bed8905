#pragma once
// What becomes of a board when moves are made: what is left standing, what is cut too deep, where the cutter
// cannot reach, how long it takes.

#include <optional>
#include <string>

#include "core/base/run.hpp"
#include "core/base/units.hpp"
#include "core/milling/height_cells.hpp"
#include "core/milling/tool_path.hpp"

namespace plume {

// Millimetres; its top lies at 0, its lower left corner at the origin.
struct Board {
    double width = 0, depth = 0, thickness = 0;
};

struct RehearsalJob {
    const Mesh* form = nullptr;  // nullptr: nothing to be compared with
    Board board;
    std::vector<Cutter> cutters;  // at least one; moves of tools beyond are made with the last
    MachineSpeeds speeds = {};
    std::size_t about_cells = 2'000'000;
    double within = 0.1;  // what counts as left standing, or as cut too deep
};

// Cells that hang together where more is left than counts.
struct LeftPlace {
    Vec3 worst;                              // on the form
    double most = 0, upwards = 0, area = 0;  // off the form, and straight above it
    bool too_tight = false;                  // whatever the last cutter did, it could not get there
};

struct Rehearsal {
    Stock stock;
    FormHeights form = {};
    PathFigures path = {};
    std::size_t move_count = 0;
    // Off the form, square to it; of what is too deep more than counts.
    double most_left = 0, mean_left = 0;
    double most_too_deep = 0, area_too_deep = 0;
    // The largest first, as many as were looked at closer, and how many there are.
    std::vector<LeftPlace> left = {};
    std::size_t left_count = 0;
    // Rapid moves that cut, the first of them by its line; cuts below the board.
    std::size_t rapid_cuts = 0;
    std::uint32_t first_rapid_cut = 0;
    double below_board = 0;

    std::size_t too_tight_count() const;
    // "1 h 52 min · within 0.06 mm of the form · 4 places too tight for the cutter"
    std::string summary() const;
    // A line each: what is left, what is too deep, moves and their length, plunges.
    std::vector<std::string> details() const;
};

// Errors: cancelled. O(moves x cells beside them + cells + faces).
Result<Rehearsal> rehearsed(const ToolPath& path, const RehearsalJob& job, const Run& run);

}  // namespace plume
