#pragma once
// What becomes of sheets when the moves of a file are made: what is cut through and what is only marked, what
// is left uncut, cuts into what is kept, cuts in what is loose already, how long it takes.

#include <algorithm>
#include <span>
#include <string>

#include "core/milling/flat_sheets.hpp"
#include "core/milling/tool_path.hpp"

namespace plume {

struct FlatRehearsalJob {
    std::span<const FlatSheet> sheets;
    bool beam = true;
    double kerf = 0;  // of a cutter its diameter
    // Of sheets, for a cutter: what goes as deep goes through, what goes no deeper than marks is one.
    double thickness = 0, mark_depth = 0;
    MachineSpeeds speeds = {};
    double within = 0.1;  // what counts as uncut or as cut into, mm
};

// What a beam gives a length, by its strength (0: not said) and its feed.
inline double given_a_length(double strength, double feed) {
    return std::max(strength, 1.0) / feed;
}
// It cuts through where it gives the most it ever does, and marks where it gives clearly less.
inline bool only_marks(double given, double most) {
    return given < 0.9 * most;
}

// What a move does to its sheet.
enum class FlatDeed : std::uint8_t { travels, marks, cuts_part_way, cuts };
std::vector<FlatDeed> deeds_of(const ToolPath& path, const FlatRehearsalJob& job);

struct FlatRehearsal {
    PathFigures path = {};
    std::size_t move_count = 0, sheet_count = 0;
    double cut = 0, marked = 0, travelled = 0;  // lengths
    std::size_t begun = 0;                      // cuts: how often the beam pierces, the cutter plunges
    double waited_s = 0;
    // Of outlines and open cuts what no cut goes along, of marks what is not drawn.
    double uncut = 0, unmarked = 0;
    double too_tight = 0;  // of outlines: corners and openings that a cut does not fit into
    FlatPoint first_uncut;
    std::size_t first_uncut_sheet = 0;
    // Into parts, and how far; off the sheet; within what fell off or out before; without leave (rapid
    // moves).
    double bitten = 0, deepest_bite = 0, off_sheet = 0;
    std::size_t loose_cuts = 0, rapid_cuts = 0;
    // Lines of the file, 0: none.
    std::uint32_t first_bite = 0, first_off_sheet = 0, first_loose_cut = 0, first_rapid_cut = 0;
    std::size_t missing_sheets = 0;  // that the file has beyond those there are

    bool as_wished() const;
    // "4 min 12 s · 3 sheets · as drawn"
    std::string summary() const;
    // A line each: lengths, how often it begins, what is wrong and where.
    std::vector<std::string> details() const;
};

// Errors: cancelled. O(n log n) for n pieces of moves and of outlines.
Result<FlatRehearsal> flat_rehearsed(const ToolPath& path, const FlatRehearsalJob& job, const Run& run);

}  // namespace plume
