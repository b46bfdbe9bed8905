#pragma once
// SurfaceSet: tensor-product B-spline patches (Piegl & Tiller, The NURBS Book, 2nd ed. 1997, ch. 3-4).
//
// Layout. Pole (a, b) is at index a + pole_count_u * b. knots_u has pole_count_u + degree_u + 1
// non-decreasing entries; the patch is defined for u in [knots_u[degree_u], knots_u[pole_count_u]]. A closed
// direction repeats its first `degree` poles at the end over periodic knots, so that evaluating needs no
// special case. `weights` is empty for a polynomial patch. Fields are splines over the same knots: their
// columns hold one pole per surface pole.

#include <memory>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/box.hpp"
#include "core/data/column.hpp"

namespace plume {

struct SplineBasis {
    int degree = 3;
    bool closed = false;
    std::vector<double> knots;
    std::vector<double> nodes;  // the parameters of the points it was interpolated through; may be empty

    std::size_t pole_count() const { return knots.size() - static_cast<std::size_t>(degree) - 1; }
    double start() const { return knots[static_cast<std::size_t>(degree)]; }
    double end() const { return knots[pole_count()]; }
};

// Degree from 1 to 9, finite knots that do not step back, a domain of positive length; broken_invariant at
// `whose` otherwise.
Status check_basis(const SplineBasis& basis, const std::string& whose);

class SplinePatch {
public:
    struct Parts {
        SplineBasis u, v;
        Column x, y, z;
        Column weights;
        std::vector<Field> fields;
    };

    // Checks degrees (1 to 9), knots (finite, non-decreasing, a domain of positive length) and counts.
    static Result<SplinePatch> make(Parts parts);

    const SplineBasis& u() const { return parts_->u; }
    const SplineBasis& v() const { return parts_->v; }
    const Column& x() const { return parts_->x; }
    const Column& y() const { return parts_->y; }
    const Column& z() const { return parts_->z; }
    bool rational() const { return parts_->weights.size() > 0; }
    const Column& weights() const { return parts_->weights; }
    const std::vector<Field>& fields() const { return parts_->fields; }

private:
    explicit SplinePatch(std::shared_ptr<const Parts> parts) : parts_(std::move(parts)) {}
    std::shared_ptr<const Parts> parts_;
};

struct SurfaceSet {
    std::vector<SplinePatch> patches;
};

}  // namespace plume
