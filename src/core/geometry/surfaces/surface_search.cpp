#include "core/geometry/surfaces/surface_search.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_change.hpp"
#include "core/geometry/measures/golden_section.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

constexpr int most_steps = 40;

// Knots enough that in one bay the patch bends little, some twenty bays either way; and each as often as the
// degree, so that a bay has poles of its own, which lie close to it. Patches of very many poles do without.
SplinePatch with_small_bays(const SplinePatch& patch) {
    constexpr std::size_t enough = 20, many_poles = 200'000;
    SplinePatch fine = patch;
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        const std::size_t bays = knot_breaks(basis).size() - 1;
        const auto pieces = static_cast<int>(std::max<std::size_t>(1, (enough + bays - 1) / bays));
        const bool own = patch.x().size() < many_poles;
        std::vector<double> more;
        for (const double line : knot_lines(basis, pieces)) {
            const int stands = multiplicity_at(basis, line);
            const int wanted = own ? basis.degree : 1;
            more.insert(more.end(), static_cast<std::size_t>(std::max(0, wanted - stands)), line);
        }
        fine = changed(fine, direction, refined(basis_along(fine, direction), std::move(more)));
    }
    return fine;
}

double distance_to(const Box& box, Vec3 p) {
    const Vec3 off{std::max({box.low.x - p.x, 0.0, p.x - box.high.x}),
                   std::max({box.low.y - p.y, 0.0, p.y - box.high.y}),
                   std::max({box.low.z - p.z, 0.0, p.z - box.high.z})};
    return std::sqrt(dot(off, off));
}

// Whether a line meets a box grown by a little.
bool meets(const Box& box, Vec3 point, Vec3 direction, double grown) {
    double from = -std::numeric_limits<double>::infinity(), to = -from;
    for (const auto part : {&Vec3::x, &Vec3::y, &Vec3::z}) {
        const double low = box.low.*part - grown - point.*part, high = box.high.*part + grown - point.*part;
        const double by = direction.*part;
        if (by == 0) {
            if (low > 0 || high < 0) return false;
            continue;
        }
        from = std::max(from, std::min(low / by, high / by));
        to = std::min(to, std::max(low / by, high / by));
    }
    return from <= to;
}

// At an end of a stretch, from which a step would lead out.
bool is_held(double at, double downhill, double from, double to) {
    return (at <= from && downhill < 0) || (at >= to && downhill > 0);
}

// Whether a bay between these corners can bend as tightly as a place is away from it: then a distance may
// have several valleys in it.
bool bends_much(Vec3 low, Vec3 high, double distance) {
    const double size = std::min(high.x - low.x, high.y - low.y), thickness = high.z - low.z;
    return 4 * thickness * distance > size * size;
}

SurfaceBay domain_of(const SplinePatch& patch) {
    return {patch.u().start(), patch.u().end(), patch.v().start(), patch.v().end()};
}

// Half as large again, in the domain where that is open.
SurfaceBay grown(const SurfaceBay& bay, const SplinePatch& patch) {
    const double by_u = (bay.to_u - bay.from_u) / 2, by_v = (bay.to_v - bay.from_v) / 2;
    return {std::max(bay.from_u - by_u, patch.u().start()), std::min(bay.to_u + by_u, patch.u().end()),
            std::max(bay.from_v - by_v, patch.v().start()), std::min(bay.to_v + by_v, patch.v().end())};
}

struct Step {
    double u = 0, v = 0;
};

Step downhill(const SurfaceBend& at, Vec3 off, bool held_u, bool held_v) {
    const auto by = [&](Vec3 along, bool held) {
        const double size = dot(along, along);
        return held || !(size > 0) ? 0 : dot(off, along) / size;
    };
    return {by(at.point.along_u, held_u), by(at.point.along_v, held_v)};
}

