#pragma once
// CurveSet: B-spline curves; polylines are those of degree 1.
//
// One pole per entry of x, y, z and of every field, over knots as spline.hpp says. `weights` is empty for a
// polynomial curve; arcs are rational, and so are the fields along them. The basis' nodes are the parameters
// of the points the curve was made through; a closed curve's first point is not among them twice.

#include <memory>
#include <vector>

#include "core/data/spline.hpp"
#include "core/data/vec3.hpp"

namespace plume {

class SplineCurve {
public:
    struct Parts {
        SplineBasis basis;
        Column x, y, z;
        Column weights;
        std::vector<Field> fields;
    };

    // Checks degree (1 to 9), knots, weights and counts, and that poles are finite.
    static Result<SplineCurve> make(Parts parts);

    const SplineBasis& basis() const { return parts_->basis; }
    bool closed() const { return parts_->basis.closed; }
    const Column& x() const { return parts_->x; }
    const Column& y() const { return parts_->y; }
    const Column& z() const { return parts_->z; }
    bool rational() const { return parts_->weights.size() > 0; }
    const Column& weights() const { return parts_->weights; }
    double weight(std::size_t pole) const { return rational() ? weights()[pole] : 1; }
    const std::vector<Field>& fields() const { return parts_->fields; }
    Vec3 pole(std::size_t index) const { return {x()[index], y()[index], z()[index]}; }

private:
    explicit SplineCurve(std::shared_ptr<const Parts> parts) : parts_(std::move(parts)) {}
    std::shared_ptr<const Parts> parts_;
};

struct CurveSet {
    std::vector<SplineCurve> curves;
};

}  // namespace plume
