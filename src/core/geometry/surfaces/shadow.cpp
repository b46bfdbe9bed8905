#include "core/geometry/surfaces/shadow.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

double turned(double by, const SplineBasis& basis) {
    return basis.closed ? std::remainder(by, range_of(basis)) : by;
}
double clamped_to(double at, const SplineBasis& basis) {
    return basis.closed ? at : std::clamp(at, basis.start(), basis.end());
}

// A step no longer than half of the direction: beside a tip, or nearly edge on, it would lead out of all
// digits.
double within_half(double by, const SplineBasis& basis) {
    return std::clamp(by, -range_of(basis) / 2, range_of(basis) / 2);
}

// Enough that no fold hides between two lines that the patch's poles can make.
int pieces(const SplineBasis& basis) {
    constexpr std::size_t many = 100;
    return knot_breaks(basis).size() > many ? 1 : basis.degree + 1;
}

// Whether a bay with these corners, which may bulge, can lie over a place.
bool may_hold(Flat wanted, const std::array<Flat, 4>& corners) {
    Flat low = corners[0], high = corners[0];
    for (const Flat corner : corners) {
        low = {std::min(low.x, corner.x), std::min(low.y, corner.y)};
        high = {std::max(high.x, corner.x), std::max(high.y, corner.y)};
    }
    const double margin = 0.3 * std::max(high.x - low.x, high.y - low.y);
    return wanted.x >= low.x - margin && wanted.x <= high.x + margin && wanted.y >= low.y - margin &&
           wanted.y <= high.y + margin;
}

}  // namespace

double within_turn(double at, const SplineBasis& basis) {
    const double range = basis.end() - basis.start();
    return basis.closed ? at - std::floor((at - basis.start()) / range) * range : at;
}

Shadow::Shadow(const SplinePatch& patch, Vec3 direction)
    : patch_(patch), evaluator_(patch), size_(poles_box(patch).diagonal()) {
    const Vec3 along = unit_or_zero(direction);
    first_ = unit_or_zero(cross(along, std::abs(along.z) < 0.9 ? Vec3{0, 0, 1} : Vec3{1, 0, 0}));
    second_ = cross(along, first_);
}

std::optional<Parameters> Shadow::way(const SurfacePoint& at, Flat by) const {
    const Flat u = flat(at.along_u), v = flat(at.along_v);
    const double area = u.x * v.y - u.y * v.x;
    if (!(std::abs(area) > 1e-9 * length(at.along_u) * length(at.along_v))) return {};
    return Parameters{(by.x * v.y - by.y * v.x) / area, (u.x * by.y - u.y * by.x) / area};
}

std::optional<Parameters> Shadow::place_under(Flat wanted, Parameters from) const {
    constexpr int most_steps = 20;
    Parameters at = clamped(from);
    for (int step = 0; step < most_steps; ++step) {
        const SurfacePoint point = inside(at);
        const Flat here = flat(point.position);
        const Flat off{wanted.x - here.x, wanted.y - here.y};
        if (std::hypot(off.x, off.y) <= 1e-13 * size_) return at;
        const auto by = way(point, off);
        if (!by) return {};
        const Parameters next =
            clamped({at.u + within_half(by->u, patch_.u()), at.v + within_half(by->v, patch_.v())});
        const bool stands = next.u == at.u && next.v == at.v;
        at = next;
        if (stands) break;
    }
    const Flat here = flat(place(at));
    if (std::hypot(wanted.x - here.x, wanted.y - here.y) > 1e-10 * size_) return {};
    return at;
}

std::vector<Parameters> Shadow::places_under(Flat wanted) const {
    const std::vector<double> u = knot_lines(patch_.u(), pieces(patch_.u())),
                              v = knot_lines(patch_.v(), pieces(patch_.v()));
    const std::vector<Flat> shadows = grid(u, v);
    std::vector<Parameters> found;
    for (std::size_t b = 0; b + 1 < v.size(); ++b)
        for (std::size_t a = 0; a + 1 < u.size(); ++a) {
            const std::size_t corner = a + u.size() * b;
            if (!may_hold(wanted, {shadows[corner], shadows[corner + 1], shadows[corner + u.size()],
                                   shadows[corner + u.size() + 1]}))
                continue;
            const auto at =
                place_under(wanted, {std::midpoint(u[a], u[a + 1]), std::midpoint(v[b], v[b + 1])});
            if (at && std::ranges::none_of(found, [&](Parameters other) { return same(*at, other); }))
                found.push_back({within_turn(at->u, patch_.u()), within_turn(at->v, patch_.v())});
        }
    return found;
}

