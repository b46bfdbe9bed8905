#include <cmath>

#include "core/data/place_text.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/solids/body_support.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Of the thickness: how true the offset face is.
constexpr double true_share = 1e-4;

// What a formula of the thickness reads at places of a surface or mesh.
FormulaSite site_at(const std::vector<Vec3>& places,
                    const std::vector<std::pair<Field, std::string>>& numbers) {
    FormulaSite site;
    site.domain.directions[0] = {places.size(), 0, 1, false};
    add_places(site, places, "the place");
    for (const auto& [field, help] : numbers)
        add_numbers(site, field.name, field.values, field.dimension, help);
    site.results.push_back({"", "the last line is the thickness", true, true});
    return site;
}

FormulaSite site_on(const OffsetGrid& grid) {
    const SplinePatch& patch = grid.patch;
    const std::size_t count = grid.places.size();
    Doubles u(count), v(count);
    const auto share = [](const SplineBasis& basis, double parameter) {
        return (parameter - basis.start()) / (basis.end() - basis.start());
    };
    for (std::size_t at = 0; at < count; ++at) {
        u[at] = share(patch.u(), grid.u[at % grid.u.size()]);
        v[at] = share(patch.v(), grid.v[at / grid.u.size()]);
    }
    std::vector<std::pair<Field, std::string>> numbers{
        {{"u", std::move(u), plain_number}, "share of the way along the surface, 0 to 1"},
        {{"v", std::move(v), plain_number}, "share of the way across it, 0 to 1"}};
    const PatchEvaluator evaluator(patch);
    for (std::size_t field = 0; field < patch.fields().size(); ++field) {
        Doubles values(count);
        for (std::size_t at = 0; at < count; ++at)
            values[at] = evaluator.field_at(field, grid.u[at % grid.u.size()], grid.v[at / grid.u.size()]);
        numbers.push_back({{patch.fields()[field].name, std::move(values), patch.fields()[field].dimension},
                           "number on the surface"});
    }
    return site_at(grid.places, numbers);
}

FormulaSite site_on(const Mesh& mesh) {
    std::vector<Vec3> places;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        places.push_back(mesh.vertex(vertex));
    std::vector<std::pair<Field, std::string>> numbers;
    for (const Field& field : mesh.fields())
        numbers.emplace_back(field, "number on the mesh");
    return site_at(places, numbers);
}

// A grid to show a formula over.
OffsetGrid shown_grid(const SplinePatch& patch) {
    constexpr std::size_t lines = 33;
    OffsetGrid grid{patch, {}, {}, {}};
    for (std::size_t at = 0; at < lines; ++at) {
        const double share = static_cast<double>(at) / (lines - 1);
        grid.u.push_back(std::lerp(patch.u().start(), patch.u().end(), share));
        grid.v.push_back(std::lerp(patch.v().start(), patch.v().end(), share));
    }
    const PatchEvaluator evaluator(patch);
    for (const double v : grid.v)
        for (const double u : grid.u)
            grid.places.push_back(evaluator.at(u, v).position);
    return grid;
}

Result<FormulaSite> site_of(const Inputs& in) {
    if (std::holds_alternative<Mesh>(in.value("surface"))) return site_on(in.held<Mesh>("surface"));
    const SurfaceSet& set = in.held<SurfaceSet>("surface");
    if (set.patches.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no surface", "Choose another."},
                          "surface");
    return site_on(shown_grid(set.patches.front()));
}

Result<Doubles> thicknesses(const Inputs& in, const FormulaSite& site, const Run& run) {
    Result<CheckedFormula> formula = checked_formula(in, site);
    if (!formula) return formula.error();
    auto made = computed(*formula, "", a_length, site, in, run);
    if (!made) return made.error();
    for (const double thickness : **made)
        if (!(thickness > 0) || !std::isfinite(thickness))
            return about_slot(Error{ErrorCode::out_of_range, "", "is not above 0 everywhere",
                                    "Add a least thickness to it, as in 20 mm + …"},
                              "formula");
    return **std::move(made);
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
        Result<Doubles> distances = thicknesses(in, site_on(grid), run);
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
void remark_folds(const Inputs& in, const SplinePatch& patch, const Run& run) {
    if (by_formula(in)) return;
    const auto [front, back] = shares_of(in);
    for (const auto& [share, side] : {std::pair{front, 1}, std::pair{back, -1}}) {
        const auto tightest = share > 0 ? tightest_on(patch, side) : std::nullopt;
        if (!tightest || tightest->radius > in.number("by") * share) continue;
        run.remark_loss("The face at the " + std::string(side > 0 ? "front" : "back") + " folds near " +
                        place_text(tightest->place, length(tightest->place), in.units()) +
                        ": the surface bends there with a radius of " + told(in, tightest->radius) +
                        ". Up to a thickness of " + told(in, tightest->radius / share) + " it does not.");
    }
}

Result<Value> of_surfaces(const SurfaceSet& set, const Inputs& in, const Run& run) {
    const auto [front, back] = shares_of(in);
    SolidSet bodies;
    double deviation = 0;
    for (std::size_t number = 0; number < set.patches.size(); ++number) {
        const SplinePatch& patch = set.patches[number];
        remark_folds(in, patch, run);
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
