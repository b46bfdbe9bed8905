#include "core/geometry/surfaces/form_search.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

struct Faces {
    std::vector<SplinePatch> patches;
    std::vector<Mesh> meshes;
    bool closed = false;
    double edges_within = 0;
};

Faces faces_of(const Value& form) {
    Faces faces;
    if (const auto* set = std::get_if<SurfaceSet>(&form)) faces.patches = set->patches;
    if (const auto* mesh = std::get_if<Mesh>(&form)) {
        faces.meshes.push_back(*mesh);
        faces.closed = is_closed(*mesh);
    }
    if (const auto* set = std::get_if<SolidSet>(&form))
        for (const Body& body : set->bodies) {
            faces.closed = true;
            faces.edges_within = std::max(faces.edges_within, body.edges_within());
            if (body.exact())
                faces.patches.insert(faces.patches.end(), body.patches().begin(), body.patches().end());
            else
                faces.meshes.push_back(body.mesh());
        }
    return faces;
}

// How much of the surface around a place is the patch: all around, a half along a rim, at a corner the angle
// between its rims.
double angle_at(const SurfaceSearch& search, const PlaceOnSurface& place) {
    const SplinePatch& patch = search.patch();
    const auto at_end = [](double at, const SplineBasis& basis) {
        const double slack = 1e-9 * (basis.end() - basis.start());
        return !basis.closed && (at < basis.start() + slack || at > basis.end() - slack);
    };
    const bool u = at_end(place.u, patch.u()), v = at_end(place.v, patch.v());
    if (!u && !v) return 2 * std::numbers::pi;
    if (u != v) return std::numbers::pi;
    const SurfacePoint here = evaluate(patch, place.u, place.v);
    const bool low_u = place.u < std::midpoint(patch.u().start(), patch.u().end()),
               low_v = place.v < std::midpoint(patch.v().start(), patch.v().end());
    const Vec3 along = here.along_u * (low_u ? 1 : -1), across = here.along_v * (low_v ? 1 : -1);
    return std::atan2(length(cross(along, across)), dot(along, across));
}

}  // namespace

Result<FormSearch> FormSearch::make(const Value& form, const Run& run) {
    const Faces faces = faces_of(form);
    FormSearch search;
    search.size_ = bounds_of(form).diagonal();
    search.closed_ = faces.closed;
    search.edges_within_ = faces.edges_within;
    std::vector<Box> boxes;
    for (const SplinePatch& patch : faces.patches) {
        if (run.cancelled()) return cancelled_error();
        search.patches_.push_back(std::make_shared<const SurfaceSearch>(patch));
        boxes.push_back(poles_box(patch));
    }
    search.boxes_ = BoxTree(boxes);
    Result<Mesh> mesh = joined(faces.meshes);
    if (!mesh) return mesh.error();
    search.triangles_ = std::make_shared<const TriangleTree>(
        *mesh, faces.closed ? TriangleNormals::weighed : TriangleNormals::plain);
    if (search.patches_.empty() && search.triangles_->empty())
        return Error{ErrorCode::empty_input, "", "has no face", "Choose another."};
    return search;
}

PlaceOnForm FormSearch::nearest(Vec3 point) const {
    PlaceOnForm best;
    if (const PlaceOnMesh found = triangles_->nearest(point); found.distance < best.distance) {
        best.distance = found.distance;
        best.place = found.place;
        best.normal = found.normal;
    }
    // Faces of a body meet as nearly as they were made to.
    const double equal = edges_within_ + 1e-9 * size_;
    Vec3 normal = best.normal;
    double limit = (best.distance + equal) * (best.distance + equal);
    boxes_.nearest(point, limit, [&](std::uint32_t place) {
        const SurfaceSearch& search = *patches_[boxes_.order()[place]];
        const PlaceOnSurface found = search.nearest(point);
        const double distance = std::abs(found.distance);
        if (distance > best.distance + equal) return limit;
        const bool nearer = distance < best.distance - equal;
        const Vec3 weighed = search.normal(found) * angle_at(search, found);
        normal = nearer ? weighed : normal + weighed;
        if (distance < best.distance) best = {distance, found.place, {}, &search, found.u, found.v};
        limit = (best.distance + equal) * (best.distance + equal);
        return limit;
    });
    best.normal = unit_or_zero(normal);
    return best;
}

double FormSearch::signed_distance(Vec3 point) const {
    const PlaceOnForm found = nearest(point);
    const bool inside = closed_ && dot(point - found.place, found.normal) < 0;
    return inside ? -found.distance : found.distance;
}

std::optional<PlaceOnForm> FormSearch::first_along(Vec3 from, Vec3 direction, double beyond) const {
    std::optional<PlaceOnForm> first;
    if (const auto met = triangles_->first_along(from, direction, beyond))
        first = PlaceOnForm{met->at, from + direction * met->at, {}};
    const auto limit = [&] { return first ? first->distance : Box::infinite; };
    boxes_.along(from, direction, beyond, limit(), [&](std::uint32_t place) {
        const SurfaceSearch& search = *patches_[boxes_.order()[place]];
        for (const PlaceOnSurface& met : search.along(from, direction)) {
            if (!(met.distance > beyond)) continue;
            if (met.distance < limit()) first = {met.distance, met.place, {}, &search, met.u, met.v};
            break;
        }
        return limit();
    });
    return first;
}

}  // namespace plume
