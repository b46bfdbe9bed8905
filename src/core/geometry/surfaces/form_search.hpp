#pragma once
// The nearest place on whatever has a surface, on which side of it a point lies, and where a ray meets it.
//
// Exact patches are searched exactly (surface_search.hpp), meshes and bodies of meshes by their triangles.
// Where several faces are equally near, as at the edges of a body, their normals are weighed by the angles
// they have there (as in triangle_tree.hpp). About O(log n) a question. May be asked by many threads.

#include <memory>
#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/value.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"
#include "core/geometry/surfaces/surface_search.hpp"

namespace plume {

struct PlaceOnForm {
    double distance = Box::infinite;
    Vec3 place;
    Vec3 normal;  // of the nearest: unit, outwards of a closed form; zero where there is none
    const SurfaceSearch* patch = nullptr;  // that it lies on, at u and v
    double u = 0, v = 0;
};

class FormSearch {
public:
    // Of a surface, a mesh or bodies. Error: empty_input when it has no face; cancelled.
    static Result<FormSearch> make(const Value& form, const Run& run);

    // The diagonal around it.
    double size() const { return size_; }
    // Whether it bounds volumes: bodies, and meshes without an open edge.
    bool closed() const { return closed_; }

    PlaceOnForm nearest(Vec3 point) const;
    // Below 0 where the point is inside of a closed form; bodies that overlap count each for itself.
    double signed_distance(Vec3 point) const;
    // Where along a unit direction the first face is that lies further than `beyond`; without a normal.
    std::optional<PlaceOnForm> first_along(Vec3 from, Vec3 direction, double beyond) const;

private:
    FormSearch() : boxes_({}) {}

    std::vector<std::shared_ptr<const SurfaceSearch>> patches_;
    BoxTree boxes_;  // of the patches
    std::shared_ptr<const TriangleTree> triangles_;
    double size_ = 0;
    double edges_within_ = 0;
    bool closed_ = false;
};

}  // namespace plume
