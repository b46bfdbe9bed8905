#include <algorithm>
#include <cmath>

#include "core/data/place_text.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/bending.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/solids/body_support.hpp"
#include "core/steps/surfaces/surface_formula.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Of the thickness: how true the offset face is.
constexpr double true_share = 1e-4;

constexpr const char* gives = "the thickness";

FormulaSite site_on(const Mesh& mesh) {
    std::vector<Vec3> places;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        places.push_back(mesh.vertex(vertex));
    std::vector<std::pair<Field, std::string>> numbers;
    for (const Field& field : mesh.fields())
        numbers.emplace_back(field, "number on the mesh");
    return site_at_places(places, numbers, gives);
}

Result<FormulaSite> site_of(const Inputs& in) {
    if (std::holds_alternative<Mesh>(in.value("surface"))) return site_on(in.held<Mesh>("surface"));
    return site_on_first_patch(in, gives);
}

Result<Doubles> thicknesses(const Inputs& in, const FormulaSite& site, const Run& run) {
    Result<Doubles> made = numbers_by_formula(in, site, a_length, run);
    if (!made) return made;
    for (const double thickness : *made)
        if (!(thickness > 0) || !std::isfinite(thickness))
            return about_slot(Error{ErrorCode::out_of_range, "", "is not above 0 everywhere",
                                    "Add a least thickness to it, as in 20 mm + …"},
                              "formula");
    return made;
}

bool by_formula(const Inputs& in) {
    return in.word("thickness") == "formula";
}

// Shares of the thickness before and behind the surface.
std::pair<double, double> shares_of(const Inputs& in) {
    const std::string& side = in.word("side");
    if (side == "front") return {1, 0};
    return side == "back" ? std::pair{0.0, 1.0} : std::pair{0.5, 0.5};
}

OffsetBy distance_of(const Inputs& in, double share, const Run& run) {
    if (!by_formula(in)) return offset_by(in.number("by") * share);
    return [&in, share, &run](const OffsetGrid& grid) -> Result<Doubles> {
        Result<Doubles> distances = thicknesses(in, site_on_grid(grid, gives), run);
        if (distances)
            for (double& distance : *distances)
                distance *= share;
        return distances;
    };
}

std::string told(const Inputs& in, double value) {
    return quantity_text({value, a_length}, in.units(), 3);
}

// Where the surface bends more tightly than it is thick, the offset face folds.
bool remark_folds(const Inputs& in, const SplinePatch& patch, const Run& run) {
    if (by_formula(in)) return false;
    bool folds = false;
    const auto [front, back] = shares_of(in);
    for (const auto& [share, side] : {std::pair{front, 1}, std::pair{back, -1}}) {
        const auto tightest = share > 0 ? tightest_on(patch, side) : std::nullopt;
        if (!tightest || tightest->radius > in.number("by") * share) continue;
        folds = true;
        run.remark_loss("The face at the " + std::string(side > 0 ? "front" : "back") + " folds near " +
                        place_text(tightest->place, length(tightest->place), in.units()) +
                        ": the surface bends there with a radius of " + told(in, tightest->radius) +
                        ". Up to a thickness of " + told(in, tightest->radius / share) +
                        " it does not. The number fold is above 1 there.");
    }
    return folds;
}

// With a number to colour it by: the thickness on either side as a share of the radius it bends with there.
SplinePatch with_folds(const Inputs& in, const SplinePatch& patch) {
    const auto [front, back] = shares_of(in);
    const double by = in.number("by");
    const PatchEvaluator evaluator(patch);
    Doubles folds;
    for (const double v : knot_means(patch.v()))
        for (const double u : knot_means(patch.u())) {
            const Bending curvatures = bending_of(evaluator.bend_at(u, v));
            folds.push_back(std::max({0.0, by * front * curvatures.most(), -by * back * curvatures.least()}));
        }
    SplinePatch::Parts parts = patch.parts();
    std::erase_if(parts.fields, [](const Field& field) { return field.name == "fold"; });
    parts.fields.push_back({"fold", std::move(folds), plain_number});
    return *SplinePatch::make(std::move(parts));
}

