#include "core/geometry/surfaces/patch_evaluator.hpp"

#include <array>
#include <cmath>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

struct Homogeneous {
    Vec3 place;
    double weight = 0;
};

// The sum over the poles around a place.
Homogeneous blended(const std::vector<double>& places, std::size_t poles_u, const BasisAt& u, int degree_u,
                    const BasisAt& v, int degree_v, const double* shares_u, const double* shares_v) {
    // In the order of sample_on(), so that both give the same digits.
    double x = 0, y = 0, z = 0, w = 0;
    for (std::size_t a = 0; a <= static_cast<std::size_t>(degree_u); ++a) {
        const double* pole = places.data() + 4 * (u.first + a + poles_u * v.first);
        double column_x = 0, column_y = 0, column_z = 0, column_w = 0;
        for (std::size_t b = 0; b <= static_cast<std::size_t>(degree_v); ++b, pole += 4 * poles_u) {
            column_x += shares_v[b] * pole[0];
            column_y += shares_v[b] * pole[1];
            column_z += shares_v[b] * pole[2];
            column_w += shares_v[b] * pole[3];
        }
        x += shares_u[a] * column_x;
        y += shares_u[a] * column_y;
        z += shares_u[a] * column_z;
        w += shares_u[a] * column_w;
    }
    return {{x, y, z}, w};
}

// Sums of places and their weights, in lanes that the compiler adds side by side.
struct Lanes {
    std::array<double, 4> of{};
    void add(double share, const double* pole) {
        for (std::size_t lane = 0; lane < 4; ++lane)
            of[lane] += share * pole[lane];
    }
    Vec3 place() const { return {of[0], of[1], of[2]}; }
};

// The place and both derivatives in one pass over the poles.
template <std::size_t known_u, std::size_t known_v>
SurfacePoint point_of(const double* places, std::size_t poles_u, const BasisAt& u, std::size_t degree_u,
                      const BasisAt& v, std::size_t degree_v) {
    const std::size_t p = known_u > 0 ? known_u : degree_u, q = known_v > 0 ? known_v : degree_v;
    Lanes here, along_u, along_v;
    for (std::size_t a = 0; a <= p; ++a) {
        const double* pole = places + 4 * (u.first + a + poles_u * v.first);
        Lanes column, slope;
        for (std::size_t b = 0; b <= q; ++b, pole += 4 * poles_u) {
            column.add(v.values[b], pole);
            slope.add(v.slopes[b], pole);
        }
        here.add(u.values[a], column.of.data());
        along_u.add(u.slopes[a], column.of.data());
        along_v.add(u.values[a], slope.of.data());
    }
    const double scale = 1 / here.of[3];
    const Vec3 place = here.place() * scale;
    return {place, (along_u.place() - place * along_u.of[3]) * scale,
            (along_v.place() - place * along_v.of[3]) * scale};
}

SurfacePoint point_at(const std::vector<double>& places, std::size_t poles_u, const BasisAt& at_u,
                      int degree_u, const BasisAt& at_v, int degree_v) {
    const auto p = static_cast<std::size_t>(degree_u), q = static_cast<std::size_t>(degree_v);
    if (p == 3 && q == 3) return point_of<3, 3>(places.data(), poles_u, at_u, p, at_v, q);
    return point_of<0, 0>(places.data(), poles_u, at_u, p, at_v, q);
}

}  // namespace

PatchEvaluator::PatchEvaluator(const SplinePatch& patch) : patch_(patch), places_(4 * patch.x().size()) {
    for (std::size_t pole = 0; pole < patch.x().size(); ++pole) {
        const double weight = patch.rational() ? patch.weights()[pole] : 1;
        places_[4 * pole] = patch.x()[pole] * weight;
        places_[4 * pole + 1] = patch.y()[pole] * weight;
        places_[4 * pole + 2] = patch.z()[pole] * weight;
        places_[4 * pole + 3] = weight;
    }
}

