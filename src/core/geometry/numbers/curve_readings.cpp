#include "core/geometry/numbers/curve_readings.hpp"

#include <cmath>
#include <limits>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"

namespace plume {
namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

class Curves {
public:
    explicit Curves(const CurveSet& set) : set_(set) {
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
    const SplineCurve& operator[](std::size_t index) const { return set_.curves[index]; }

private:
    const CurveSet& set_;
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

// A bend this much smaller than the square of the speed over the size is rounding.
double clean_curvature(const SplineCurve& curve, double parameter) {
    const double curvature = curvature_of(evaluate_bend(curve, parameter));
    constexpr double rounding = 1e-11;
    return std::abs(curvature) * 2000 * usual_tolerance(curve) < rounding ? 0 : curvature;
}

Vec3 direction_at(const SplineCurve& curve, double parameter, CurveDirection what) {
    const CurveBend at = evaluate_bend(curve, parameter);
    const Vec3 tangent = unit_or_zero(at.along);
    if (what == CurveDirection::tangent) return tangent;
    const double curvature = clean_curvature(curve, parameter);
    if (!(curvature > 0)) return {};
    const Vec3 binormal = unit_or_zero(cross(at.along, at.bend));
    return what == CurveDirection::binormal ? binormal : cross(binormal, tangent);
}

}  // namespace

Result<Field> curve_numbers(const PointLattice& points, const CurveSet& set, CurveNumber what,
                            const Run& run) {
    Doubles numbers(points.address_count(), nan);
    std::vector<CurveLength> lengths;
    if (what == CurveNumber::length || what == CurveNumber::share)
        for (const SplineCurve& curve : set.curves)
            lengths.emplace_back(curve);
    const Status done = at_every_point(points, set, run, [&](std::size_t index, const auto& place) {
        const SplineCurve& curve = set.curves[place.curve];
        if (lengths.empty()) {
            const double curvature = clean_curvature(curve, place.parameter);
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
    DirectionColumns columns{Doubles(count, 0.0), Doubles(count, 0.0), Doubles(count, 0.0)};
    const Status done = at_every_point(points, set, run, [&](std::size_t index, const auto& place) {
        const Vec3 direction = direction_at(set.curves[place.curve], place.parameter, what);
        columns.x[index] = direction.x;
        columns.y[index] = direction.y;
        columns.z[index] = direction.z;
    });
    if (!done) return done.error();
    return columns;
}

}  // namespace plume
