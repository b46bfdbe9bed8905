#include "core/geometry/curves/arc_path.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

constexpr double hardly_off = 1e-9;  // of the curve's size

double cross_flat(Vec3 a, Vec3 b) {
    return a.x * b.y - a.y * b.x;
}

// Anticlockwise from one to the other, from minus half a turn to half a turn.
double angle_between(Vec3 a, Vec3 b) {
    return std::atan2(cross_flat(a, b), a.x * b.x + a.y * b.y);
}

class PathMaker {
public:
    explicit PathMaker(const SplineCurve& curve)
        : curve_(curve), within_(hardly_off * poles_box(curve).diagonal()) {}

    std::optional<ArcPath> make() {
        const std::vector<double> breaks = knot_breaks(curve_.basis());
        path_.start = evaluate(curve_, breaks.front()).position;
        path_.closed = curve_.closed();
        for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
            if (!add_bay(breaks[bay], breaks[bay + 1])) return {};
        if (path_.closed) path_.pieces.back().to = path_.start;
        return std::move(path_);
    }

private:
    bool add_bay(double from, double to) {
        std::array<Vec3, 5> places;
        for (std::size_t at = 0; at < places.size(); ++at)
            places[at] = evaluate(curve_, std::lerp(from, to, static_cast<double>(at) / 4)).position;
        if (std::ranges::any_of(places, [&](Vec3 p) { return std::abs(p.z - path_.start.z) > within_; }))
            return false;
        if (curve_.basis().degree == 1 || is_straight(places)) {
            path_.pieces.push_back({places.back(), 0});
            last_turn_ = 0;
            return true;
        }
        return curve_.basis().degree == 2 && add_arc(places);
    }
    bool is_straight(const std::array<Vec3, 5>& places) const {
        const Vec3 chord = places.back() - places.front();
        const double size = length(chord);
        return size > within_ && std::ranges::all_of(places, [&](Vec3 p) {
                   const double along = dot(p - places.front(), chord) / size;
                   return std::abs(cross_flat(chord, p - places.front())) <= within_ * size &&
                          along >= -within_ && along <= size + within_;
               });
    }
    // Through three of the places, if the others lie on it too.
    bool add_arc(const std::array<Vec3, 5>& places) {
        const Vec3 a = places[2] - places[0], b = places[4] - places[0];
        const double twice = 2 * cross_flat(a, b);
        if (std::abs(twice) <= within_ * within_) return false;
        const double a2 = a.x * a.x + a.y * a.y, b2 = b.x * b.x + b.y * b.y;
        const Vec3 centre = places[0] + Vec3{(b.y * a2 - a.y * b2) / twice, (a.x * b2 - b.x * a2) / twice, 0};
        const double radius = length(places[0] - centre);
        for (const Vec3 place : places)
            if (std::abs(length(place - centre) - radius) > within_) return false;
        double turn = 0;
        for (std::size_t at = 0; at + 1 < places.size(); ++at)
            turn += angle_between(places[at] - centre, places[at + 1] - centre);
        const bool goes_on =
            !path_.pieces.empty() && last_turn_ != 0 && length(last_centre_ - centre) <= within_ &&
            std::abs(last_turn_ + turn) <= std::numbers::pi + 1e-9 && (last_turn_ > 0) == (turn > 0);
        if (goes_on) {
            turn += last_turn_;
            path_.pieces.back() = {places.back(), std::tan(turn / 4)};
        } else
            path_.pieces.push_back({places.back(), std::tan(turn / 4)});
        last_centre_ = centre;
        last_turn_ = turn;
        return true;
    }

    const SplineCurve& curve_;
    double within_;
    ArcPath path_;
    Vec3 last_centre_;
    double last_turn_ = 0;  // of the last piece, if it is an arc
};

}  // namespace

std::optional<ArcPath> arc_path(const SplineCurve& curve) {
    if (curve.basis().degree > 2) return {};
    return PathMaker(curve).make();
}

Vec3 centre_of(Vec3 from, const ArcPiece& piece) {
    // The sagitta is bulge times half the chord; from the chord's middle the centre lies across it.
    const Vec3 half = (piece.to - from) * 0.5;
    const double across = (1 - piece.bulge * piece.bulge) / (2 * piece.bulge);
    return from + half + Vec3{-half.y, half.x, 0} * across;
}

}  // namespace plume
