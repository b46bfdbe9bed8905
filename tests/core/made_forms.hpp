#pragma once
// Forms that several tests are made of.

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/support.hpp"

namespace plume::test {

inline Mesh mesh_of_faces(const std::vector<Vec3>& vertices,
                          const std::vector<std::vector<std::uint32_t>>& faces) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (const Vec3 vertex : vertices) {
        x.push_back(vertex.x);
        y.push_back(vertex.y);
        z.push_back(vertex.z);
    }
    for (const auto& face : faces) {
        parts.corners.insert(parts.corners.end(), face.begin(), face.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *Mesh::make(std::move(parts));
}

inline SplineCurve polyline(std::vector<Vec3> corners, bool closed = false) {
    return *curve_through({std::move(corners), {}, {}, closed}, CurveShape::straight);
}

// The bodies "boxes" between the points "corners" of a block lattice of so many cells, of that size over all.
struct BoxCounts {
    int columns = 1, rows = 1, layers = 1;
};
inline StudyMaker boxes_of(BoxCounts counts, const char* width, const char* depth, const char* height) {
    StudyMaker maker;
    maker.add("lattice.block", "corners");
    maker.number("corners", "columns", std::to_string(counts.columns));
    maker.number("corners", "rows", std::to_string(counts.rows));
    maker.number("corners", "layers", std::to_string(counts.layers));
    maker.number("corners", "width", width)
        .number("corners", "depth", depth)
        .number("corners", "height", height);
    maker.add("body.cells", "boxes");
    maker.set("boxes", "points", ResultName{"corners"});
    return maker;
}

}  // namespace plume::test
