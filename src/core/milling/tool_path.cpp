#include "core/milling/tool_path.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

// The two axes of the plane and the third, so that they are a right-handed set.
struct Axes {
    double Vec3::*first;
    double Vec3::*second;
    double Vec3::*third;
};
Axes axes_of(ToolMove::Plane plane) {
    switch (plane) {
        case ToolMove::Plane::zx:
            return {&Vec3::z, &Vec3::x, &Vec3::y};
        case ToolMove::Plane::yz:
            return {&Vec3::y, &Vec3::z, &Vec3::x};
        case ToolMove::Plane::xy:
            break;
    }
    return {&Vec3::x, &Vec3::y, &Vec3::z};
}

struct Arc {
    Axes axes;
    double radius = 0, begin = 0, turn = 0, climb = 0;
};
// An arc that ends where it begins is a whole turn.
Arc arc_of(Vec3 from, const ToolMove& move) {
    Arc arc{axes_of(move.plane)};
    const auto angle = [&](Vec3 place) {
        return std::atan2(place.*arc.axes.second - move.centre.*arc.axes.second,
                          place.*arc.axes.first - move.centre.*arc.axes.first);
    };
    arc.radius = std::hypot(from.*arc.axes.first - move.centre.*arc.axes.first,
                            from.*arc.axes.second - move.centre.*arc.axes.second);
    arc.begin = angle(from);
    constexpr double whole = 2 * std::numbers::pi, none = 1e-9;
    arc.turn = angle(move.to) - arc.begin;
    if (move.anticlockwise) {
        while (arc.turn <= none)
            arc.turn += whole;
    } else {
        while (arc.turn >= -none)
            arc.turn -= whole;
    }
    arc.climb = move.to.*arc.axes.third - from.*arc.axes.third;
    return arc;
}

// Which way a move sets out and which way it arrives.
struct Ways {
    Vec3 begin, end;
};
Ways ways_of(Vec3 from, const ToolMove& move) {
    if (move.form != ToolMove::Form::arc) {
        const Vec3 way = unit_or_zero(move.to - from);
        return {way, way};
    }
    const Arc arc = arc_of(from, move);
    const auto way_at = [&](double angle) {
        Vec3 way;
        way.*arc.axes.first = -std::sin(angle) * arc.radius * arc.turn;
        way.*arc.axes.second = std::cos(angle) * arc.radius * arc.turn;
        way.*arc.axes.third = arc.climb;
        return unit_or_zero(way);
    };
    return {way_at(arc.begin), way_at(arc.begin + arc.turn)};
}

// From standing to standing over a length, mm and mm a second.
double seconds_over(double length, double speed, double acceleration) {
    if (length <= 0 || speed <= 0) return 0;
    if (length * acceleration >= speed * speed) return length / speed + speed / acceleration;
    return 2 * std::sqrt(length / acceleration);
}

double feed_of(const ToolMove& move, const MachineSpeeds& speeds) {
    return move.form == ToolMove::Form::rapid ? speeds.rapid : std::min(move.feed, speeds.rapid);
}

}  // namespace

std::vector<Vec3> places_along(Vec3 from, const ToolMove& move, double within) {
    if (move.form != ToolMove::Form::arc) return {move.to};
    const Arc arc = arc_of(from, move);
    const double half = std::acos(std::clamp(1 - within / std::max(arc.radius, 1e-12), -1.0, 1.0));
    const int pieces =
        std::clamp(static_cast<int>(std::ceil(std::abs(arc.turn) / (2 * std::max(half, 1e-4)))), 1, 100'000);
    std::vector<Vec3> places;
    for (int piece = 1; piece < pieces; ++piece) {
        const double share = static_cast<double>(piece) / pieces, angle = arc.begin + arc.turn * share;
        Vec3 place;
        place.*arc.axes.first = move.centre.*arc.axes.first + arc.radius * std::cos(angle);
        place.*arc.axes.second = move.centre.*arc.axes.second + arc.radius * std::sin(angle);
        place.*arc.axes.third = from.*arc.axes.third + arc.climb * share;
        places.push_back(place);
    }
    places.push_back(move.to);
    return places;
}

double length_of(Vec3 from, const ToolMove& move) {
    if (move.form != ToolMove::Form::arc) return length(move.to - from);
    const Arc arc = arc_of(from, move);
    return std::hypot(arc.radius * arc.turn, arc.climb);
}

std::vector<double> minutes_of(const ToolPath& path, const MachineSpeeds& speeds) {
    std::vector<double> minutes(path.moves.size());
    double passed = 0;
    Vec3 at = path.start;
    for (std::size_t begin = 0; begin < path.moves.size();) {
        // A run: as long as it goes on at one speed without turning.
        const double feed = feed_of(path.moves[begin], speeds);
        std::vector<double> lengths;
        double sum = 0;
        Vec3 came;
        std::size_t end = begin;
        for (; end < path.moves.size(); ++end) {
            const ToolMove& move = path.moves[end];
            const Ways ways = ways_of(at, move);
            const bool turns = end > begin && length(came) > 0 && length(ways.begin) > 0 &&
                               dot(came, ways.begin) < std::cos(speeds.smooth_turn_rad);
            if (end > begin && (turns || move.wait_s > 0 || feed_of(move, speeds) != feed)) break;
            lengths.push_back(length_of(at, move));
            sum += lengths.back();
            if (length(ways.end) > 0) came = ways.end;
            at = move.to;
        }
        // Shared out by length: within a run it is as fast everywhere, nearly.
        const double taken = seconds_over(sum, feed / 60, speeds.acceleration) / 60;
        passed += path.moves[begin].wait_s / 60;
        double done = 0;
        for (std::size_t move = begin; move < end; ++move) {
            done += lengths[move - begin];
            minutes[move] = passed + (sum > 0 ? taken * done / sum : 0);
        }
        passed += taken;
        begin = end;
    }
    return minutes;
}

std::vector<Vec3> places_until(Vec3 from, const ToolMove& move, double share, double within) {
    std::vector<Vec3> passed;
    const std::vector<Vec3> places = places_along(from, move, within);
    double left = share * static_cast<double>(places.size());
    for (const Vec3 place : places) {
        if (left <= 0) break;
        from = from + (place - from) * std::min(left, 1.0);
        passed.push_back(from);
        --left;
    }
    return passed;
}

PathFigures figures_of(const ToolPath& path, const MachineSpeeds& speeds) {
    PathFigures figures;
    Vec3 at = path.start;
    for (const ToolMove& move : path.moves) {
        const double along = length_of(at, move);
        (move.form == ToolMove::Form::rapid ? figures.rapid : figures.cutting) += along;
        const bool plunges = move.form == ToolMove::Form::line && move.to.x == at.x && move.to.y == at.y;
        if (plunges) figures.deepest_plunge = std::max(figures.deepest_plunge, at.z - move.to.z);
        at = move.to;
    }
    const std::vector<double> minutes = minutes_of(path, speeds);
    figures.minutes = minutes.empty() ? 0 : minutes.back();
    return figures;
}

}  // namespace plume
