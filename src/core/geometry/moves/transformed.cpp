#include "core/geometry/moves/transformed.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/solids/bodies.hpp"

namespace plume {
namespace {

struct Coordinates {
    Column x, y, z;
};

template <class Map>
Coordinates mapped(const Column& x, const Column& y, const Column& z, Map map) {
    Doubles to_x(x.size()), to_y(x.size()), to_z(x.size());
    for (std::size_t index = 0; index < x.size(); ++index) {
        const Vec3 to = map(Vec3{x[index], y[index], z[index]});
        to_x[index] = to.x;
        to_y[index] = to.y;
        to_z[index] = to.z;
    }
    return {std::move(to_x), std::move(to_y), std::move(to_z)};
}

PointLattice moved_points(const PointLattice& points, const Affine& map) {
    Coordinates to = mapped(points.x(), points.y(), points.z(), [&](Vec3 p) { return map.at(p); });
    return points.moved(std::move(to.x), std::move(to.y), std::move(to.z));
}

Result<Value> moved(const PointLattice& points, const Affine& map) {
    return Value(moved_points(points, map));
}

Result<Value> moved(const FieldOnPoints& item, const Affine& map) {
    return Value(FieldOnPoints{moved_points(item.points, map), item.name});
}

Result<Value> moved(const DirectionsOnPoints& item, const Affine& map) {
    const Dimension dimension = item.points.field(item.name + "_x")->dimension;
    Coordinates to =
        mapped(item.part('x'), item.part('y'), item.part('z'), [&](Vec3 d) { return map.turned(d); });
    PointLattice points = moved_points(item.points, map)
                              .with_field({item.name + "_x", std::move(to.x), dimension})
                              .with_field({item.name + "_y", std::move(to.y), dimension})
                              .with_field({item.name + "_z", std::move(to.z), dimension});
    return Value(DirectionsOnPoints{std::move(points), item.name});
}

Result<Value> moved(const Attractors& attractors, const Affine& map) {
    std::vector<Attractor> items = attractors.items();
    for (Attractor& item : items) {
        item.position = map.at(item.position);
        if (!item.path) continue;
        std::vector<Vec3> path = *item.path;
        for (Vec3& corner : path)
            corner = map.at(corner);
        item.path = std::make_shared<const std::vector<Vec3>>(std::move(path));
    }
    return as_value(Attractors::make(std::move(items)));
}

Result<Value> moved(const Mesh& mesh, const Affine& map) {
    Coordinates to = mapped(mesh.x(), mesh.y(), mesh.z(), [&](Vec3 p) { return map.at(p); });
    Mesh::Parts parts = map.determinant() < 0 ? turned_over(mesh).parts() : mesh.parts();
    parts.x = std::move(to.x);
    parts.y = std::move(to.y);
    parts.z = std::move(to.z);
    return as_value(Mesh::make(std::move(parts)));
}

Result<Value> moved(const SurfaceSet& set, const Affine& map) {
    SurfaceSet result;
    for (const SplinePatch& patch : set.patches) {
        Coordinates to = mapped(patch.x(), patch.y(), patch.z(), [&](Vec3 p) { return map.at(p); });
        SplinePatch::Parts parts = patch.parts();
        parts.x = std::move(to.x);
        parts.y = std::move(to.y);
        parts.z = std::move(to.z);
        Result<SplinePatch> moved_patch = SplinePatch::make(std::move(parts));
        if (!moved_patch) return moved_patch.error();
        result.patches.push_back(*std::move(moved_patch));
    }
    return Value(std::move(result));
}

Result<Value> moved(const CurveSet& set, const Affine& map) {
    CurveSet result;
    for (const SplineCurve& curve : set.curves) {
        Coordinates to = mapped(curve.x(), curve.y(), curve.z(), [&](Vec3 p) { return map.at(p); });
        Result<SplineCurve> moved_curve =
            SplineCurve::make({curve.basis(), std::move(to.x), std::move(to.y), std::move(to.z),
                               curve.weights(), curve.fields()});
        if (!moved_curve) return moved_curve.error();
        result.curves.push_back(*std::move(moved_curve));
    }
    return Value(std::move(result));
}

Result<Value> moved(const Placements& all, const Affine& map) {
    std::vector<Placement> placements = all.placements();
    for (Placement& placement : placements)
        placement =
            placement_of(map.at(placement.origin), map.turned(placement.up), map.turned(placement.along));
    return as_value(Placements::make(all.origins(), std::move(placements), all.tree()));
}

// How much longer a distance becomes, at most.
double stretch_of(const Affine& map) {
    return std::sqrt(dot(map.x, map.x) + dot(map.y, map.y) + dot(map.z, map.z));
}

// Mirrored patches look inwards until they are turned over, which exact_body() sees to; meshes are turned
// over where they are moved, so that one beside patches is turned back to look as they do.
Result<Body> moved(const Body& body, const Affine& map) {
    std::optional<Mesh> mesh;
    if (body.mesh_besides()) {
        Result<Value> carried = moved(*body.mesh_besides(), map);
        if (!carried) return carried.error();
        mesh = std::get<Mesh>(*std::move(carried));
    }
    if (!body.exact()) return meshed_body(*std::move(mesh));
    Result<Value> boundary = moved(SurfaceSet{body.patches()}, map);
    if (!boundary) return boundary.error();
    if (mesh && map.determinant() < 0) mesh = turned_over(*mesh);
    return exact_body(std::get<SurfaceSet>(*std::move(boundary)).patches, Run(),
                      body.edges_within() * stretch_of(map), std::move(mesh));
}

Result<Value> moved(const SolidSet& set, const Affine& map) {
    SolidSet result{{}, set.fields, set.marks};
    for (const Body& body : set.bodies) {
        Result<Body> made = moved(body, map);
        if (!made) return made.error();
        result.bodies.push_back(*std::move(made));
    }
    return Value(std::move(result));
}

Result<Value> moved(const BarFrame& frame, const Affine& map) {
    return as_value(frame.with_nodes(moved_points(frame.nodes(), map)));
}

Result<Value> moved(const Quantity& quantity, const Affine& /*map*/) {
    return Value(quantity);
}

Result<Value> moved(const Delivery& delivery, const Affine& /*map*/) {
    return Value(delivery);
}

}  // namespace

Result<Value> transformed(const Value& value, const Affine& map) {
    return std::visit([&](const auto& item) { return moved(item, map); }, value);
}

std::vector<Kind> movable_kinds() {
    return {Kind::points, Kind::field, Kind::curves,     Kind::surface,    Kind::mesh,
            Kind::bodies, Kind::frame, Kind::placements, Kind::directions, Kind::attractors};
}

}  // namespace plume
