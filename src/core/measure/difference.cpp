#include "core/measure/difference.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_sampling.hpp"

namespace plume {
namespace {

constexpr std::size_t most_samples = 2000;

class Tally {
public:
    explicit Tally(Dimension dimension) { found_.dimension = dimension; }
    void add(double apart) {
        if (!std::isfinite(apart)) return;
        found_.largest = std::max(found_.largest, apart);
        sum_ += apart;
        ++found_.compared;
    }
    void add_single() { ++found_.only_one; }
    std::optional<Difference> result() const {
        if (found_.compared == 0) return {};
        Difference difference = found_;
        difference.mean = sum_ / static_cast<double>(found_.compared);
        return difference;
    }

private:
    Difference found_;
    double sum_ = 0;
};

// `apart` of two addresses that both have a point.
template <class Apart>
std::optional<Difference> by_address(const PointLattice& a, const PointLattice& b, Dimension dimension,
                                     Apart apart) {
    if (a.counts() != b.counts()) return {};
    Tally tally(dimension);
    for (std::size_t index = 0; index < a.address_count(); ++index)
        if (a.present(index) && b.present(index))
            tally.add(apart(index));
        else if (a.present(index) || b.present(index))
            tally.add_single();
    return tally.result();
}

std::optional<Difference> of(const PointLattice& a, const PointLattice& b) {
    return by_address(a, b, a_length,
                      [&](std::size_t index) { return length(a.point(index) - b.point(index)); });
}

std::optional<Difference> of(const FieldOnPoints& a, const FieldOnPoints& b) {
    if (a.field().dimension != b.field().dimension) return {};
    return by_address(a.points, b.points, a.field().dimension, [&](std::size_t index) {
        return std::abs(a.field().values[index] - b.field().values[index]);
    });
}

std::optional<Difference> of(const Mesh& a, const Mesh& b) {
    if (a.vertex_count() != b.vertex_count()) return {};
    Tally tally(a_length);
    for (std::size_t index = 0; index < a.vertex_count(); ++index)
        tally.add(length(a.vertex(index) - b.vertex(index)));
    return tally.result();
}

double to_segment(Vec3 point, Vec3 from, Vec3 to) {
    const Vec3 along = to - from;
    const double square = dot(along, along);
    const double share = square > 0 ? std::clamp(dot(point - from, along) / square, 0.0, 1.0) : 0;
    return length(point - (from + share * along));
}

std::vector<Vec3> thinned(const SplineCurve& curve) {
    CurveSamples samples = sample(curve, usual_tolerance(curve));
    if (samples.closed) samples.points.push_back(samples.points.front());
    const std::size_t stride = 1 + samples.points.size() / most_samples;
    std::vector<Vec3> points;
    for (std::size_t at = 0; at < samples.points.size(); at += stride)
        points.push_back(samples.points[at]);
    points.push_back(samples.points.back());
    return points;
}

void add_distances(const std::vector<Vec3>& points, const std::vector<Vec3>& line, Tally& tally) {
    for (const Vec3 point : points) {
        double nearest = std::numeric_limits<double>::infinity();
        for (std::size_t at = 1; at < line.size(); ++at)
            nearest = std::min(nearest, to_segment(point, line[at - 1], line[at]));
        tally.add(nearest);
    }
}

std::optional<Difference> of(const CurveSet& a, const CurveSet& b) {
    if (a.curves.size() != b.curves.size()) return {};
    Tally tally(a_length);
    for (std::size_t at = 0; at < a.curves.size(); ++at) {
        const std::vector<Vec3> one = thinned(a.curves[at]), other = thinned(b.curves[at]);
        add_distances(one, other, tally);
        add_distances(other, one, tally);
    }
    return tally.result();
}

template <class A, class B>
std::optional<Difference> of(const A& /*a*/, const B& /*b*/) {
    return {};
}

}  // namespace

std::optional<Difference> difference(const Value& a, const Value& b) {
    return std::visit([](const auto& one, const auto& other) { return of(one, other); }, a, b);
}

}  // namespace plume