// Towards the nearest place: Newton's step where the distance has a valley there, downhill otherwise.
Step step_near(const SurfaceBend& at, Vec3 off, bool held_u, bool held_v) {
    const Vec3 &along_u = at.point.along_u, &along_v = at.point.along_v;
    const double slope_u = held_u ? 0 : dot(off, along_u), slope_v = held_v ? 0 : dot(off, along_v);
    const double uu = dot(along_u, along_u), uv = held_u || held_v ? 0 : dot(along_u, along_v),
                 vv = dot(along_v, along_v);
    const double bent_uu = uu - dot(off, at.bend_uu), bent_vv = vv - dot(off, at.bend_vv);
    const double bent_uv = held_u || held_v ? 0 : uv - dot(off, at.bend_uv);
    const auto solved = [&](double a, double b, double c) {
        const double area = a * c - b * b;
        return area > 1e-12 * uu * vv && a > 0 ? std::optional(Step{(slope_u * c - slope_v * b) / area,
                                                                    (slope_v * a - slope_u * b) / area})
                                               : std::nullopt;
    };
    if (const auto newton = solved(bent_uu, bent_uv, bent_vv)) return *newton;
    if (const auto flat = solved(uu, uv, vv)) return *flat;
    return downhill(at, off, held_u, held_v);
}

}  // namespace

SurfaceSearch::SurfaceSearch(const SplinePatch& patch)
    : patch_(patch), evaluator_(patch), sides_(patch), size_(poles_box(patch).diagonal()) {
    const SplinePatch fine = with_small_bays(patch);
    const std::vector<double> u = knot_breaks(fine.u()), v = knot_breaks(fine.v());
    bays_.reserve((u.size() - 1) * (v.size() - 1));
    const auto first_pole = [](const SplineBasis& basis, double at) {
        return span_at(basis, at) - static_cast<std::size_t>(basis.degree);
    };
    std::vector<Vec3> poles;
    for (std::size_t b = 0; b + 1 < v.size(); ++b)
        for (std::size_t a = 0; a + 1 < u.size(); ++a) {
            const std::size_t pole_u = first_pole(fine.u(), u[a]), pole_v = first_pole(fine.v(), v[b]);
            poles.clear();
            for (std::size_t row = 0; row <= static_cast<std::size_t>(fine.v().degree); ++row)
                for (std::size_t column = 0; column <= static_cast<std::size_t>(fine.u().degree); ++column) {
                    const std::size_t pole = pole_u + column + fine.u().pole_count() * (pole_v + row);
                    poles.push_back({fine.x()[pole], fine.y()[pole], fine.z()[pole]});
                }
            bays_.push_back(bay_of({u[a], u[a + 1], v[b], v[b + 1]}, poles));
        }
    nodes_.reserve(2 * bays_.size());
    build(0, bays_.size());
}

SurfaceSearch::Bay SurfaceSearch::bay_of(const SurfaceBay& range, const std::vector<Vec3>& poles) const {
    Bay bay;
    bay.range = range;
    bay.middle =
        evaluator_.at(std::midpoint(range.from_u, range.to_u), std::midpoint(range.from_v, range.to_v));
    Vec3 normal = unit_or_zero(cross(bay.middle.along_u, bay.middle.along_v));
    Vec3 along = unit_or_zero(bay.middle.along_u);
    if (!(length(normal) > 0)) {
        normal = {0, 0, 1};
        along = {1, 0, 0};
    }
    bay.axes = {along, cross(normal, along), normal};
    Box reach;
    for (const Vec3 pole : poles) {
        bay.box.include(pole);
        const Vec3 off = pole - bay.middle.position;
        reach.include(Vec3{dot(off, bay.axes[0]), dot(off, bay.axes[1]), dot(off, bay.axes[2])});
    }
    bay.low = reach.low;
    bay.high = reach.high;
    return bay;
}

double SurfaceSearch::distance_to(const Bay& bay, Vec3 point) {
    const Vec3 off = point - bay.middle.position;
    return plume::distance_to(Box{bay.low, bay.high},
                              {dot(off, bay.axes[0]), dot(off, bay.axes[1]), dot(off, bay.axes[2])});
}

std::size_t SurfaceSearch::build(std::size_t begin, std::size_t end) {
    const std::size_t number = nodes_.size();
    nodes_.emplace_back();
    Box box;
    for (std::size_t bay = begin; bay < end; ++bay)
        box.include(bays_[bay].box);
    if (end - begin == 1) {
        nodes_[number] = {box, begin, 0};
        return number;
    }
    const Vec3 size = box.size();
    const auto widest =
        size.x >= size.y && size.x >= size.z ? &Vec3::x : (size.y >= size.z ? &Vec3::y : &Vec3::z);
    const std::size_t middle = (begin + end) / 2;
    const auto at = [&](std::size_t index) { return bays_.begin() + static_cast<std::ptrdiff_t>(index); };
    std::nth_element(at(begin), at(middle), at(end), [&](const Bay& a, const Bay& b) {
        return a.box.centre().*widest < b.box.centre().*widest;
    });
    const std::size_t left = build(begin, middle), right = build(middle, end);
    nodes_[number] = {box, left, right};
    return number;
}

