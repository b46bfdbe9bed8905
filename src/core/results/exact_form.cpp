#include "core/results/exact_form.hpp"

#include "core/base/overloaded.hpp"
#include "core/geometry/parts/mesh_parts.hpp"

namespace plume {
namespace {

ExactForm points_of(const PointLattice& lattice) {
    ExactForm form;
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (lattice.present(index)) form.points.push_back(lattice.point(index));
    return form;
}

ExactForm curves_of(const BarFrame& frame) {
    ExactForm form;
    for (const Member& member : frame.members()) {
        SplineCurve::Parts parts;
        const Vec3 a = frame.start(member), b = frame.end(member);
        parts.basis = {1, false, {0, 0, 1, 1}, {}};
        parts.x = Doubles{a.x, b.x};
        parts.y = Doubles{a.y, b.y};
        parts.z = Doubles{a.z, b.z};
        form.curves.push_back(*SplineCurve::make(std::move(parts)));
    }
    return form;
}

ExactForm points_of(const Attractors& attractors) {
    ExactForm form;
    form.points.reserve(attractors.items().size());
    for (const Attractor& item : attractors.items())
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
            form.bodies.push_back({faces_of(body.patches()), body.edges_within(), item});
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
    return std::visit(Overloaded{[](const PointLattice& lattice) { return points_of(lattice); },
                                 [](const FieldOnPoints& item) { return points_of(item.points); },
                                 [](const DirectionsOnPoints& item) { return points_of(item.points); },
                                 [](const Placements& item) { return points_of(item.origins()); },
                                 [](const Attractors& item) { return points_of(item); },
                                 [](const Mesh& mesh) { return facets_of(mesh); },
                                 [](const SurfaceSet& set) {
                                     return ExactForm{{}, {}, faces_of(set.patches), {}, {}};
                                 },
                                 [](const CurveSet& set) {
                                     return ExactForm{{}, set.curves, {}, {}, {}};
                                 },
                                 [](const SolidSet& set) { return bodies_of(set); },
                                 [](const BarFrame& frame) { return curves_of(frame); },
                                 [](const Quantity&) { return ExactForm{}; }},
                      value);
}

}  // namespace plume
