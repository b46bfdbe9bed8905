#include "core/geometry/measures/bounds.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/overloaded.hpp"
#include "core/data/on_points.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

// Agreement of hull and value, as a share of the poles' extent.
constexpr double agreement = 1e-12;
// More halvings than any span with one summit needs; ridges of equal height would go on for ever.
constexpr int most_halvings = 4'000;

// The spans of a basis that have a length, by the index of the knot they begin at.
std::vector<std::size_t> spans_of(const SplineBasis& basis) {
    std::vector<std::size_t> spans;
    for (std::size_t knot = static_cast<std::size_t>(basis.degree); knot < basis.pole_count(); ++knot)
        if (basis.knots[knot] < basis.knots[knot + 1]) spans.push_back(knot);
    return spans;
}

// Row-major matrix from the degree + 1 poles of a span to its Bernstein coefficients.
std::vector<double> to_bernstein(const SplineBasis& basis, std::size_t span) {
    const auto degree = static_cast<std::size_t>(basis.degree), order = degree + 1;
    const double low = basis.knots[span], high = basis.knots[span + 1];
    std::vector<double> matrix(order * order);
    std::vector<double> blossom(order);
    for (std::size_t pole = 0; pole < order; ++pole)
        for (std::size_t coefficient = 0; coefficient < order; ++coefficient) {
            // De Boor's scheme with an argument of its own in each round: `coefficient` times the upper end.
            std::ranges::fill(blossom, 0.0);
            blossom[pole] = 1;
            for (std::size_t round = 1; round <= degree; ++round) {
                const double argument = round <= coefficient ? high : low;
                for (std::size_t at = degree; at >= round; --at) {
                    const std::size_t knot = span - degree + at;
                    const double from = basis.knots[knot], to = basis.knots[knot + degree + 1 - round];
                    const double share = (argument - from) / (to - from);
                    blossom[at] = (1 - share) * blossom[at - 1] + share * blossom[at];
                }
            }
            matrix[coefficient * order + pole] = blossom[degree];
        }
    return matrix;
}

// A piece in Bernstein form: order_u x order_v numerators and, when rational, weights.
struct Piece {
    std::size_t order_u = 1, order_v = 1;
    std::vector<double> top, weight;

    double value(std::size_t at) const { return weight.empty() ? top[at] : top[at] / weight[at]; }
    double hull() const {
        double most = value(0);
        for (std::size_t at = 1; at < top.size(); ++at)
            most = std::max(most, value(at));
        return most;
    }
    // Whether it bends more along u than along v: halving where it is straight brings nothing.
    bool bends_along_u() const {
        const auto bend = [&](std::size_t order, std::size_t stride, std::size_t lines, std::size_t step) {
            double most = 0;
            for (std::size_t line = 0; line < lines; ++line)
                for (std::size_t at = 1; at < order; ++at) {
                    const std::size_t here = line * step + at * stride;
                    const double slope = value(here) - value(here - stride);
                    // Of a straight piece the slope; of the others how it changes.
                    most =
                        std::max(most, at + 1 < order ? std::abs(value(here + stride) - value(here) - slope)
                                                      : (order == 2 ? std::abs(slope) : 0));
                }
            return most;
        };
        return order_v == 1 || bend(order_u, 1, order_v, order_u) >= bend(order_v, order_u, order_u, 1);
    }
    double corners() const {
        const std::size_t u = order_u - 1, v = (order_v - 1) * order_u;
        return std::max(std::max(value(0), value(u)), std::max(value(v), value(v + u)));
    }
};

// De Casteljau's scheme at the middle, along one direction of one array; `upper` gets the other half.
void halve(std::vector<double>& lower, std::vector<double>& upper, std::size_t order_u, std::size_t order_v,
           bool along_u) {
    upper = lower;
    const std::size_t order = along_u ? order_u : order_v, lines = along_u ? order_v : order_u;
    const std::size_t stride = along_u ? 1 : order_u, step = along_u ? order_u : 1;
    for (std::size_t line = 0; line < lines; ++line) {
        double* const a = lower.data() + line * step;
        double* const b = upper.data() + line * step;
        for (std::size_t round = 1; round < order; ++round) {
            for (std::size_t at = order - 1; at >= round; --at)
                a[at * stride] = (a[at * stride] + a[(at - 1) * stride]) / 2;
            b[(order - 1 - round) * stride] = a[(order - 1) * stride];
        }
    }
}