PlaceOnSurface SurfaceSearch::nearest_from(const Bay& bay, const SurfaceBay& range, Vec3 point) const {
    double u = std::midpoint(bay.range.from_u, bay.range.to_u),
           v = std::midpoint(bay.range.from_v, bay.range.to_v);
    // As if the bay were flat.
    const Step start = step_near({bay.middle, {}, {}, {}}, point - bay.middle.position, false, false);
    u = std::clamp(u + start.u, range.from_u, range.to_u);
    v = std::clamp(v + start.v, range.from_v, range.to_v);
    return downhill_from(u, v, range, point);
}

PlaceOnSurface SurfaceSearch::nearest_of_many(const Bay& bay, Vec3 point) const {
    PlaceOnSurface best;
    best.distance = std::numeric_limits<double>::infinity();
    const SurfaceBay& range = bay.range;
    for (const double share_v : {0.1, 0.5, 0.9})
        for (const double share_u : {0.1, 0.5, 0.9}) {
            const PlaceOnSurface found =
                downhill_from(std::lerp(range.from_u, range.to_u, share_u),
                              std::lerp(range.from_v, range.to_v, share_v), range, point);
            if (found.distance < best.distance) best = found;
        }
    return best;
}

PlaceOnSurface SurfaceSearch::downhill_from(double u, double v, const SurfaceBay& range, Vec3 point) const {
    SurfaceBend at = evaluator_.bend_at(u, v);
    double distance = length(point - at.point.position);
    // Goes as far as a step, halved until it leads nearer, stays in the range.
    const auto go = [&](Step by, int halvings) {
        for (int halving = 0; halving <= halvings; ++halving, by = {by.u / 2, by.v / 2}) {
            const double next_u = std::clamp(u + by.u, range.from_u, range.to_u),
                         next_v = std::clamp(v + by.v, range.from_v, range.to_v);
            const SurfaceBend next = evaluator_.bend_at(next_u, next_v);
            const double there = length(point - next.point.position);
            if (there > distance) continue;
            const double way = std::abs(next_u - u) * length(at.point.along_u) +
                               std::abs(next_v - v) * length(at.point.along_v);
            u = next_u;
            v = next_v;
            at = next;
            distance = there;
            return way > 1e-10 * size_;
        }
        return false;
    };
    for (int step = 0; step < most_steps; ++step) {
        const Vec3 off = point - at.point.position;
        const bool held_u = is_held(u, dot(off, at.point.along_u), range.from_u, range.to_u),
                   held_v = is_held(v, dot(off, at.point.along_v), range.from_v, range.to_v);
        // Cut off at the end of the range a step may lead astray, but straight downhill does not.
        if (!go(step_near(at, off, held_u, held_v), 2) && !go(downhill(at, off, held_u, held_v), 10)) break;
    }
    return {u, v, at.point.position, distance};
}

void SurfaceSearch::look_near(std::size_t node, Vec3 point, PlaceOnSurface& best) const {
    const Node& here = nodes_[node];
    if (here.right == 0) {
        const Bay& bay = bays_[here.left];
        if (!(distance_to(bay, point) < best.distance)) return;
        // The first one is left freely, so that most others are too far at once.
        if (std::isinf(best.distance)) best = nearest_from(bay, domain_of(patch_), point);
        const PlaceOnSurface found = bends_much(bay.low, bay.high, best.distance)
                                         ? nearest_of_many(bay, point)
                                         : nearest_from(bay, bay.range, point);
        if (found.distance < best.distance) best = found;
        return;
    }
    std::pair near{plume::distance_to(nodes_[here.left].box, point), here.left},
        far{plume::distance_to(nodes_[here.right].box, point), here.right};
    if (far < near) std::swap(near, far);
    if (near.first < best.distance) look_near(near.second, point, best);
    if (far.first < best.distance) look_near(far.second, point, best);
}

