#include "core/geometry/surfaces/coons.hpp"

#include <algorithm>
#include <limits>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/compatible_curves.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/loft.hpp"

namespace plume {
namespace {

// Of the size.
constexpr double true_share = 1e-7, gap_share = 1e-6;

double size_of(const std::vector<SplineCurve>& edges) {
    Box box;
    for (const SplineCurve& edge : edges)
        box.include(bounds_of(edge));
    return box.diagonal();
}

// Without weights: those of a tensor of four edges would have to fit each other.
Result<SplineCurve> polynomial(const SplineCurve& edge, double tolerance, const Run& run) {
    if (!edge.rational()) return with_fields(edge, {});
    const CurvePlace place = [&](double t) -> Result<Vec3> { return evaluate(edge, t).position; };
    auto made = mapped_curves(edge, std::span(&place, 1), tolerance, run);
    if (!made) return made.error();
    return std::move(made->curves.front());
}

// One behind the other, beginning with the first as it runs.
std::vector<SplineCurve> in_order(std::vector<SplineCurve> edges) {
    for (std::size_t at = 0; at + 1 < edges.size(); ++at) {
        const Vec3 end = end_of(edges[at]);
        std::size_t nearest = at + 1;
        double least = std::numeric_limits<double>::infinity();
        bool turned = false;
        for (std::size_t other = at + 1; other < edges.size(); ++other)
            for (const bool back : {false, true})
                if (const double gap = length((back ? end_of(edges[other]) : start_of(edges[other])) - end);
                    gap < least) {
                    least = gap;
                    nearest = other;
                    turned = back;
                }
        std::swap(edges[at + 1], edges[nearest]);
        if (turned) edges[at + 1] = reversed(edges[at + 1]);
    }
    return edges;
}

Status look_for_gaps(const std::vector<SplineCurve>& edges, double size) {
    for (std::size_t at = 0; at < edges.size(); ++at) {
        const Vec3 here = end_of(edges[at]), next = start_of(edges[(at + 1) % edges.size()]);
        const double gap = length(next - here);
        if (gap <= gap_share * size) continue;
        return Error{ErrorCode::has_gaps, "",
                     "have ends " + short_text(gap) + " m apart at " + place_text(here),
                     "Let the ends of neighbouring edges meet."};
    }
    return Done{};
}

// In the order of the poles of a basis, the number that a function rising evenly from 0 to 1 has there.
std::vector<double> shares_of(const SplineBasis& basis) {
    std::vector<double> shares = knot_means(basis);
    for (double& share : shares)
        share = (share - basis.start()) / (basis.end() - basis.start());
    return shares;
}

Vec3 between(Vec3 a, Vec3 b, double share) {
    return a * (1 - share) + b * share;
}

}  // namespace

Result<SplinePatch> spanned_by_edges(const std::vector<SplineCurve>& given, const Run& run) {
    if (given.size() != 3 && given.size() != 4)
        return Error{ErrorCode::too_few_points, "",
                     "are " + std::to_string(given.size()) + ", and a surface has three or four",
                     "Choose three or four curves that follow each other."};
    const double size = size_of(given);
    std::vector<SplineCurve> edges;
    for (const SplineCurve& edge : given) {
        if (edge.closed())
            return Error{ErrorCode::has_gaps, "", "hold a closed curve", "Take parts of it as edges."};
        if (is_tip(edge, gap_share * size))
            return Error{ErrorCode::unlike_arrangement, "", "hold one without a length",
                         "Leave it out: of three edges the third corner is a tip."};
        Result<SplineCurve> one = polynomial(edge, true_share * size, run);
        if (!one) return one.error();
        edges.push_back(*std::move(one));
    }
    edges = in_order(std::move(edges));
    if (Status closed = look_for_gaps(edges, size); !closed) return closed.error();
    // Opposite edges run the same way.
    const SplineCurve tip = tip_like(edges[0], end_of(edges[1]));
    const auto along = compatible({edges[0], edges.size() == 4 ? reversed(edges[2]) : tip}, run);
    if (!along) return along.error();
    const auto across = compatible({reversed(edges.back()), edges[1]}, run);
    if (!across) return across.error();
    const SplineCurve &low = (*along)[0], &high = (*along)[1], &left = (*across)[0], &right = (*across)[1];
    const std::vector<double> u = shares_of(low.basis()), v = shares_of(left.basis());
    Doubles x, y, z;
    for (std::size_t b = 0; b < v.size(); ++b)
        for (std::size_t a = 0; a < u.size(); ++a) {
            const Vec3 corners = between(between(start_of(low), end_of(low), u[a]),
                                         between(start_of(high), end_of(high), u[a]), v[b]);
            const Vec3 pole = between(low.pole(a), high.pole(a), v[b]) +
                              between(left.pole(b), right.pole(b), u[a]) - corners;
            x.push_back(pole.x);
            y.push_back(pole.y);
            z.push_back(pole.z);
        }
    return SplinePatch::make(
        {low.basis(), left.basis(), std::move(x), std::move(y), std::move(z), {}, {}, {}});
}

}  // namespace plume
