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

// A form of what is curved alone, and for its faces and then its bodies: which part of the value each is,
// what it measures.
struct Curved {
    ExactForm form;
    std::vector<std::pair<std::size_t, ExactPartShape>> parts;
};

Result<Curved> curved_of(ExactForm whole, const Run& run) {
    Curved curved;
    for (std::size_t at = 0; at < whole.faces.size(); ++at) {
        ExactFace& face = whole.faces[at];
        if (is_faceted({face})) continue;
        const Result<PatchFigures> figures = figures_of(face.patch, {}, run);
        if (!figures) return figures.error();
        curved.parts.push_back({at, {{}, figures->area, 0}});
        curved.form.faces.push_back(std::move(face));
    }
    for (ExactBody& body : whole.bodies) {
        if (is_faceted(body.faces)) continue;
        curved.parts.push_back({body.item, {{}, body.area, body.volume}});
        curved.form.bodies.push_back(std::move(body));
    }
    return curved;
}

}  // namespace

Result<std::map<std::size_t, ExactPartShape>> exact_parts_of(const Value& value, double millimetres,
                                                             const char* name, const Run& run) {
    std::map<std::size_t, ExactPartShape> parts;
    Result<Curved> curved = curved_of(exact_form_of(value), run);
    if (!curved) return curved.error();
    if (curved->parts.empty()) return parts;
    const Result<const ExactWriter*> kernel = exact_writer(name);
    if (!kernel) return kernel.error();
    open_seams(curved->form);
    auto boundaries = (*kernel)->boundaries(curved->form, millimetres, run);
    if (!boundaries) return boundaries.error();
    for (std::size_t at = 0; at < curved->parts.size(); ++at) {
        auto& [number, part] = curved->parts[at];
        part.boundary = std::move((*boundaries)[at]);
        if (!part.boundary.faces.empty()) parts.emplace(number, std::move(part));
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