// The largest value of pieces, as far as it is above what is known. Negated input finds the least.
class Summit {
public:
    Summit(double known, double slack) : most_(known), slack_(slack) {}
    double value() const { return most_; }
    bool may_lie_in(double hull) const { return hull > most_ + slack_; }

    void search(const Piece& piece) {
        const auto lower = [](const Reaching& a, const Reaching& b) { return a.hull < b.hull; };
        std::vector<Reaching> open{{piece.hull(), piece}};
        // The piece that reaches furthest comes first, so that what is left when it is enough is the bound.
        for (int halvings = 0; !open.empty(); ++halvings) {
            std::ranges::pop_heap(open, lower);
            Reaching current = std::move(open.back());
            open.pop_back();
            most_ = std::max(most_, current.piece.corners());
            if (!may_lie_in(current.hull)) return;
            if (halvings == most_halvings) {
                most_ = std::max(most_, current.hull);  // a ridge, known as near as makes no difference
                return;
            }
            const bool along_u = current.piece.bends_along_u();
            Piece first = std::move(current.piece), second = first;
            halve(first.top, second.top, first.order_u, first.order_v, along_u);
            if (!first.weight.empty())
                halve(first.weight, second.weight, first.order_u, first.order_v, along_u);
            for (Piece* half : {&first, &second}) {
                open.push_back({half->hull(), std::move(*half)});
                std::ranges::push_heap(open, lower);
            }
        }
    }

private:
    struct Reaching {
        double hull;
        Piece piece;
    };
    double most_, slack_;
};

// A patch, or a curve as one of a single column, along one axis.
struct AxisOf {
    const SplineBasis *u, *v;
    const double* poles;
    const double* weights;
    double sign;
};

std::size_t poles_along(const SplineBasis* basis) {
    return basis ? basis->pole_count() : 1;
}
std::size_t order_along(const SplineBasis* basis) {
    return basis ? static_cast<std::size_t>(basis->degree) + 1 : 1;
}

Piece piece_at(const AxisOf& axis, std::size_t span_u, std::size_t span_v) {
    Piece piece;
    piece.order_u = order_along(axis.u);
    piece.order_v = order_along(axis.v);
    const std::size_t count_u = poles_along(axis.u);
    const std::size_t first_u = span_u + 1 - piece.order_u, first_v = axis.v ? span_v + 1 - piece.order_v : 0;
    const std::vector<double> to_u = to_bernstein(*axis.u, span_u);
    const std::vector<double> to_v = axis.v ? to_bernstein(*axis.v, span_v) : std::vector<double>{1};
    const auto converted = [&](auto pole_at) {
        std::vector<double> rows(piece.order_u * piece.order_v), all(piece.order_u * piece.order_v, 0.0);
        for (std::size_t b = 0; b < piece.order_v; ++b)
            for (std::size_t a = 0; a < piece.order_u; ++a) {
                double sum = 0;
                for (std::size_t pole = 0; pole < piece.order_u; ++pole)
                    sum += to_u[a * piece.order_u + pole] * pole_at(first_u + pole + count_u * (first_v + b));
                rows[a + piece.order_u * b] = sum;
            }
        for (std::size_t b = 0; b < piece.order_v; ++b)
            for (std::size_t row = 0; row < piece.order_v; ++row)
                for (std::size_t a = 0; a < piece.order_u; ++a)
                    all[a + piece.order_u * b] +=
                        to_v[b * piece.order_v + row] * rows[a + piece.order_u * row];
        return all;
    };
    if (axis.weights) {
        piece.weight = converted([&](std::size_t pole) { return axis.weights[pole]; });
        piece.top =
            converted([&](std::size_t pole) { return axis.sign * axis.poles[pole] * axis.weights[pole]; });
    } else {
        piece.top = converted([&](std::size_t pole) { return axis.sign * axis.poles[pole]; });
    }
    return piece;
}

double reach_of_poles(const AxisOf& axis, std::size_t span_u, std::size_t span_v) {
    const std::size_t order_u = order_along(axis.u), order_v = order_along(axis.v),
                      count_u = poles_along(axis.u);
    const std::size_t first_u = span_u + 1 - order_u, first_v = axis.v ? span_v + 1 - order_v : 0;
    double most = -Box::infinite;
    for (std::size_t b = 0; b < order_v; ++b)
        for (std::size_t a = 0; a < order_u; ++a)
            most = std::max(most, axis.sign * axis.poles[first_u + a + count_u * (first_v + b)]);
    return most;
}

