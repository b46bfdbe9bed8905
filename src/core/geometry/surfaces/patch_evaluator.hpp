#pragma once
// Single places of a patch, one after the other; sample_on() is quicker for grids. O(degree^2) each.

#include "core/data/surface_set.hpp"
#include "core/geometry/curves/span_polynomials.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"

namespace plume {

class PatchEvaluator {
public:
    explicit PatchEvaluator(const SplinePatch& patch);

    SurfacePoint at(double u, double v) const;
    SurfaceBend bend_at(double u, double v) const;
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
    // Weighted x, y, z and the weight of every pole, so that they are read in one go.
    std::vector<double> places_;
};

// The unit normal; where a rim is drawn together to a tip, the one its places have just inside.
Vec3 normal_at(const PatchEvaluator& patch, const SplineBasis& u_basis, const SplineBasis& v_basis, double u,
               double v);

}  // namespace plume