PlaceOnSurface SurfaceSearch::nearest(Vec3 point) const {
    PlaceOnSurface best;
    best.distance = std::numeric_limits<double>::infinity();
    look_near(0, point, best);
    return patch_.trimmed() && !sides_.hold(best.u, best.v) ? nearest_on_trims(point) : best;
}

// The nearest of many places of the trims, then by golden section between its neighbours.
PlaceOnSurface SurfaceSearch::nearest_on_trims(Vec3 point) const {
    constexpr int pieces = 8, rounds = 48;
    PlaceOnSurface best;
    best.distance = std::numeric_limits<double>::infinity();
    for (const SplineCurve& trim : patch_.trims()) {
        const auto place = [&](double t) {
            const Vec3 at = evaluate(trim, t).position;
            const Vec3 there = evaluator_.at(at.x, at.y).position;
            return PlaceOnSurface{at.x, at.y, there, length(point - there)};
        };
        std::vector<double> lines = knot_lines(trim.basis(), pieces);
        lines.push_back(trim.basis().end());
        std::size_t nearest = 0;
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t line = 0; line < lines.size(); ++line)
            if (const double distance = place(lines[line]).distance; distance < least) {
                least = distance;
                nearest = line;
            }
        const double between = golden_section(lines[nearest > 0 ? nearest - 1 : 0],
                                              lines[std::min(nearest + 1, lines.size() - 1)], rounds,
                                              [&](double t) { return place(t).distance; });
        for (const double t : {lines[nearest], between})
            if (const PlaceOnSurface found = place(t); found.distance < best.distance) best = found;
    }
    return best;
}

std::vector<PlaceOnSurface> SurfaceSearch::along(Vec3 point, Vec3 direction) const {
    const Vec3 first =
        unit_or_zero(cross(direction, std::abs(direction.z) < 0.9 ? Vec3{0, 0, 1} : Vec3{1, 0, 0}));
    const Vec3 second = cross(direction, first);
    std::vector<PlaceOnSurface> found;
    const auto look_in = [&](const SurfaceBay& bay) {
        double u = std::midpoint(bay.from_u, bay.to_u), v = std::midpoint(bay.from_v, bay.to_v);
        for (int step = 0; step < most_steps; ++step) {
            const SurfacePoint at = evaluator_.at(u, v);
            const Vec3 off = point - at.position;
            const double x = dot(off, first), y = dot(off, second);
            if (std::hypot(x, y) <= 1e-12 * size_) {
                const PlaceOnSurface place{u, v, at.position, -dot(off, direction)};
                const bool known = std::ranges::any_of(found, [&](const PlaceOnSurface& other) {
                    return length(other.place - place.place) <= 1e-8 * size_;
                });
                if (!known && sides_.hold(u, v)) found.push_back(place);
                return;
            }
            const double ux = dot(at.along_u, first), uy = dot(at.along_u, second),
                         vx = dot(at.along_v, first), vy = dot(at.along_v, second), area = ux * vy - uy * vx;
            if (!(std::abs(area) > 1e-14 * length(at.along_u) * length(at.along_v))) return;
            const double next_u = std::clamp(u + (x * vy - y * vx) / area, bay.from_u, bay.to_u),
                         next_v = std::clamp(v + (ux * y - uy * x) / area, bay.from_v, bay.to_v);
            if (next_u == u && next_v == v) return;
            u = next_u;
            v = next_v;
        }
    };
    visit([&](const Box& box) { return meets(box, point, direction, 1e-9 * size_); }, look_in);
    std::ranges::sort(found, {}, &PlaceOnSurface::distance);
    return found;
}

void SurfaceSearch::visit(const Enters& enters, const LookIn& look_in) const {
    std::vector<std::size_t> front{0};
    while (!front.empty()) {
        const Node& here = nodes_[front.back()];
        front.pop_back();
        if (!enters(here.box)) continue;
        if (here.right == 0)
            look_in(grown(bays_[here.left].range, patch_));
        else
            front.insert(front.end(), {here.left, here.right});
    }
}

Vec3 SurfaceSearch::normal(const PlaceOnSurface& place) const {
    return normal_at(evaluator_, patch_.u(), patch_.v(), place.u, place.v);
}

}  // namespace plume
