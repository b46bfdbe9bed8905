#include <algorithm>

#include "core/base/text.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const PointLattice& points = in.lattice("points");
    const auto count = static_cast<double>(points.address_count());
    const auto columns = 3.0 + static_cast<double>(points.fields().size());
    if (in.word("surface") == "smooth") return {count * columns * sizeof(double) * 4, count * columns * 5e-8};
    return {count * 6 * sizeof(std::uint32_t) * 2, count * 3e-8};
}

// Numbers that are not finite would spoil every pole.
void say_what_stays_behind(const PointLattice& points, const SplinePatch& patch, const Run& run) {
    for (const Field& field : points.fields())
        if (std::ranges::find(patch.fields(), field.name, &Field::name) == patch.fields().end())
            run.remark_loss("‘" + printable(field.name) +
                            "’ is not finite everywhere, and does not go along.");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    if (in.word("surface") == "smooth") {
        Result<SplinePatch> patch = interpolate_grid(points, run);
        if (!patch) return patch.error();
        say_what_stays_behind(points, *patch, run);
        return Value(SurfaceSet{{*std::move(patch)}});
    }
    Result<Mesh> mesh =
        facets(points, in.word("shape") == "triangles" ? FacetShape::triangles : FacetShape::quads, run);
    if (!mesh) return mesh.error();
    return Value(*std::move(mesh));
}

}  // namespace

StepKind skin() {
    return {
        .key = "skin",
        .verb = "Skin points",
        .synonyms = "surface loft mesh facets panels smooth spline interpolate quads triangles",
        .sentence = "Skin {points} with {surface}[surface=flat| in {shape}].",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("surface", "Surface",
                              {{"smooth", "a smooth surface", "a bicubic spline through every point"},
                               {"flat", "flat facets", "straight between neighbours"}}),
                  choice_slot("shape", "Facet shape",
                              {{"quads", "quads", "one facet a cell"},
                               {"triangles", "triangles", "two facets a cell, along its shorter diagonal"}})},
        .results = {Kind::surface, Kind::mesh},
        .result_name = "surface",
        .help =
            "A surface over a lattice with two directions. The smooth one passes through every point, of "
            "triangular "
            "lattices and honeycombs as well; closed directions close without a crease.",
        .companion = {},
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