Result<Value> of_surfaces(const SurfaceSet& set, const Inputs& in, const Run& run) {
    const auto [front, back] = shares_of(in);
    SolidSet bodies;
    double deviation = 0;
    for (std::size_t number = 0; number < set.patches.size(); ++number) {
        const bool folds = remark_folds(in, set.patches[number], run);
        const SplinePatch patch = folds ? with_folds(in, set.patches[number]) : set.patches[number];
        Thickness thickness;
        if (front > 0) thickness.front = distance_of(in, front, run);
        if (back > 0) thickness.back = distance_of(in, back, run);
        const double least = by_formula(in) ? 0 : in.number("by");
        const double tolerance =
            true_share * (least > 0 ? least * std::max(front, back) : 1e-3 * bounds_of(patch).diagonal());
        Result<Thickened> made = thickened(patch, thickness, tolerance, run);
        if (!made) return about_slot(at_body(made.error(), number, set.patches.size()), "surface");
        deviation = std::max(deviation, made->deviation);
        bodies.bodies.push_back(std::move(made->body));
    }
    const double told_from = 1e-9 * bounds_of(Value(bodies)).diagonal();
    if (deviation > told_from) run.remark(deviation_sentence(deviation, in));
    return some_bodies(std::move(bodies), "surface", "holds no surface");
}

Result<Value> of_mesh(const Mesh& mesh, const Inputs& in, const Run& run) {
    if (mesh.face_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "has no faces", "Choose another."}, "surface");
    Doubles by(mesh.vertex_count(), by_formula(in) ? 0 : in.number("by"));
    if (by_formula(in)) {
        Result<Doubles> formula = thicknesses(in, site_on(mesh), run);
        if (!formula) return formula.error();
        by = *std::move(formula);
    }
    const auto [front, back] = shares_of(in);
    const auto times = [&](double share) {
        Doubles result(by.size());
        for (std::size_t at = 0; at < by.size(); ++at)
            result[at] = by[at] * share;
        return result;
    };
    Result<Body> body = thickened(mesh, times(front), times(back), run);
    if (!body) return about_slot(body.error(), "surface");
    return Value(SolidSet{{*std::move(body)}});
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Value& thing = in.value("surface");
    if (const auto* mesh = std::get_if<Mesh>(&thing)) return of_mesh(*mesh, in, run);
    return of_surfaces(in.held<SurfaceSet>("surface"), in, run);
}

Estimate estimate(const Inputs& in) {
    if (const auto* mesh = std::get_if<Mesh>(&in.value("surface"))) {
        const auto vertices = static_cast<double>(mesh->vertex_count()),
                   corners = static_cast<double>(mesh->corner_count());
        return {vertices * 48 + corners * 12, corners * 3e-7};
    }
    // Faces have more poles than the surface, and are looked at on three grids.
    return surface_poles_estimate(in, 360, 3e-6);
}

}  // namespace

StepKind thicken_surface() {
    return {
        .key = "body.thicken",
        .verb = "Thicken a surface",
        .synonyms = "shell slab plate solid body offset wall thickness sheet",
        .sentence =
            "Thicken {surface} {thickness}[thickness=even| by {by}][thickness=formula| by {formula}], "
            "{side}.",
        .slots = {reference_slot("surface", "Surface", {Kind::surface, Kind::mesh}),
                  choice_slot("thickness", "Thickness",
                              {{"even", "evenly", "the same thickness everywhere"},
                               {"formula", "unevenly", "by a formula of the place"}}),
                  length_above_zero_slot("by", "By", "180 mm"),
                  formula_slot("formula", formula_label, "100 mm + 80 mm * sin(180° * u)"),
                  choice_slot("side", "Side",
                              {{"both", "half to either side", ""},
                               {"front", "to its front", "where its normals point"},
                               {"back", "to its back", "against its normals"}})},
        .results = {Kind::bodies},
        .result_name = "shell",
        .help =
            "A closed body between a surface and another one at a distance from it, along its normals; one "
            "for "
            "each surface. The surface itself and its rims stay exact, the other face is true to a ten "
            "thousandth of the thickness. A formula reads x, y, z, the shares u and v and the surface's "
            "numbers. Where the surface bends too tightly for it, that is said below.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
