#include "core/geometry/solids/extruded_body.hpp"

#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

// Where a rim turns by more, one wall ends and the next begins.
constexpr double least_corner_rad = 0.05;

SplinePatch moved(const SplinePatch& face, Vec3 way) {
    const auto column = [](const Column& values, double by) {
        Doubles moved(values.span().begin(), values.span().end());
        for (double& value : moved)
            value += by;
        return moved;
    };
    SplinePatch::Parts parts = face.parts();
    parts.x = column(face.x(), way.x);
    parts.y = column(face.y(), way.y);
    parts.z = column(face.z(), way.z);
    return *SplinePatch::make(std::move(parts));
}

}  // namespace

Result<Body> extruded(const SplinePatch& face, Vec3 way, const Run& run) {
    std::vector<SplinePatch> faces{reversed(face, 0), moved(face, way)};
    const std::vector<double> turns = trim_turns(face);
    for (std::size_t trim = 0; trim < face.trims().size(); ++trim) {
        // With the face to its left a wall looks outwards.
        const SplineCurve as_drawn = trim_in_space(face, face.trims()[trim]);
        const SplineCurve rim = turns[trim] > 0 ? as_drawn : reversed(as_drawn);
        for (const SplineCurve& side : cut_at_corners(rim, corners_of(rim, least_corner_rad))) {
            Result<SplinePatch> wall = extruded(side, way);
            if (!wall) return wall.error();
            faces.push_back(*std::move(wall));
        }
    }
    return exact_body(std::move(faces), run);
}

}  // namespace plume