SurfacePoint PatchEvaluator::at(double u, double v) const {
    return point_at(places_, patch_.u().pole_count(), basis_at(patch_.u(), u), patch_.u().degree,
                    basis_at(patch_.v(), v), patch_.v().degree);
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
    return point_at(places, count_u, at_u, patch.u().degree, at_v, patch.v().degree);
}

SurfaceBend PatchEvaluator::bend_at(double u, double v) const {
    const BasisBends in_u = basis_bends_at(patch_.u(), u), in_v = basis_bends_at(patch_.v(), v);
    const auto sum = [&](const auto& shares_u, const auto& shares_v) {
        return blended(places_, patch_.u().pole_count(), in_u.at, patch_.u().degree, in_v.at,
                       patch_.v().degree, shares_u.data(), shares_v.data());
    };
    const Homogeneous here = sum(in_u.at.values, in_v.at.values);
    const Homogeneous du = sum(in_u.at.slopes, in_v.at.values), dv = sum(in_u.at.values, in_v.at.slopes);
    const Homogeneous duu = sum(in_u.bends, in_v.at.values), duv = sum(in_u.at.slopes, in_v.at.slopes),
                      dvv = sum(in_u.at.values, in_v.bends);
    const double scale = 1 / here.weight;
    SurfaceBend bend;
    Vec3& place = bend.point.position;
    Vec3 &along_u = bend.point.along_u, &along_v = bend.point.along_v;
    place = here.place * scale;
    along_u = (du.place - place * du.weight) * scale;
    along_v = (dv.place - place * dv.weight) * scale;
    // Quotient rule once more (The NURBS Book, eq. 4.20).
    bend.bend_uu = (duu.place - along_u * (2 * du.weight) - place * duu.weight) * scale;
    bend.bend_uv = (duv.place - along_u * dv.weight - along_v * du.weight - place * duv.weight) * scale;
    bend.bend_vv = (dvv.place - along_v * (2 * dv.weight) - place * dvv.weight) * scale;
    return bend;
}

double PatchEvaluator::field_at(std::size_t field, double u, double v) const {
    const BasisAt at_u = basis_at(patch_.u(), u), at_v = basis_at(patch_.v(), v);
    const Column& numbers = patch_.fields()[field].values;
    double sum = 0, weights = 0;
    for (std::size_t b = 0; b <= static_cast<std::size_t>(patch_.v().degree); ++b)
        for (std::size_t a = 0; a <= static_cast<std::size_t>(patch_.u().degree); ++a) {
            const std::size_t pole = at_u.first + a + patch_.u().pole_count() * (at_v.first + b);
            const double share = at_u.values[a] * at_v.values[b] * places_[4 * pole + 3];
            sum += share * numbers[pole];
            weights += share;
        }
    return sum / weights;
}

Curvatures curvatures_of(const SurfaceBend& bend) {
    const Vec3 &u = bend.point.along_u, &v = bend.point.along_v;
    const Vec3 normal = unit_or_zero(cross(u, v));
    // First and second fundamental form (do Carmo, Differential Geometry of Curves and Surfaces, ch. 3.3).
    const double e = dot(u, u), f = dot(u, v), g = dot(v, v);
    const double l = dot(bend.bend_uu, normal), m = dot(bend.bend_uv, normal), n = dot(bend.bend_vv, normal);
    const double area = e * g - f * f;
    if (!(area > 0) || !std::isfinite(area)) return {};
    const double mean = (e * n - 2 * f * m + g * l) / (2 * area), gauss = (l * n - m * m) / area;
    const double apart = std::sqrt(std::max(0.0, mean * mean - gauss));
    return {mean - apart, mean + apart};
}

Vec3 normal_at(const PatchEvaluator& patch, const SplineBasis& u_basis, const SplineBasis& v_basis, double u,
               double v) {
    const SurfacePoint here = patch.at(u, v);
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

}  // namespace plume
