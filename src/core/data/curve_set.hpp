#pragma once
// CurveSet: B-spline curves; polylines are those of degree 1.
//
// Layout as of surfaces (surface_set.hpp): one pole per entry of x, y, z and of every field; a closed curve
// repeats its first `degree` poles at the end over periodic knots. The basis' nodes are the parameters of the
// points the curve was made through; a closed curve's first point is not among them twice.

#include <memory>
#include <vector>

#include "core/data/surface_set.hpp"

namespace plume {

class SplineCurve {
public:
    struct Parts {
        SplineBasis basis;
        Column x, y, z;
        std::vector<Field> fields;
    };

    // Checks degree (1 to 9), knots and counts, and that poles are finite.
    static Result<SplineCurve> make(Parts parts);

    const SplineBasis& basis() const { return parts_->basis; }
    bool closed() const { return parts_->basis.closed; }
    const Column& x() const { return parts_->x; }
    const Column& y() const { return parts_->y; }
    const Column& z() const { return parts_->z; }
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
