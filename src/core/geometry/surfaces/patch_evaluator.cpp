#include "core/geometry/surfaces/patch_evaluator.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <type_traits>

#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/bicubic_bays.hpp"

namespace plume {
namespace {

// Sums of places and their weights, in lanes that the compiler adds side by side.
struct Lanes {
    std::array<double, 4> of{};
    void add(double share, const double* pole) {
        for (std::size_t lane = 0; lane < 4; ++lane)
            of[lane] += share * pole[lane];
    }
    void add(double share, const Lanes& lanes) { add(share, lanes.of.data()); }
    Vec3 place() const { return {of[0], of[1], of[2]}; }
    double weight() const { return of[3]; }
};

SurfacePoint divided(const Lanes& here, const Lanes& along_u, const Lanes& along_v) {
    const double scale = 1 / here.weight();
    const Vec3 place = here.place() * scale;
    return {place, (along_u.place() - place * along_u.weight()) * scale,
            (along_v.place() - place * along_v.weight()) * scale};
}

// The place and both derivatives in one pass over the poles; `places` has the first of them first. Degrees
// that are known make loops that the compiler unrolls; 0: it is that of the argument.
template <std::size_t known_u, std::size_t known_v, class At>
SurfacePoint point_of(const double* places, std::size_t poles_u, const At& u, std::size_t degree_u,
                      const At& v, std::size_t degree_v) {
    const std::size_t p = known_u > 0 ? known_u : degree_u, q = known_v > 0 ? known_v : degree_v;
    Lanes here, along_u, along_v;
    for (std::size_t b = 0; b <= q; ++b) {
        const double* const row = places + 4 * (u.first + poles_u * (v.first + b));
        Lanes value, slope;
        for (std::size_t a = 0; a <= p; ++a) {
            value.add(u.values[a], row + 4 * a);
            slope.add(u.slopes[a], row + 4 * a);
        }
        here.add(v.values[b], value);
        along_u.add(v.values[b], slope);
        along_v.add(v.slopes[b], value);
    }
    return divided(here, along_u, along_v);
}

template <class At>
SurfacePoint point_at(const double* places, std::size_t poles_u, const At& u, int degree_u, const At& v,
                      int degree_v) {
    const auto p = static_cast<std::size_t>(degree_u), q = static_cast<std::size_t>(degree_v);
    if (p == 3 && q == 3) return point_of<3, 3>(places, poles_u, u, p, v, q);
    return point_of<0, 0>(places, poles_u, u, p, v, q);
}

// With all second derivatives, likewise.
template <std::size_t known_u, std::size_t known_v, class Bends>
SurfaceBend bend_of(const double* places, std::size_t poles_u, const Bends& u, std::size_t degree_u,
                    const Bends& v, std::size_t degree_v) {
    const std::size_t p = known_u > 0 ? known_u : degree_u, q = known_v > 0 ? known_v : degree_v;
    Lanes here, du, dv, duu, duv, dvv;
    for (std::size_t b = 0; b <= q; ++b) {
        const double* const row = places + 4 * (u.at.first + poles_u * (v.at.first + b));
        Lanes value, slope, bend;
        for (std::size_t a = 0; a <= p; ++a) {
            value.add(u.at.values[a], row + 4 * a);
            slope.add(u.at.slopes[a], row + 4 * a);
            bend.add(u.bends[a], row + 4 * a);
        }
        here.add(v.at.values[b], value);
        du.add(v.at.values[b], slope);
        dv.add(v.at.slopes[b], value);
        duu.add(v.at.values[b], bend);
        duv.add(v.at.slopes[b], slope);
        dvv.add(v.bends[b], value);
    }
    const double scale = 1 / here.weight();
    SurfaceBend bend{divided(here, du, dv), {}, {}, {}};
    const auto& [place, along_u, along_v] = bend.point;
    // Quotient rule once more (The NURBS Book, eq. 4.20).
    bend.bend_uu = (duu.place() - along_u * (2 * du.weight()) - place * duu.weight()) * scale;
    bend.bend_uv =
        (duv.place() - along_u * dv.weight() - along_v * du.weight() - place * duv.weight()) * scale;
    bend.bend_vv = (dvv.place() - along_v * (2 * dv.weight()) - place * dvv.weight()) * scale;
    return bend;
}

// The square of the area between both derivatives beside that of their squares: below, it is rounding.
constexpr double no_normal_below = 1e-18;

// Everything a wide evaluation reads.
struct WidePatch {
    const SpanPolynomials &u, &v;
    const double* places;
    std::size_t poles_u;
    const BicubicBays* bays;
};

PLUME_WIDE inline WidePoint wide_sums(const WidePatch& patch, const SpanPolynomials::At& at_u,
                                      const SpanPolynomials::At& at_v) {
    Wide here = _mm256_setzero_pd(), along_u = here, along_v = here;
    const double* row = patch.places + 4 * (at_u.first + patch.poles_u * at_v.first);
    for (std::size_t b = 0; b < 4; ++b, row += 4 * patch.poles_u) {
        Wide value = _mm256_setzero_pd(), slope = value;
        for (std::size_t a = 0; a < 4; ++a) {
            const Wide pole = four_of(row + 4 * a);
            value = _mm256_fmadd_pd(_mm256_broadcast_sd(&at_u.values[a]), pole, value);
            slope = _mm256_fmadd_pd(_mm256_broadcast_sd(&at_u.slopes[a]), pole, slope);
        }
        const Wide share = _mm256_broadcast_sd(&at_v.values[b]);
        here = _mm256_fmadd_pd(share, value, here);
        along_u = _mm256_fmadd_pd(share, slope, along_u);
        along_v = _mm256_fmadd_pd(_mm256_broadcast_sd(&at_v.slopes[b]), value, along_v);
    }
    return {here, along_u, along_v};
}

template <bool rational, bool by_bays>
PLUME_WIDE inline WidePoint wide_lanes(const WidePatch& patch, double u, double v) {
    WidePoint point;
    if constexpr (by_bays)
        point = patch.bays->at(patch.u, patch.v, u, v);
    else
        point = wide_sums(patch, patch.u.at(u), patch.v.at(v));
    if constexpr (rational) return divided(point);
    return point;
}

template <bool rational, bool by_bays>
PLUME_WIDE SurfacePoint wide_point(const WidePatch& patch, double u, double v) {
    const WidePoint point = wide_lanes<rational, by_bays>(patch, u, v);
    return {place_in(point.here), place_in(point.along_u), place_in(point.along_v)};
}

// Many places are gone through in stages, each for a block of them: within a stage no place waits for
// another, and what one place needs is short enough for the processor to work on several at once.
constexpr std::size_t block = 16;

template <bool rational, bool by_bays>
PLUME_WIDE void wide_block(const WidePatch& patch, const double* u, const double* v, std::size_t count,
                           SurfacePoint* points) {
    std::array<SpanPolynomials::Share, block> shares_u, shares_v;
    std::array<SpanPolynomials::At, block> at_u, at_v;
    for (std::size_t at = 0; at < count; ++at) {
        shares_u[at] = patch.u.share_at(u[at]);
        shares_v[at] = patch.v.share_at(v[at]);
        if constexpr (by_bays) patch.bays->fetch(shares_u[at], shares_v[at]);
    }
    for (std::size_t at = 0; !by_bays && at < count; ++at) {
        at_u[at] = patch.u.at(shares_u[at]);
        at_v[at] = patch.v.at(shares_v[at]);
    }
    for (std::size_t at = 0; at < count; ++at) {
        WidePoint point;
        if constexpr (by_bays)
            point = patch.bays->at(shares_u[at], shares_v[at]);
        else
            point = wide_sums(patch, at_u[at], at_v[at]);
        if constexpr (rational) point = divided(point);
        points[at] = {place_in(point.here), place_in(point.along_u), place_in(point.along_v)};
    }
}

// Nothing where there is no normal to speak of.
template <bool rational, bool by_bays>
PLUME_WIDE std::optional<Vec3> wide_raised(const WidePatch& patch, double u, double v, double height) {
    const WidePoint point = wide_lanes<rational, by_bays>(patch, u, v);
    const Wide area = cross_of(point.along_u, point.along_v);
    const double square = square_of(area), size = square_of(point.along_u) + square_of(point.along_v);
    if (!(square > no_normal_below * size * size)) return {};
    return place_in(_mm256_fmadd_pd(area, _mm256_set1_pd(height / std::sqrt(square)), point.here));
}

// Calls use(rational, by_bays) with constants.
template <class Use>
auto with_sort(bool rational, bool by_bays, const Use& use) {
    using Yes = std::true_type;
    using No = std::false_type;
    if (rational) return by_bays ? use(Yes(), Yes()) : use(Yes(), No());
    return by_bays ? use(No(), Yes()) : use(No(), No());
}

PLUME_WIDE SurfaceBend wide_bend(const double* places, std::size_t poles_u, const SpanPolynomials& in_u,
                                 const SpanPolynomials& in_v, double u, double v) {
    return bend_of<3, 3>(places, poles_u, in_u.bends_at(u), 3, in_v.bends_at(v), 3);
}

bool is_wide_bicubic(const SplinePatch& patch) {
    return patch.u().degree == 3 && patch.v().degree == 3 && can_go_wide();
}

bool has_low_degrees(const SplinePatch& patch) {
    return std::max(patch.u().degree, patch.v().degree) <= SpanPolynomials::most_degree;
}

Vec3 normal_of(const SurfacePoint& here, const PatchEvaluator& patch, const SplineBasis& u_basis,
               const SplineBasis& v_basis, double u, double v) {
    const Vec3 area = cross(here.along_u, here.along_v);
    const double size = length(here.along_u) + length(here.along_v);
    if (length(area) > 1e-9 * size * size) return unit_or_zero(area);
    // At a tip one derivative is nothing, and just inside it points along the mixed one.
    const SurfaceBend bend = patch.bend_at(u, v);
    const bool no_u = length(here.along_u) < length(here.along_v);
    const bool at_end =
        no_u ? v > (v_basis.start() + v_basis.end()) / 2 : u > (u_basis.start() + u_basis.end()) / 2;
    const Vec3 tip = no_u ? cross(bend.bend_uv, here.along_v) : cross(here.along_u, bend.bend_uv);
    return unit_or_zero(at_end ? tip * -1 : tip);
}

}  // namespace

PatchEvaluator::PatchEvaluator(const SplinePatch& patch, std::size_t places)
    : patch_(patch),
      poles_u_(patch.u().pole_count()),
      rational_(patch.rational()),
      wide_(is_wide_bicubic(patch)),
      places_(4 * patch.x().size()) {
    if (has_low_degrees(patch)) polynomials_ = {SpanPolynomials(patch.u()), SpanPolynomials(patch.v())};
    for (std::size_t pole = 0; pole < patch.x().size(); ++pole) {
        const double weight = patch.rational() ? patch.weights()[pole] : 1;
        places_[4 * pole] = patch.x()[pole] * weight;
        places_[4 * pole + 1] = patch.y()[pole] * weight;
        places_[4 * pole + 2] = patch.z()[pole] * weight;
        places_[4 * pole + 3] = weight;
    }
    // Making a bay ready takes as long as three evaluations.
    constexpr std::size_t worth_it = 4, most_bays = 100'000;
    const std::size_t bays = wide_ ? polynomials_[0].span_count() * polynomials_[1].span_count() : 0;
    if (bays > 0 && bays <= most_bays && places / worth_it > bays)
        bays_ =
            std::make_shared<const BicubicBays>(polynomials_[0], polynomials_[1], places_.data(), poles_u_);
}

template <class Use>
auto PatchEvaluator::with_bases(double u, double v, const Use& use) const {
    if (polynomials_.empty()) return use(basis_bends_at(patch_.u(), u), basis_bends_at(patch_.v(), v));
    return use(polynomials_[0].bends_at(u), polynomials_[1].bends_at(v));
}

SurfacePoint PatchEvaluator::at(double u, double v) const {
    if (wide_) {
        const WidePatch patch{polynomials_[0], polynomials_[1], places_.data(), poles_u_, bays_.get()};
        return with_sort(rational_, bays_ != nullptr, [&](auto rational, auto by_bays) {
            return wide_point<rational(), by_bays()>(patch, u, v);
        });
    }
    const auto point = [&](const auto& at_u, const auto& at_v) {
        return point_at(places_.data(), poles_u_, at_u, patch_.u().degree, at_v, patch_.v().degree);
    };
    if (polynomials_.empty()) return point(basis_at(patch_.u(), u), basis_at(patch_.v(), v));
    return point(polynomials_[0].at(u), polynomials_[1].at(v));
}

void PatchEvaluator::at(std::span<const double> u, std::span<const double> v,
                        std::span<SurfacePoint> points) const {
    if (wide_) {
        const WidePatch patch{polynomials_[0], polynomials_[1], places_.data(), poles_u_, bays_.get()};
        return with_sort(rational_, bays_ != nullptr, [&](auto rational, auto by_bays) {
            for (std::size_t begin = 0; begin < u.size(); begin += block)
                wide_block<rational(), by_bays()>(patch, u.data() + begin, v.data() + begin,
                                                  std::min(block, u.size() - begin), points.data() + begin);
        });
    }
    for (std::size_t place = 0; place < u.size(); ++place)
        points[place] = at(u[place], v[place]);
}

std::vector<SurfacePoint> PatchEvaluator::at(std::span<const double> u, std::span<const double> v) const {
    std::vector<SurfacePoint> points(u.size());
    at(u, v, points);
    return points;
}

Vec3 PatchEvaluator::raised_at(double u, double v, double height) const {
    if (wide_) {
        const WidePatch patch{polynomials_[0], polynomials_[1], places_.data(), poles_u_, bays_.get()};
        const auto raised = with_sort(rational_, bays_ != nullptr, [&](auto rational, auto by_bays) {
            return wide_raised<rational(), by_bays()>(patch, u, v, height);
        });
        if (raised) return *raised;
    }
    const SurfacePoint here = at(u, v);
    return here.position + normal_of(here, *this, patch_.u(), patch_.v(), u, v) * height;
}

// Of the poles around the place alone: a patch may have a million.
SurfacePoint evaluate(const SplinePatch& patch, double u, double v) {
    BasisAt at_u = basis_at(patch.u(), u), at_v = basis_at(patch.v(), v);
    const auto count_u = static_cast<std::size_t>(patch.u().degree) + 1,
               count_v = static_cast<std::size_t>(patch.v().degree) + 1;
    std::vector<double> places;
    places.reserve(4 * count_u * count_v);
    for (std::size_t b = 0; b < count_v; ++b)
        for (std::size_t a = 0; a < count_u; ++a) {
            const std::size_t pole = at_u.first + a + patch.u().pole_count() * (at_v.first + b);
            const double weight = patch.rational() ? patch.weights()[pole] : 1;
            places.insert(places.end(), {patch.x()[pole] * weight, patch.y()[pole] * weight,
                                         patch.z()[pole] * weight, weight});
        }
    at_u.first = at_v.first = 0;
    return point_at(places.data(), count_u, at_u, patch.u().degree, at_v, patch.v().degree);
}

SurfaceBend PatchEvaluator::bend_at(double u, double v) const {
    if (wide_) return wide_bend(places_.data(), poles_u_, polynomials_[0], polynomials_[1], u, v);
    return with_bases(u, v, [&](const auto& in_u, const auto& in_v) {
        const auto p = static_cast<std::size_t>(patch_.u().degree),
                   q = static_cast<std::size_t>(patch_.v().degree);
        if (p == 3 && q == 3) return bend_of<3, 3>(places_.data(), poles_u_, in_u, p, in_v, q);
        return bend_of<0, 0>(places_.data(), poles_u_, in_u, p, in_v, q);
    });
}

double PatchEvaluator::field_at(std::size_t field, double u, double v) const {
    const Column& numbers = patch_.fields()[field].values;
    return with_bases(u, v, [&](const auto& in_u, const auto& in_v) {
        double sum = 0, weights = 0;
        for (std::size_t b = 0; b <= static_cast<std::size_t>(patch_.v().degree); ++b)
            for (std::size_t a = 0; a <= static_cast<std::size_t>(patch_.u().degree); ++a) {
                const std::size_t pole = in_u.at.first + a + poles_u_ * (in_v.at.first + b);
                const double share = in_u.at.values[a] * in_v.at.values[b] * places_[4 * pole + 3];
                sum += share * numbers[pole];
                weights += share;
            }
        return sum / weights;
    });
}

Vec3 normal_at(const PatchEvaluator& patch, const SplineBasis& u_basis, const SplineBasis& v_basis, double u,
               double v) {
    return normal_of(patch.at(u, v), patch, u_basis, v_basis, u, v);
}

}  // namespace plume
