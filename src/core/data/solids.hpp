#pragma once
// SolidSet: closed bodies.
//
// A body is bounded either by exact patches, of which each edge is also the edge of another one, or by a
// closed mesh, every edge of which belongs to two faces that run along it in opposite directions. Exact ones
// from elsewhere may have a closed mesh besides, which stands for them where triangles are wanted: samples of
// their patches alone would not meet. Outside is
// where normals (along_u x along_v; anticlockwise corners) point; a hollow is bounded by a shell of its own.
// The faces of a body are its patches; of a mesh its parts, which are runs of polygons, or its polygons where
// it has none. Made by geometry/solids/bodies.hpp, which checks that they are closed. Immutable.

#include <memory>
#include <optional>
#include <vector>

#include "core/data/mesh.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

struct BodyFigures {
    double volume = 0;  // above 0
    double area = 0;
    Vec3 centroid;  // of the volume
    // Integrals of x^2, y^2 and z^2 over the volume, from the centroid.
    Vec3 second;
};

class Body {
public:
    // Of patches, at least one; the mesh has a part for each of them.
    Body(std::vector<SplinePatch> patches, const BodyFigures& figures, double edges_within,
         std::optional<Mesh> mesh = {})
        : parts_(std::make_shared<const Parts>(
              Parts{std::move(patches), std::move(mesh), figures, edges_within})) {}
    Body(Mesh mesh, const BodyFigures& figures)
        : parts_(std::make_shared<const Parts>(Parts{{}, std::move(mesh), figures})) {}

    bool exact() const { return !parts_->patches.empty(); }
    const std::vector<SplinePatch>& patches() const { return parts_->patches; }  // of an exact one
    const Mesh& mesh() const { return *parts_->mesh; }                           // of one that is not
    // The one that an exact one came with, if any.
    const std::optional<Mesh>& mesh_besides() const { return parts_->mesh; }
    const BodyFigures& figures() const { return parts_->figures; }
    // How far edges of an exact one that are the same edge may stand apart.
    double edges_within() const { return parts_->edges_within; }
    std::size_t face_count() const {
        if (exact()) return patches().size();
        return mesh().part_count() > 1 ? mesh().part_count() : mesh().face_count();
    }

private:
    struct Parts {
        std::vector<SplinePatch> patches;
        std::optional<Mesh> mesh;
        BodyFigures figures;
        double edges_within = 0;
    };
    std::shared_ptr<const Parts> parts_;
};

struct SolidSet {
    std::vector<Body> bodies;
    std::vector<Field> fields = {};  // one number a body
    PartMarksPointer marks = {};     // nullptr: their numbers
};

// Its number where it has none.
std::string body_mark(const SolidSet& set, std::size_t body);

// The moments of a volume about the axes through its centroid along X, Y and Z.
Vec3 moments_of(const BodyFigures& figures);

// Of all bodies together; where they overlap twice.
BodyFigures figures_of(const SolidSet& set);

}  // namespace plume