// The largest value times the sign.
double summit_of(const AxisOf& axis, double slack) {
    const std::vector<std::size_t> spans_u = spans_of(*axis.u);
    const std::vector<std::size_t> spans_v = axis.v ? spans_of(*axis.v) : std::vector<std::size_t>{0};
    double furthest = -Box::infinite;
    std::pair<std::size_t, std::size_t> best{spans_u.front(), spans_v.front()};
    std::vector<double> reaches;
    reaches.reserve(spans_u.size() * spans_v.size());
    for (const std::size_t v : spans_v)
        for (const std::size_t u : spans_u) {
            reaches.push_back(reach_of_poles(axis, u, v));
            if (reaches.back() > furthest) {
                furthest = reaches.back();
                best = {u, v};
            }
        }
    Summit summit(-Box::infinite, slack);
    summit.search(piece_at(axis, best.first, best.second));
    std::size_t at = 0;
    for (const std::size_t v : spans_v)
        for (const std::size_t u : spans_u)
            if (summit.may_lie_in(reaches[at++])) summit.search(piece_at(axis, u, v));
    return summit.value();
}

Box box_of(const SplineBasis* u, const SplineBasis* v, const std::array<const Column*, 3>& axes,
           const Column* weights) {
    Box poles;
    for (std::size_t pole = 0; pole < axes[0]->size(); ++pole) {
        const Vec3 at{(*axes[0])[pole], (*axes[1])[pole], (*axes[2])[pole]};
        if (!is_finite(at)) return poles;
        poles.include(at);
    }
    if (poles.empty()) return poles;
    const double slack = agreement * poles.diagonal();
    std::array<double, 3> low{}, high{};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double* const weight = weights && weights->size() > 0 ? weights->data() : nullptr;
        high[axis] = summit_of({u, v, axes[axis]->data(), weight, 1}, slack);
        low[axis] = -summit_of({u, v, axes[axis]->data(), weight, -1}, slack);
    }
    return Box{{low[0], low[1], low[2]}, {high[0], high[1], high[2]}};
}

Box box_of(const Attractors& attractors) {
    Box box;
    for (const Attractor& item : attractors.items()) {
        box.include(item.position);
        if (item.path)
            for (const Vec3 corner : *item.path)
                box.include(corner);
    }
    return box;
}

}  // namespace

Box bounds_of(const SplineCurve& curve) {
    return box_of(&curve.basis(), nullptr, {&curve.x(), &curve.y(), &curve.z()}, &curve.weights());
}

Box bounds_of(const SplinePatch& patch) {
    if (patch.trimmed() && is_parallelogram(patch)) {
        Box box;
        for (const SplineCurve& trim : patch.trims())
            box.include(bounds_of(trim_in_space(patch, trim)));
        return box;
    }
    return box_of(&patch.u(), &patch.v(), {&patch.x(), &patch.y(), &patch.z()}, &patch.weights());
}

Box bounds_of(const Value& value) {
    return std::visit(
        Overloaded{[](const PointLattice& lattice) { return lattice.bounds(); },
                   [](const OnPoints auto& item) { return item.points.bounds(); },
                   [](const Attractors& attractors) { return box_of(attractors); },
                   [](const Mesh& mesh) { return mesh.bounds(); },
                   [](const SurfaceSet& set) {
                       Box box;
                       for (const SplinePatch& patch : set.patches)
                           box.include(bounds_of(patch));
                       return box;
                   },
                   [](const CurveSet& set) {
                       Box box;
                       for (const SplineCurve& curve : set.curves)
                           box.include(bounds_of(curve));
                       return box;
                   },
                   [](const Placements& item) { return item.origins().bounds(); },
                   [](const SolidSet& set) {
                       Box box;
                       for (const Body& body : set.bodies) {
                           if (!body.exact()) box.include(body.mesh().bounds());
                           for (const SplinePatch& patch : body.patches())
                               box.include(bounds_of(patch));
                       }
                       return box;
                   },
                   [](const BarFrame& frame) { return frame.nodes().bounds(); },
                   [](const Quantity&) { return Box{}; }, [](const Delivery&) { return Box{}; }},
        value);
}

bool meet(const Box& a, const Box& b, double reach) {
    return a.low.x <= b.high.x + reach && b.low.x <= a.high.x + reach && a.low.y <= b.high.y + reach &&
           b.low.y <= a.high.y + reach && a.low.z <= b.high.z + reach && b.low.z <= a.high.z + reach;
}

}  // namespace plume
