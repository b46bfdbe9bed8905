#include "core/results/exact_form.hpp"

#include "core/geometry/parts/mesh_parts.hpp"
#include "core/results/written.hpp"

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

// What exact formats know no better than others.
ExactForm form_of(const Written& written) {
    ExactForm form;
    if (written.facets) form.facets.push_back(*written.facets);
    form.points = written.form == WrittenForm::points ? written.points : std::vector<Vec3>();
    for (const WrittenLine& line : written.lines) {
        std::vector<Vec3> places = line.places;
        if (line.closed) places.push_back(places.front());
        form.curves.push_back(polyline(places));
    }
    for (const auto& [from, to] : written.bars)
        form.curves.push_back(polyline({written.points[from], written.points[to]}));
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
    if (const auto* mesh = std::get_if<Mesh>(&value)) return facets_of(*mesh);
    if (const auto* set = std::get_if<SurfaceSet>(&value)) return {{}, {}, faces_of(set->patches), {}, {}};
    if (const auto* set = std::get_if<CurveSet>(&value)) return {{}, set->curves, {}, {}, {}};
    if (const auto* set = std::get_if<SolidSet>(&value)) return bodies_of(*set);
    return form_of(*written_of(value, 0, Run()));
}

}  // namespace plume
