#include "core/geometry/numbers/curve_readings.hpp"

#include <cmath>
#include <limits>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"

namespace plume {
namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

class Curves {
public:
    explicit Curves(const CurveSet& set) {
        for (const SplineCurve& curve : set.curves)
            search_.emplace_back(curve);
    }

    struct Place {
        std::size_t curve = 0;
        double parameter = 0;
    };
    Place nearest(Vec3 point) const {
        Place best;
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t index = 0; index < search_.size(); ++index) {
            const PlaceOnCurve here = search_[index].nearest(point);
            if (!(here.distance < least)) continue;
            least = here.distance;
            best = {index, here.parameter};
        }
        return best;
    }

private:
    std::vector<NearestOnCurve> search_;
};

// What is read at the place nearest to every point that is there, side by side.
template <class Read>
Status at_every_point(const PointLattice& points, const CurveSet& set, const Run& run, const Read& read) {
    if (set.curves.empty()) return Error{ErrorCode::empty_input, "", "holds no curve", "Draw one."};
    const Curves curves(set);
    const bool finished =
        parallel_blocks(points.address_count(), 256, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                if (points.present(index) && is_finite(points.point(index)))
                    read(index, curves.nearest(points.point(index)));
        });
    return finished ? Status(Done{}) : Status(cancelled_error());
}

Dimension dimension_of(CurveNumber what) {
    switch (what) {
        case CurveNumber::length:
        case CurveNumber::radius:
            return a_length;
        case CurveNumber::curvature:
            return {-1, 0};
        case CurveNumber::share:
            break;
    }
    return plain_number;
}

// How far each curve reaches.
std::vector<double> sizes_of(const CurveSet& set) {
    std::vector<double> sizes;
    for (const SplineCurve& curve : set.curves)
        sizes.push_back(poles_box(curve).diagonal());
    return sizes;
}

// A bend of far more than the size of the curve is rounding.
double clean_curvature(const CurveBend& at, double size) {
    const double curvature = curvature_of(at);
    constexpr double rounding = 1e-11;
    return std::abs(curvature) * size < rounding ? 0 : curvature;
}

Vec3 direction_of(const CurveBend& at, double size, CurveDirection what) {
    const Vec3 tangent = unit_or_zero(at.along);
    if (what == CurveDirection::tangent) return tangent;
    if (!(clean_curvature(at, size) > 0)) return {};
    const Vec3 binormal = unit_or_zero(cross(at.along, at.bend));
    return what == CurveDirection::binormal ? binormal : cross(binormal, tangent);
}

}  // namespace

Result<Field> curve_numbers(const PointLattice& points, const CurveSet& set, CurveNumber what,
                            const Run& run) {
    Doubles numbers(points.address_count(), nan);
    const std::vector<double> sizes = sizes_of(set);
    std::vector<CurveLength> lengths;
    if (what == CurveNumber::length || what == CurveNumber::share)
        for (const SplineCurve& curve : set.curves)
            lengths.emplace_back(curve);
    const Status done = at_every_point(points, set, run, [&](std::size_t index, const auto& place) {
        if (lengths.empty()) {
            const double curvature =
                clean_curvature(evaluate_bend(set.curves[place.curve], place.parameter), sizes[place.curve]);
            numbers[index] = what == CurveNumber::curvature ? curvature : 1 / curvature;
            return;
        }
        const CurveLength& length = lengths[place.curve];
        const double along = length.length_at(place.parameter);
        numbers[index] = what == CurveNumber::length ? along : along / length.total();
    });
    if (!done) return done.error();
    return Field{"", std::move(numbers), dimension_of(what)};
}

Result<DirectionColumns> curve_directions(const PointLattice& points, const CurveSet& set,
                                          CurveDirection what, const Run& run) {
    const std::size_t count = points.address_count();
    const std::vector<double> sizes = sizes_of(set);
    DirectionColumns columns{Doubles(count, 0.0), Doubles(count, 0.0), Doubles(count, 0.0)};
    const Status done = at_every_point(points, set, run, [&](std::size_t index, const auto& place) {
        const Vec3 direction =
            direction_of(evaluate_bend(set.curves[place.curve], place.parameter), sizes[place.curve], what);
        columns.x[index] = direction.x;
        columns.y[index] = direction.y;
        columns.z[index] = direction.z;
    });
    if (!done) return done.error();
    return columns;
}

}  // namespace plume
