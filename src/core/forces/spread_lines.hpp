#pragma once
// Lines that push each other apart until they lie evenly: at least a gap apart, or as far as there is room.

#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/forces/spread_line.hpp"

namespace plume {

enum class LineEnds { held, sliding, loose };
enum class LineLengths { at_least, shortest, kept, growing };

struct SpreadingRule {
    double gap = 0;  // above 0; where it is as far as there is room, what is begun with
    bool as_far_as_room = false;
    LineLengths lengths = LineLengths::at_least;
    double times = 1;  // as long as they were, of growing ones; they stop where there is no room
    LineEnds ends = LineEnds::held;
    double stiffness = 0.5;  // against bending, 0 to 1
    // Where a point that was at `from` may be instead of `to`, and no nearer to an edge than that; asked on
    // several threads. Empty: anywhere.
    std::function<Vec3(Vec3 from, Vec3 to, double from_edge)> kept = {};
    std::function<Vec3(Vec3 place)> on_edge = {};  // where ends slide
    std::vector<SpreadLine> around = {};           // that stay, and keep others off
    std::size_t most_rounds = 2000;
};

struct LinesSpread {
    std::vector<SpreadLine> lines;
    // Of each point how far it is from the nearest other line, or from another turn of its own; the gap where
    // nothing is nearer.
    std::vector<std::vector<double>> apart;
    double gap = 0;         // in the end
    double least = 0;       // of `apart`
    double mean = 0;        // of `apart`
    std::size_t close = 0;  // points that are nearer than 98 % of the gap
    double times = 1;       // as long as before, all together
    bool no_room = false;   // to grow as long as was wished
    std::size_t rounds = 0;
    bool at_rest = false;
};

// How many points a line of that length is moved by.
double spread_points(double length, double gap);

// In each round points of a line go half as far from the pieces of other lines within the gap, and of its own
// that it turned back to, as would be needed; lines are drawn short or to their length, or only kept from
// getting shorter, and straightened (position based dynamics: M. Müller, B. Heidelberger, M. Hennix, J.
// Ratcliff, 2007). What pulls never outdoes what pushes. Gap and lengths grow as long as what is too near is
// so by little on the mean; where there is no more room lengths go back until nothing is. Lines are made anew
// of points a fifth of the gap apart. The same on any number of threads. O(n log n) a round. Errors:
// not_finite, out_of_range (gap, stiffness, times), too_few_points (fewer than two of a line, three of a
// closed one, or a line without length), unlike_arrangement (shortest with loose ends: nothing would be left
// of them), wrong_kind (both growing and as far as there is room), cancelled.
Result<LinesSpread> spread_lines(std::vector<SpreadLine> lines, const SpreadingRule& rule, const Run& run);

}  // namespace plume
