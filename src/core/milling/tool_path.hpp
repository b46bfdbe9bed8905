#pragma once
// Moves of a cutter's tip: what a milling file says, and how long it takes. Millimetres, minutes.

#include <cstdint>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

struct ToolMove {
    enum class Form : std::uint8_t { rapid, line, arc };
    Form form = Form::rapid;
    Vec3 to;
    // Of an arc: its centre, in the plane of two axes; it turns anticlockwise seen from the tip of the third,
    // or clockwise, and on evenly along that.
    enum class Plane : std::uint8_t { xy, zx, yz } plane = Plane::xy;
    bool anticlockwise = false;
    Vec3 centre = {};
    double feed = 0;          // mm a minute; of a rapid move nothing
    std::uint32_t tool = 0;   // of the path's cutters
    std::uint32_t line = 0;   // of the file it is from, from 1
    std::uint32_t sheet = 0;  // how often the machine was stopped before, for another sheet
    bool on = false;          // the spindle or the beam
    double strength = 0;      // what is said of it: turns a minute, or whatever the beam's machine counts
    double wait_s = 0;        // seconds it stands still before
};

// Straight cuts of one kind, which may go on as one.
inline bool cut_alike(const ToolMove& one, const ToolMove& other) {
    return one.feed == other.feed && one.tool == other.tool && one.sheet == other.sheet &&
           one.on == other.on && one.strength == other.strength;
}

struct ToolPath {
    Vec3 start;  // where the tip is before the first move
    std::vector<ToolMove> moves;
};

// Places along a move, its end included, that are on it to `within`; a straight one has only its end.
std::vector<Vec3> places_along(Vec3 from, const ToolMove& move, double within);
double length_of(Vec3 from, const ToolMove& move);

struct MachineSpeeds {
    double rapid = 6000;        // mm a minute
    double acceleration = 500;  // mm a second, a second
    // Where the way turns by more it stops.
    double smooth_turn_rad = 0.26;
};
struct PathFigures {
    double cutting = 0, rapid = 0;  // lengths
    double minutes = 0;
    double deepest_plunge = 0;  // of straight cuts downwards
};
// Each run of moves of one feed that go on smoothly speeds up at its beginning and slows down at its end. How
// long sheets are changed is not counted.
PathFigures figures_of(const ToolPath& path, const MachineSpeeds& speeds);
// Minutes that have passed at the end of each move.
std::vector<double> minutes_of(const ToolPath& path, const MachineSpeeds& speeds);
// Places on the way of a move as far as it is made, the last one where it is then.
std::vector<Vec3> places_until(Vec3 from, const ToolMove& move, double share, double within);

}  // namespace plume
