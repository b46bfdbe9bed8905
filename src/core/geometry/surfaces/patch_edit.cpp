#include "core/geometry/surfaces/patch_edit.hpp"

#include <cmath>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/curves/spline_system.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"

namespace plume {
namespace {

std::size_t width_of(const SplinePatch& patch) {
    return 4 + patch.fields().size();
}

// Poles as a basis blends them, as weighted_rows() of curves has them; u runs fastest.
Doubles rows_of(const SplinePatch& patch) {
    const std::size_t width = width_of(patch), poles = patch.x().size();
    Doubles rows(poles * width);
    for (std::size_t pole = 0; pole < poles; ++pole) {
        double* const row = rows.data() + pole * width;
        const double weight = patch.rational() ? patch.weights()[pole] : 1;
        row[0] = patch.x()[pole] * weight;
        row[1] = patch.y()[pole] * weight;
        row[2] = patch.z()[pole] * weight;
        row[3] = weight;
        for (std::size_t field = 0; field < patch.fields().size(); ++field)
            row[4 + field] = patch.fields()[field].values[pole] * weight;
    }
    return rows;
}

SplinePatch patch_of(SplineBasis u, SplineBasis v, Doubles rows, const SplinePatch& like,
                     std::vector<SplineCurve> trims) {
    const std::size_t width = width_of(like);
    if (like.rational()) divide_by_weights(rows, width);
    SplinePatch::Parts parts{std::move(u),
                             std::move(v),
                             channel_of(rows, width, 0),
                             channel_of(rows, width, 1),
                             channel_of(rows, width, 2),
                             {},
                             {},
                             std::move(trims)};
    if (like.rational()) parts.weights = channel_of(rows, width, 3);
    for (std::size_t field = 0; field < like.fields().size(); ++field)
        parts.fields.push_back(
            {like.fields()[field].name, channel_of(rows, width, 4 + field), like.fields()[field].dimension});
    return *SplinePatch::make(std::move(parts));
}

// Trims are curves in the plane of the parameters.
template <class Map>
std::vector<SplineCurve> mapped_trims(const SplinePatch& patch, const Map& map) {
    std::vector<SplineCurve> trims;
    for (const SplineCurve& trim : patch.trims()) {
        Doubles x(trim.x().size()), y(trim.x().size());
        for (std::size_t pole = 0; pole < x.size(); ++pole)
            std::tie(x[pole], y[pole]) = map(trim.x()[pole], trim.y()[pole]);
        trims.push_back(*SplineCurve::make(
            {trim.basis(), std::move(x), std::move(y), trim.z(), trim.weights(), trim.fields()}));
    }
    return trims;
}

}  // namespace

const SplineBasis& basis_along(const SplinePatch& patch, int direction) {
    return direction == 0 ? patch.u() : patch.v();
}

SplinePatch changed(const SplinePatch& patch, int direction, const SplineChange& change) {
    const std::size_t width = width_of(patch), count_u = patch.u().pole_count(),
                      count_v = patch.v().pole_count();
    if (direction == 1)
        return patch_of(patch.u(), change.basis, changed_rows(change, rows_of(patch), count_u * width), patch,
                        patch.trims());
    Doubles rows = changed_rows(change, transposed(rows_of(patch), count_u, count_v, width), count_v * width);
    return patch_of(change.basis, patch.v(), transposed(rows, count_v, change.basis.pole_count(), width),
                    patch, patch.trims());
}

SplinePatch closed_up(const SplinePatch& patch, int direction) {
    const SplineBasis& basis = basis_along(patch, direction);
    SplineChange change{closed_at_seam(basis), {}};
    const std::size_t round = basis.pole_count() - 1;  // the last one is the first again
    for (std::size_t pole = 0; pole < change.basis.pole_count(); ++pole)
        change.poles.push_back({pole % round, {1}});
    return changed(patch, direction, change);
}

SplinePatch part_of(const SplinePatch& patch, int direction, double from, double to) {
    return changed(patch, direction, part_of(basis_along(patch, direction), from, to));
}

SplinePatch reversed(const SplinePatch& patch, int direction) {
    const SplineBasis& basis = basis_along(patch, direction);
    const double ends = basis.start() + basis.end();
    SplinePatch turned = changed(patch, direction, reversed(basis));
    if (!patch.trimmed()) return turned;
    SplinePatch::Parts parts = turned.parts();
    parts.trims = mapped_trims(patch, [&](double u, double v) {
        return direction == 0 ? std::pair(ends - u, v) : std::pair(u, ends - v);
    });
    return *SplinePatch::make(std::move(parts));
}

SplinePatch swapped(const SplinePatch& patch) {
    return patch_of(
        patch.v(), patch.u(),
        transposed(rows_of(patch), patch.u().pole_count(), patch.v().pole_count(), width_of(patch)), patch,
        mapped_trims(patch, [](double u, double v) { return std::pair(v, u); }));
}

SplineCurve iso_curve(const SplinePatch& patch, int direction, double parameter) {
    if (direction == 1) return iso_curve(swapped(patch), 0, parameter);
    const BasisAt at = basis_at(patch.v(), parameter);
    const std::size_t row = patch.u().pole_count() * width_of(patch);
    const SplineChange one{{}, {{at.first, {at.values.begin(), at.values.begin() + patch.v().degree + 1}}}};
    Doubles numbers = changed_rows(one, rows_of(patch), row);
    const std::size_t width = width_of(patch);
    if (patch.rational()) divide_by_weights(numbers, width);
    SplineCurve::Parts parts{patch.u(),
                             channel_of(numbers, width, 0),
                             channel_of(numbers, width, 1),
                             channel_of(numbers, width, 2),
                             {},
                             {}};
    if (patch.rational()) parts.weights = channel_of(numbers, width, 3);
    for (std::size_t field = 0; field < patch.fields().size(); ++field)
        parts.fields.push_back({patch.fields()[field].name, channel_of(numbers, width, 4 + field),
                                patch.fields()[field].dimension});
    return *SplineCurve::make(std::move(parts));
}

Box poles_box(const SplinePatch& patch) {
    Box box;
    for (std::size_t pole = 0; pole < patch.x().size(); ++pole)
        box.include(Vec3{patch.x()[pole], patch.y()[pole], patch.z()[pole]});
    return box;
}

bool is_parallelogram(const SplinePatch& patch) {
    if (patch.u().degree != 1 || patch.v().degree != 1 || patch.x().size() != 4 || patch.rational())
        return false;
    const auto pole = [&](std::size_t index) {
        return Vec3{patch.x()[index], patch.y()[index], patch.z()[index]};
    };
    const Vec3 along = pole(1) - pole(0), across = pole(2) - pole(0);
    return length(pole(3) - pole(0) - along - across) <= 1e-12 * (length(along) + length(across));
}

SplineCurve trim_in_space(const SplinePatch& parallelogram, const SplineCurve& trim) {
    const SplineBasis &u = parallelogram.u(), &v = parallelogram.v();
    const auto pole = [&](std::size_t index) {
        return Vec3{parallelogram.x()[index], parallelogram.y()[index], parallelogram.z()[index]};
    };
    const Vec3 along = (pole(1) - pole(0)) * (1 / (u.end() - u.start())),
               across = (pole(2) - pole(0)) * (1 / (v.end() - v.start()));
    return *with_poles(
        trim, [&](Vec3 at) { return pole(0) + along * (at.x - u.start()) + across * (at.y - v.start()); });
}

}  // namespace plume
