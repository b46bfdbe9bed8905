#include "core/geometry/curves/curve_crossings.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_roots.hpp"
#include "core/geometry/measures/bounds.hpp"

namespace plume {
namespace {

class CrossingSearch {
public:
    CrossingSearch(const SplineCurve& one, const SplineCurve& other, double tolerance, const Run& run)
        : one_(one),
          other_(other),
          tolerance_(tolerance),
          small_(std::max(1e-4 * std::max(poles_box(one).diagonal(), poles_box(other).diagonal()),
                          tolerance / 2)),
          run_(run) {}

    Status search(const SplineCurve& a, const SplineCurve& b, int depth) {
        if (run_.cancelled()) return cancelled_error();
        const Box box_a = poles_box(a), box_b = poles_box(b);
        if (!meet(box_a, box_b, tolerance_)) return Done{};
        if (++looked_into_ > most_looked_into)
            return Error{ErrorCode::unlike_arrangement, "", "The curves run along each other",
                         "Move one of them, or cut at shares instead."};
        const double size_a = box_a.diagonal(), size_b = box_b.diagonal();
        if (depth >= most_halvings || (size_a <= small_ && size_b <= small_)) {
            meet_near(middle_of(a), middle_of(b));
            return Done{};
        }
        const bool first = size_a >= size_b;
        const SplineCurve& longer = first ? a : b;
        const double middle = middle_of(longer);
        for (const bool begin : {true, false}) {
            const SplineCurve half = begin ? part_of(longer, longer.basis().start(), middle)
                                           : part_of(longer, middle, longer.basis().end());
            if (Status status = first ? search(half, b, depth + 1) : search(a, half, depth + 1); !status)
                return status;
        }
        return Done{};
    }

    std::vector<double> found() const {
        std::vector<double> parameters = found_;
        std::ranges::sort(parameters);
        const double apart = 1e-7 * (one_.basis().end() - one_.basis().start());
        std::vector<double> distinct;
        for (const double parameter : parameters)
            if (distinct.empty() || parameter - distinct.back() > apart) distinct.push_back(parameter);
        return distinct;
    }

private:
    static constexpr int most_halvings = 60;
    static constexpr std::size_t most_looked_into = 200'000;

    static double middle_of(const SplineCurve& curve) {
        return std::midpoint(curve.basis().start(), curve.basis().end());
    }

    // Gauss-Newton: both move along their tangents until what is between them is square to both.
    void meet_near(double s, double t) {
        for (int round = 0; round < 40; ++round) {
            const CurvePoint a = evaluate(one_, s), b = evaluate(other_, t);
            const Vec3 apart = b.position - a.position;
            const double aa = dot(a.along, a.along), bb = dot(b.along, b.along), ab = dot(a.along, b.along);
            const double det = aa * bb - ab * ab;
            if (!(det > 1e-14 * aa * bb)) break;  // side by side
            const double da = (dot(apart, a.along) * bb - dot(apart, b.along) * ab) / det,
                         db = (dot(apart, a.along) * ab - dot(apart, b.along) * aa) / det;
            const double next_s = std::clamp(s + da, one_.basis().start(), one_.basis().end()),
                         next_t = std::clamp(t + db, other_.basis().start(), other_.basis().end());
            const bool settled = next_s == s && next_t == t;
            s = next_s;
            t = next_t;
            if (settled) break;
        }
        if (length(evaluate(one_, s).position - evaluate(other_, t).position) <= tolerance_)
            found_.push_back(s);
    }

    const SplineCurve &one_, &other_;
    double tolerance_, small_;
    const Run& run_;
    std::size_t looked_into_ = 0;
    std::vector<double> found_;
};

}  // namespace

namespace {

// Where a height of its places is 0.
template <class Height>
std::vector<double> roots_along(const SplineCurve& curve, const Height& height) {
    std::vector<double> heights;
    for (std::size_t pole = 0; pole < curve.x().size(); ++pole)
        heights.push_back(height(curve.pole(pole)) * curve.weight(pole));
    return roots_of(curve.basis(), heights);
}

}  // namespace

std::vector<double> crossings_with_plane(const SplineCurve& curve, const Placement& plane) {
    return roots_along(curve, [&](Vec3 pole) { return plane.to_local(pole).z; });
}

std::vector<double> crossings_with_coordinate(const SplineCurve& curve, int coordinate, double number) {
    return roots_along(curve, [&](Vec3 pole) { return (coordinate == 0 ? pole.x : pole.y) - number; });
}

Result<std::vector<double>> crossings_with_curve(const SplineCurve& curve, const SplineCurve& other,
                                                 double tolerance, const Run& run) {
    CrossingSearch search(curve, other, tolerance, run);
    const SplineCurve a = changed(curve, opened(curve.basis())), b = changed(other, opened(other.basis()));
    if (Status status = search.search(a, b, 0); !status) return status.error();
    return search.found();
}

std::vector<SplineCurve> split_at(const SplineCurve& curve, std::vector<double> parameters) {
    const double start = curve.basis().start(), end = curve.basis().end();
    const double slack = 2 * knots_hardly_apart * (end - start);
    std::ranges::sort(parameters);
    std::vector<double> cuts;
    for (double at : parameters) {
        // The end of a closed curve is its start.
        if (curve.closed() && at > end - slack) at = start;
        const bool at_end = at < start + slack || at > end - slack;
        if (at_end && !curve.closed()) continue;
        if (std::ranges::none_of(cuts, [&](double cut) { return std::abs(cut - at) <= slack; }))
            cuts.push_back(at);
    }
    if (cuts.empty()) return {curve};
    std::ranges::sort(cuts);
    if (curve.closed()) {
        cuts.push_back(cuts.front() + end - start);
    } else {
        cuts.insert(cuts.begin(), start);
        cuts.push_back(end);
    }
    std::vector<SplineCurve> pieces;
    for (std::size_t piece = 0; piece + 1 < cuts.size(); ++piece)
        pieces.push_back(part_of(curve, cuts[piece], cuts[piece + 1]));
    return pieces;
}

}  // namespace plume
