#pragma once
// Single places of a patch, one after the other; sample_on() is quicker for grids. O(degree^2) each.

#include <memory>
#include <span>

#include "core/base/on_lines.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/curves/span_polynomials.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"

namespace plume {

class BicubicBays;

class PatchEvaluator {
public:
    // Of so many places: where they are many, more is made ready.
    explicit PatchEvaluator(const SplinePatch& patch, std::size_t places = 0);

    SurfacePoint at(double u, double v) const;
    // At many places, which takes less time than one after the other; u and v of one length.
    std::vector<SurfacePoint> at(std::span<const double> u, std::span<const double> v) const;
    void at(std::span<const double> u, std::span<const double> v, std::span<SurfacePoint> points) const;
    SurfaceBend bend_at(double u, double v) const;
    // So far along the unit normal, as normal_at() says at tips.
    Vec3 raised_at(double u, double v, double height) const;
    // A field's number there.
    double field_at(std::size_t field, double u, double v) const;

private:
    template <class Use>
    auto with_bases(double u, double v, const Use& use) const;

    SplinePatch patch_;  // shares its poles
    std::size_t poles_u_ = 0;
    bool rational_ = false;
    bool wide_ = false;                         // bicubic, on a processor that adds four numbers at once
    std::vector<SpanPolynomials> polynomials_;  // of u and v, where both degrees are low
    std::shared_ptr<const BicubicBays> bays_;   // of a wide one for many places
    // Weighted x, y, z and the weight of every pole, so that they are read in one go.
    LinedDoubles places_;
};

// The unit normal; where a rim is drawn together to a tip, the one its places have just inside.
Vec3 normal_at(const PatchEvaluator& patch, const SplineBasis& u_basis, const SplineBasis& v_basis, double u,
               double v);

}  // namespace plume