bool Shadow::same(Parameters a, Parameters b) const {
    return std::abs(turned(a.u - b.u, patch_.u())) < 1e-6 * range_of(patch_.u()) &&
           std::abs(turned(a.v - b.v, patch_.v())) < 1e-6 * range_of(patch_.v());
}

bool Shadow::is_on_rim(Parameters at) const {
    const auto ends = [](double t, const SplineBasis& basis) {
        const double hardly = 1e-9 * range_of(basis);
        return !basis.closed && (t <= basis.start() + hardly || t >= basis.end() - hardly);
    };
    return ends(at.u, patch_.u()) || ends(at.v, patch_.v());
}

Parameters Shadow::clamped(Parameters at) const {
    return {clamped_to(at.u, patch_.u()), clamped_to(at.v, patch_.v())};
}

SurfacePoint Shadow::inside(Parameters at) const {
    return evaluator_.at(within_turn(at.u, patch_.u()), within_turn(at.v, patch_.v()));
}

std::vector<Flat> Shadow::grid(const std::vector<double>& u, const std::vector<double>& v) const {
    std::vector<Flat> shadows;
    shadows.reserve(u.size() * v.size());
    for (const double at_v : v)
        for (const double at_u : u)
            shadows.push_back(flat(evaluator_.at(at_u, at_v).position));
    return shadows;
}

Parameters EvenShadow::parameters(Flat at) const {
    const double area = along_u.x * along_v.y - along_u.y * along_v.x;
    const double x = at.x - start.x, y = at.y - start.y;
    return {(x * along_v.y - y * along_v.x) / area, (along_u.x * y - along_u.y * x) / area};
}

ShadowPointer shadow_of(const SplinePatch& patch, Vec3 direction) {
    return std::make_shared<const Shadow>(patch, direction);
}

std::optional<EvenShadow> even_shadow(const Shadow& shadow) {
    const SplinePatch& patch = shadow.patch();
    if (patch.rational() || patch.u().closed || patch.v().closed) return {};
    const std::vector<double> u = knot_means(patch.u()), v = knot_means(patch.v());
    const auto pole = [&](std::size_t a, std::size_t b) {
        const std::size_t at = a + u.size() * b;
        return shadow.flat({patch.x()[at], patch.y()[at], patch.z()[at]});
    };
    const Flat origin = pole(0, 0), far_u = pole(u.size() - 1, 0), far_v = pole(0, v.size() - 1);
    const double by_u = u.back() - u.front(), by_v = v.back() - v.front();
    EvenShadow even{origin,
                    {(far_u.x - origin.x) / by_u, (far_u.y - origin.y) / by_u},
                    {(far_v.x - origin.x) / by_v, (far_v.y - origin.y) / by_v}};
    even.start = {origin.x - even.along_u.x * u.front() - even.along_v.x * v.front(),
                  origin.y - even.along_u.y * u.front() - even.along_v.y * v.front()};
    for (std::size_t b = 0; b < v.size(); ++b)
        for (std::size_t a = 0; a < u.size(); ++a) {
            const Flat here = pole(a, b);
            const double off_x = even.start.x + even.along_u.x * u[a] + even.along_v.x * v[b] - here.x,
                         off_y = even.start.y + even.along_u.y * u[a] + even.along_v.y * v[b] - here.y;
            if (std::hypot(off_x, off_y) > 1e-12 * shadow.size()) return {};
        }
    const double area = even.along_u.x * even.along_v.y - even.along_u.y * even.along_v.x;
    if (!(std::abs(area) * by_u * by_v > 1e-12 * shadow.size() * shadow.size())) return {};
    return even;
}

}  // namespace plume
