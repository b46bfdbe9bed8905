#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

#include "core/milling/milling_paths.hpp"

namespace plume {
namespace {

constexpr std::size_t fewest = 3, most = 64;  // straight moves that are one arc
constexpr double flattest = 5000, most_turn = 5.2;

struct PlaneAxes {
    ToolMove::Plane plane;
    double Vec3::*first;
    double Vec3::*second;
    double Vec3::*third;
};
constexpr std::array planes{PlaneAxes{ToolMove::Plane::xy, &Vec3::x, &Vec3::y, &Vec3::z},
                            PlaneAxes{ToolMove::Plane::zx, &Vec3::z, &Vec3::x, &Vec3::y},
                            PlaneAxes{ToolMove::Plane::yz, &Vec3::y, &Vec3::z, &Vec3::x}};

struct Circle {
    double first = 0, second = 0, radius = 0;
};
std::optional<Circle> circle_through(Vec3 a, Vec3 b, Vec3 c, const PlaneAxes& in) {
    const double bx = b.*in.first - a.*in.first, by = b.*in.second - a.*in.second,
                 cx = c.*in.first - a.*in.first, cy = c.*in.second - a.*in.second;
    const double twice = 2 * (bx * cy - by * cx);
    if (twice == 0) return {};
    const double b2 = bx * bx + by * by, c2 = cx * cx + cy * cy;
    const double x = (cy * b2 - by * c2) / twice, y = (bx * c2 - cx * b2) / twice;
    const double radius = std::hypot(x, y);
    if (!(radius < flattest)) return {};
    return Circle{a.*in.first + x, a.*in.second + y, radius};
}

// Places on one circle, its chords true to `within`, turning one way by less than a whole turn.
std::optional<Circle> fitted(std::span<const Vec3> places, const PlaneAxes& in, double within) {
    for (const Vec3 place : places)
        if (std::abs(place.*in.third - places.front().*in.third) > 1e-9) return {};
    const auto circle = circle_through(places.front(), places[places.size() / 2], places.back(), in);
    if (!circle) return {};
    double turned = 0;
    for (std::size_t at = 0; at < places.size(); ++at) {
        const double x = places[at].*in.first - circle->first, y = places[at].*in.second - circle->second;
        if (std::abs(std::hypot(x, y) - circle->radius) > within / 2) return {};
        if (at == 0) continue;
        const double before_x = places[at - 1].*in.first - circle->first,
                     before_y = places[at - 1].*in.second - circle->second;
        const double angle = std::atan2(before_x * y - before_y * x, before_x * x + before_y * y);
        if (circle->radius * (1 - std::cos(angle / 2)) > within) return {};
        if (at > 1 && (angle > 0) != (turned > 0)) return {};
        turned += angle;
    }
    if (std::abs(turned) > most_turn) return {};
    return circle;
}

class ArcFinder {
public:
    ArcFinder(const ToolPath& path, double within) : path_(path), within_(within) {}

    ToolPath find() {
        ToolPath made{path_.start, {}};
        for (std::size_t at = 0; at < path_.moves.size();) {
            const std::size_t end = end_of_cuts(at);
            const auto arc = end - at >= fewest ? longest_arc(at, end) : std::nullopt;
            made.moves.push_back(arc ? arc->move : path_.moves[at]);
            at += arc ? arc->count : 1;
        }
        return made;
    }

private:
    struct Found {
        ToolMove move;
        std::size_t count = 0;
    };
    Vec3 before(std::size_t move) const { return move == 0 ? path_.start : path_.moves[move - 1].to; }
    // As long as they are straight, alike and go on without waiting.
    std::size_t end_of_cuts(std::size_t begin) const {
        std::size_t end = begin;
        while (
            end < path_.moves.size() && end - begin < most && path_.moves[end].form == ToolMove::Form::line &&
            cut_alike(path_.moves[end], path_.moves[begin]) && (end == begin || path_.moves[end].wait_s == 0))
            ++end;
        return end;
    }
    std::optional<Found> longest_arc(std::size_t begin, std::size_t end) const {
        std::vector<Vec3> places{before(begin)};
        for (std::size_t at = begin; at < end; ++at)
            places.push_back(path_.moves[at].to);
        for (const PlaneAxes& in : planes) {
            std::optional<Found> found;
            for (std::size_t count = fewest; count < places.size(); ++count) {
                const auto circle = fitted(std::span(places).first(count + 1), in, within_);
                if (!circle) break;
                found = Found{arc_move(places, count, *circle, in, begin), count};
            }
            if (found) return found;
        }
        return {};
    }
    ToolMove arc_move(const std::vector<Vec3>& places, std::size_t count, const Circle& circle,
                      const PlaneAxes& in, std::size_t begin) const {
        ToolMove move = path_.moves[begin + count - 1];
        move.form = ToolMove::Form::arc;
        move.wait_s = path_.moves[begin].wait_s;
        move.plane = in.plane;
        // As far from both ends: they are given, and have to lie on it.
        move.centre = places.front();
        move.centre.*in.first = circle.first;
        move.centre.*in.second = circle.second;
        const Vec3 a = places[0], b = places[1];
        move.anticlockwise = (a.*in.first - circle.first) * (b.*in.second - circle.second) >
                             (a.*in.second - circle.second) * (b.*in.first - circle.first);
        return move;
    }

    const ToolPath& path_;
    double within_;
};

}  // namespace

ToolPath with_arcs(const ToolPath& path, double within) {
    return ArcFinder(path, within).find();
}

}  // namespace plume
