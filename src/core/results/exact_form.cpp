#include "core/results/exact_form.hpp"

#include "core/base/overloaded.hpp"
#include "core/geometry/parts/mesh_parts.hpp"

namespace plume {
namespace {

SplineCurve polyline(const std::vector<Vec3>& places) {
    SplineCurve::Parts parts;
    parts.basis.degree = 1;
    Doubles x, y, z;
    for (std::size_t at = 0; at < places.size(); ++at) {
        const bool end = at == 0 || at + 1 == places.size();
        parts.basis.knots.insert(parts.basis.knots.end(), end ? 2 : 1, static_cast<double>(at));
        x.push_back(places[at].x);
        y.push_back(places[at].y);
        z.push_back(places[at].z);
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *SplineCurve::make(std::move(parts));
}

ExactForm points_of(const PointLattice& lattice) {
    ExactForm form;
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (lattice.present(index)) form.points.push_back(lattice.point(index));
    return form;
}

ExactForm curves_of(const BarFrame& frame) {
    ExactForm form;
    for (const Member& member : frame.members()) {
        form.curves.push_back(polyline({frame.start(member), frame.end(member)}));
    }
    return form;
}

// Those along curves as the polylines that they are.
ExactForm form_of(const Attractors& attractors) {
    ExactForm form;
    for (const Attractor& item : attractors.items())
        if (item.path)
            form.curves.push_back(polyline(*item.path));
        else
            form.points.push_back(item.position);
    return form;
}

std::vector<ExactFace> faces_of(const std::vector<SplinePatch>& patches) {
    std::vector<ExactFace> faces;
    faces.reserve(patches.size());
    for (const SplinePatch& patch : patches)
        faces.push_back({patch, patch.trims()});
    return faces;
}

ExactForm bodies_of(const SolidSet& set) {
    ExactForm form;
    for (std::size_t item = 0; item < set.bodies.size(); ++item) {
        const Body& body = set.bodies[item];
        if (body.exact())
            form.bodies.push_back({faces_of(body.patches()), body.edges_within(), item, body.figures().area,
                                   body.figures().volume});
        else
            form.facets.push_back(body.mesh());
    }
    return form;
}

ExactForm facets_of(const Mesh& mesh) {
    ExactForm form;
    for (std::size_t part = 0; part < mesh.part_count(); ++part)
        form.facets.push_back(mesh.part_count() == 1 ? mesh : part_alone(mesh, part).mesh);
    return form;
}

}  // namespace

ExactForm exact_form_of(const Value& value) {
    return std::visit(
        Overloaded{[](const PointLattice& lattice) { return points_of(lattice); },
                   [](const FieldOnPoints& item) { return points_of(item.points); },
                   [](const DirectionsOnPoints& item) { return points_of(item.points); },
                   [](const Placements& item) { return points_of(item.origins()); },
                   [](const Attractors& item) { return form_of(item); },
                   [](const Mesh& mesh) { return facets_of(mesh); },
                   [](const SurfaceSet& set) {
                       return ExactForm{{}, {}, faces_of(set.patches), {}, {}};
                   },
                   [](const CurveSet& set) {
                       return ExactForm{{}, set.curves, {}, {}, {}};
                   },
                   [](const SolidSet& set) { return bodies_of(set); },
                   [](const BarFrame& frame) { return curves_of(frame); },
                   [](const Quantity&) { return ExactForm{}; }, [](const Delivery&) { return ExactForm{}; }},
        value);
}

}  // namespace plume
