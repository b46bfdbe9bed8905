#include "core/geometry/curves/compatible_curves.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"

namespace plume {
namespace {

constexpr std::size_t probes = 48;

// Places at even lengths, the seam of a closed curve once, and the parameters they lie at.
struct Probed {
    std::vector<Vec3> places;
    std::vector<double> parameters;
};
Probed probed(const SplineCurve& curve) {
    const CurveLength measure(curve);
    const auto bays = static_cast<double>(curve.closed() ? probes : probes - 1);
    Probed result;
    for (std::size_t probe = 0; probe < probes; ++probe) {
        result.parameters.push_back(
            measure.parameter_at(measure.total() * static_cast<double>(probe) / bays));
        result.places.push_back(evaluate(curve, result.parameters.back()).position);
    }
    return result;
}

Vec3 middle_of(const std::vector<Vec3>& places) {
    Vec3 sum;
    for (const Vec3 place : places)
        sum = sum + place;
    return sum * (1 / static_cast<double>(places.size()));
}

// The sum of squared distances between places paired from `shift` on, backwards or not, their middles laid
// together.
double apart(const std::vector<Vec3>& a, const std::vector<Vec3>& b, std::size_t shift, bool backwards) {
    const Vec3 between = middle_of(b) - middle_of(a);
    double sum = 0;
    for (std::size_t at = 0; at < a.size(); ++at) {
        const std::size_t other = backwards ? (shift + b.size() - at) % b.size() : (shift + at) % b.size();
        const Vec3 offset = b[other] - a[at] - between;
        sum += dot(offset, offset);
    }
    return sum;
}

// Open curves: as they are, or backwards. Nearer ends decide where the shapes do not, as of two straight
// lines.
SplineCurve beside(const SplineCurve& curve, const std::vector<Vec3>& before) {
    std::vector<Vec3> places = probed(curve).places;
    double straight = 0, turned = 0;
    for (std::size_t at = 0; at < places.size(); ++at) {
        const Vec3 one = places[at] - before[at], other = places[places.size() - 1 - at] - before[at];
        straight += dot(one, one);
        turned += dot(other, other);
    }
    return turned < straight * (1 - 1e-9) ? reversed(curve) : curve;
}

SplineCurve beside_closed(const SplineCurve& curve, const std::vector<Vec3>& before) {
    const Probed probe = probed(curve);
    const double now = apart(before, probe.places, 0, false);
    double best = now;
    std::size_t shift = 0;
    bool backwards = false;
    for (const bool other_way : {false, true})
        for (std::size_t at = 0; at < probes; ++at) {
            const double there = apart(before, probe.places, at, other_way);
            if (there >= best * (1 - 1e-9)) continue;
            best = there;
            shift = at;
            backwards = other_way;
        }
    const SplineCurve moved = shift == 0 ? curve : with_seam_at(curve, probe.parameters[shift]);
    return backwards ? reversed(moved) : moved;
}

SplineCurve turned_by(const SplineCurve& curve, double share) {
    const double rest = share - std::floor(share);
    if (rest == 0 || !curve.closed()) return curve;
    const CurveLength measure(curve);
    return with_seam_at(curve, measure.parameter_at(rest * measure.total()));
}

struct Knot {
    double at;
    int times;
};

// The knots behind the start up to the end, each with how often it stands there.
std::vector<Knot> knots_of(const SplineBasis& basis) {
    std::vector<Knot> knots;
    const std::vector<double> breaks = knot_breaks(basis);
    for (std::size_t at = 1; at < breaks.size(); ++at)
        knots.push_back({breaks[at], std::min(multiplicity_at(basis, breaks[at]), basis.degree)});
    return knots;
}

constexpr double one_knot = 1e-13;

void merge(std::vector<Knot>& all, const std::vector<Knot>& more) {
    std::vector<Knot> merged;
    std::size_t a = 0, b = 0;
    while (a < all.size() || b < more.size()) {
        if (b == more.size() || (a < all.size() && all[a].at < more[b].at - one_knot)) {
            merged.push_back(all[a++]);
        } else if (a == all.size() || more[b].at < all[a].at - one_knot) {
            merged.push_back(more[b++]);
        } else {
            merged.push_back({all[a].at, std::max(all[a].times, more[b].times)});
            ++a;
            ++b;
        }
    }
    all = std::move(merged);
}

SplineCurve with_knots(const SplineCurve& curve, const std::vector<Knot>& wanted) {
    std::vector<double> more;
    for (const Knot& knot : wanted) {
        if (!curve.closed() && knot.at >= curve.basis().end() - one_knot) continue;
        const int stands = std::min(multiplicity_at(curve.basis(), knot.at), curve.basis().degree);
        more.insert(more.end(), static_cast<std::size_t>(std::max(0, knot.times - stands)), knot.at);
    }
    return more.empty() ? curve : changed(curve, refined(curve.basis(), std::move(more)));
}

bool has(const SplineCurve& curve, const Field& field) {
    return std::ranges::any_of(curve.fields(), [&](const Field& other) {
        return other.name == field.name && other.dimension == field.dimension;
    });
}

// Over the first one's basis, rational, with the fields that all have, in its order.
SplineCurve like(const SplineCurve& first, const SplineCurve& curve, bool rational,
                 const std::vector<SplineCurve>& all) {
    std::vector<Field> fields;
    for (const Field& field : first.fields()) {
        if (!std::ranges::all_of(all, [&](const SplineCurve& other) { return has(other, field); })) continue;
        fields.push_back(*std::ranges::find(curve.fields(), field.name, &Field::name));
    }
    Column weights = curve.weights();
    if (rational && !curve.rational()) weights = Doubles(curve.x().size(), 1.0);
    return *SplineCurve::make(
        {first.basis(), curve.x(), curve.y(), curve.z(), std::move(weights), std::move(fields)});
}

}  // namespace

std::vector<SplineCurve> aligned(std::vector<SplineCurve> curves, double turn) {
    for (std::size_t at = 1; at < curves.size(); ++at) {
        const std::vector<Vec3> before = probed(curves[at - 1]).places;
        if (curves[at].closed())
            curves[at] = turned_by(beside_closed(curves[at], before), turn);
        else
            curves[at] = beside(curves[at], before);
    }
    return curves;
}

double compatible_pole_count(const std::vector<SplineCurve>& curves) {
    std::vector<double> knots;
    int degree = 1;
    for (const SplineCurve& curve : curves) {
        const SplineBasis& basis = curve.basis();
        degree = std::max(degree, basis.degree);
        for (const double knot : knot_breaks(basis))
            knots.push_back((knot - basis.start()) / (basis.end() - basis.start()));
    }
    std::ranges::sort(knots);
    double distinct = 0, last = -1;
    for (const double knot : knots) {
        if (knot - last <= one_knot) continue;
        last = knot;
        ++distinct;
    }
    // Raised, the knots of the lower ones stand several times.
    int lowest = degree;
    for (const SplineCurve& curve : curves)
        lowest = std::min(lowest, curve.basis().degree);
    return distinct * (1 + degree - lowest) + degree;
}

Result<std::vector<SplineCurve>> compatible(const std::vector<SplineCurve>& curves, const Run& run) {
    int degree = 1;
    bool rational = false;
    for (const SplineCurve& curve : curves) {
        degree = std::max(degree, curve.basis().degree);
        rational = rational || curve.rational();
        if (curve.closed() != curves.front().closed())
            return Error{ErrorCode::unlike_arrangement, "", "Some of the curves are closed and some are open",
                         "Take only closed or only open ones."};
    }
    std::vector<SplineCurve> ready;
    std::vector<Knot> knots;
    for (const SplineCurve& curve : curves) {
        if (run.cancelled()) return cancelled_error();
        const SplineCurve touching = curve.closed() ? curve : changed(curve, opened(curve.basis()));
        const SplineCurve high = raised(touching, degree);
        ready.push_back(with_basis(high, over_domain(high.basis(), 0, 1)));
        merge(knots, knots_of(ready.back().basis()));
    }
    for (SplineCurve& curve : ready) {
        if (run.cancelled()) return cancelled_error();
        curve = with_knots(curve, knots);
    }
    std::vector<SplineCurve> all;
    for (const SplineCurve& curve : ready)
        all.push_back(like(ready.front(), curve, rational, ready));
    return all;
}

}  // namespace plume
