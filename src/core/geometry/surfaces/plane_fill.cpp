#include "core/geometry/surfaces/plane_fill.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/geometry/measures/bounds.hpp"

namespace plume {
namespace {

// Of its size: how flat a curve has to be, and how near the planes of two have to be to be one.
constexpr double flat_share = 1e-6;

struct FlatCurve {
    std::size_t number = 0;
    Outline outline;
    Placement plane;
    double size = 0;
    std::size_t depth = 0;
};

Vec3 rising(Vec3 normal) {
    for (const double part : {normal.z, normal.y, normal.x})
        if (std::abs(part) > 1e-9) return part > 0 ? normal : normal * -1;
    return normal;
}

double distance_from(const Placement& plane, const SplineCurve& curve) {
    double worst = 0;
    for (std::size_t pole = 0; pole < curve.x().size(); ++pole)
        worst = std::max(worst, std::abs(plane.to_local(curve.pole(pole)).z));
    return worst;
}

// Over the coordinates of a plane; what it stands off is left away.
SplineCurve flattened(const SplineCurve& curve, const Placement& plane) {
    const auto flat = [&](Vec3 pole) {
        const Vec3 local = plane.to_local(pole);
        return Vec3{local.x, local.y, 0};
    };
    return with_fields(*with_poles(curve, flat), {});
}

Result<SplinePatch> filled(const Placement& plane, std::vector<SplineCurve> trims) {
    const Box box = bounds_of(trims.front());
    SplinePatch::Parts parts;
    for (auto [basis, low, high] :
         {std::tuple{&parts.u, box.low.x, box.high.x}, std::tuple{&parts.v, box.low.y, box.high.y}}) {
        basis->degree = 1;
        basis->knots = {low, low, high, high};
    }
    Doubles x, y, z;
    for (const double v : {box.low.y, box.high.y})
        for (const double u : {box.low.x, box.high.x}) {
            const Vec3 corner = plane.to_world({u, v, 0});
            x.push_back(corner.x);
            y.push_back(corner.y);
            z.push_back(corner.z);
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.trims = std::move(trims);
    return SplinePatch::make(std::move(parts));
}

Error numbered(Error error, std::size_t number, std::size_t count) {
    if (count > 1) error.message = "has curve " + std::to_string(number) + ", which " + error.message;
    return error;
}

// In one plane, so that one can be a hole of the other.
bool share_plane(const FlatCurve& a, const CurveSet& set, const FlatCurve& b) {
    const double within = flat_share * std::max(a.size, b.size);
    return distance_from(a.plane, set.curves[b.number]) <= within;
}

bool contains(const FlatCurve& outer, const CurveSet& set, const FlatCurve& inner) {
    const SplineCurve& curve = set.curves[inner.number];
    return outer.outline.contains(start_of(curve));
}

}  // namespace

Result<std::vector<SplinePatch>> plane_fills(const CurveSet& outlines, const Run& run) {
    std::vector<FlatCurve> curves;
    const std::size_t count = outlines.curves.size();
    if (count == 0) return Error{ErrorCode::empty_input, "", "holds no curve", "Draw one."};
    for (std::size_t number = 0; number < count; ++number) {
        if (run.cancelled()) return cancelled_error();
        const SplineCurve& curve = outlines.curves[number];
        auto outline = Outline::make(curve);
        if (!outline) return numbered(outline.error(), number, count);
        const Placement& fit = outline->plane();
        const Placement plane = placement_of(fit.origin, rising(fit.up), fit.along);
        const double size = bounds_of(curve).diagonal();
        if (distance_from(plane, curve) > flat_share * size)
            return numbered({ErrorCode::unlike_arrangement, "", "is not flat", "Lay it onto a plane."},
                            number, count);
        curves.push_back({number, *std::move(outline), plane, size});
    }
    std::vector<std::vector<std::size_t>> around(count);
    for (std::size_t inner = 0; inner < count; ++inner)
        for (std::size_t outer = 0; outer < count; ++outer)
            if (inner != outer && curves[outer].size > curves[inner].size &&
                share_plane(curves[outer], outlines, curves[inner]) &&
                contains(curves[outer], outlines, curves[inner]))
                around[inner].push_back(outer);
    std::vector<SplinePatch> fills;
    for (std::size_t outer = 0; outer < count; ++outer) {
        if (around[outer].size() % 2 == 1) continue;
        const Placement& plane = curves[outer].plane;
        std::vector<SplineCurve> trims{flattened(outlines.curves[outer], plane)};
        for (std::size_t inner = 0; inner < count; ++inner)
            if (around[inner].size() == around[outer].size() + 1 &&
                std::ranges::find(around[inner], outer) != around[inner].end())
                trims.push_back(flattened(outlines.curves[inner], plane));
        Result<SplinePatch> fill = filled(plane, std::move(trims));
        if (!fill) return fill.error();
        fills.push_back(*std::move(fill));
    }
    return fills;
}

}  // namespace plume
