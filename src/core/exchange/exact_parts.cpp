#include "core/exchange/exact_parts.hpp"

#include "core/exchange/exact_kernel.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

// Facets are then exact.
bool is_faceted(const std::vector<ExactFace>& faces) {
    return std::ranges::all_of(faces, [](const ExactFace& face) {
        return is_flat(face.patch.parts()) && std::ranges::all_of(face.trims, [](const SplineCurve& trim) {
                   return trim.basis().degree == 1;
               });
    });
}

Status measure(const std::vector<ExactFace>& faces, bool closed, const Run& run, ExactPartShape& part) {
    for (const ExactFace& face : faces) {
        const Result<PatchFigures> figures = figures_of(face.patch, {}, run);
        if (!figures) return figures.error();
        part.area += figures->area;
        part.volume += closed ? figures->volume : 0;
    }
    return Done{};
}

// Which parts of the value a form has, and the faces of each.
struct Curved {
    ExactForm form;
    std::vector<std::size_t> parts;
    std::vector<std::vector<ExactFace>> faces;
};

Curved curved_of(ExactForm whole) {
    Curved curved;
    for (std::size_t at = 0; at < whole.faces.size(); ++at) {
        if (is_faceted({whole.faces[at]})) continue;
        curved.parts.push_back(at);
        curved.faces.push_back({whole.faces[at]});
        curved.form.faces.push_back(std::move(whole.faces[at]));
    }
    for (ExactBody& body : whole.bodies) {
        if (is_faceted(body.faces)) continue;
        curved.parts.push_back(body.item);
        curved.faces.push_back(body.faces);
        curved.form.bodies.push_back(std::move(body));
    }
    return curved;
}

}  // namespace

Result<std::map<std::size_t, ExactPartShape>> exact_parts_of(const Value& value, double millimetres,
                                                             const char* name, const Run& run) {
    std::map<std::size_t, ExactPartShape> parts;
    Curved curved = curved_of(exact_form_of(value));
    if (curved.parts.empty()) return parts;
    const Result<const ExactWriter*> kernel = exact_writer(name);
    if (!kernel) return kernel.error();
    open_seams(curved.form);
    auto boundaries = (*kernel)->boundaries(curved.form, millimetres, run);
    if (!boundaries) return boundaries.error();
    for (std::size_t at = 0; at < curved.parts.size(); ++at) {
        ExactPartShape part{std::move((*boundaries)[at])};
        if (part.boundary.faces.empty()) continue;
        if (Status measured = measure(curved.faces[at], part.boundary.closed, run, part); !measured)
            return measured.error();
        parts.emplace(curved.parts[at], std::move(part));
    }
    return parts;
}

bool is_flat(const SplinePatch::Parts& patch) {
    if (patch.x.size() != 4 || patch.weights.size() > 0) return false;
    const auto pole = [&](std::size_t at) { return Vec3{patch.x[at], patch.y[at], patch.z[at]}; };
    const Vec3 u = pole(1) - pole(0), v = pole(2) - pole(0), across = pole(3) - pole(0), normal = cross(u, v);
    const double size = length(across) + length(u) + length(v);
    return length(normal) > 1e-9 * size * size &&
           std::abs(dot(across, normal)) <= 1e-9 * size * length(normal);
}

}  // namespace plume
