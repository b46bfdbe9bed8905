#pragma once
// SurfaceSet: tensor-product B-spline patches (Piegl & Tiller, The NURBS Book, 2nd ed. 1997, ch. 3-4).
//
// Layout. Pole (a, b) is at index a + pole_count_u * b; knots and closed directions as spline.hpp says.
// `weights` is empty for a polynomial patch. Fields are splines over the same knots: their columns hold one
// pole per surface pole.
//
// Trims are closed curves over the parameters, (u, v) as their (x, y): of the patch only what lies inside of
// an odd number of them is there. The first one is the outermost; none at all: the patch is whole.

#include <memory>
#include <vector>

#include "core/data/box.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/spline.hpp"

namespace plume {

class SplinePatch {
public:
    struct Parts {
        SplineBasis u, v;
        Column x, y, z;
        Column weights;
        std::vector<Field> fields;
        std::vector<SplineCurve> trims = {};
    };

    // Checks degrees (1 to 9), knots (finite, non-decreasing, a domain of positive length), counts and that
    // trims are closed.
    static Result<SplinePatch> make(Parts parts);

    const SplineBasis& u() const { return parts_->u; }
    const SplineBasis& v() const { return parts_->v; }
    const Column& x() const { return parts_->x; }
    const Column& y() const { return parts_->y; }
    const Column& z() const { return parts_->z; }
    bool rational() const { return parts_->weights.size() > 0; }
    const Column& weights() const { return parts_->weights; }
    const std::vector<Field>& fields() const { return parts_->fields; }
    bool trimmed() const { return !parts_->trims.empty(); }
    const std::vector<SplineCurve>& trims() const { return parts_->trims; }
    const Parts& parts() const { return *parts_; }

private:
    explicit SplinePatch(std::shared_ptr<const Parts> parts) : parts_(std::move(parts)) {}
    std::shared_ptr<const Parts> parts_;
};

struct SurfaceSet {
    std::vector<SplinePatch> patches;
};

}  // namespace plume
