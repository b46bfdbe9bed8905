#include "core/study/parts_within.hpp"

#include "core/geometry/curves/curve_nodes.hpp"
#include "core/geometry/surfaces/surface_nodes.hpp"

namespace plume {

std::size_t count_within(const Value& value, PartSort sort) {
    if (const auto* mesh = std::get_if<Mesh>(&value))
        return sort == PartSort::face ? mesh->face_count() : mesh->vertex_count();
    if (sort != PartSort::vertex) return 0;
    if (const auto* curves = std::get_if<CurveSet>(&value)) return node_count(*curves);
    const auto* surfaces = std::get_if<SurfaceSet>(&value);
    return surfaces ? node_count(*surfaces) : 0;
}

}  // namespace plume
