#include <cmath>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/mesh_borders.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// How true the rims of trimmed surfaces are, of their size.
constexpr double true_share = 1e-7;

Status add_trims(const SplinePatch& patch, const Run& run, CurveSet& set) {
    for (const SplineCurve& trim : patch.trims()) {
        if (is_parallelogram(patch)) {
            set.curves.push_back(trim_in_space(patch, trim));
            continue;
        }
        const auto on = lifted(std::span(&patch, 1), trim, true_share * poles_box(patch).diagonal(), run);
        if (!on) return on.error();
        set.curves.push_back(on->on.front());
    }
    return Done{};
}

// Where a direction ends; not where it closes, nor where it is drawn together to a tip.
void add_rims(const SplinePatch& patch, CurveSet& set) {
    const double within = 1e-9 * bounds_of(patch).diagonal();
    for (const int direction : {0, 1}) {
        const SplineBasis& across = basis_along(patch, 1 - direction);
        if (across.closed) continue;
        for (const double at : {across.start(), across.end()}) {
            SplineCurve rim = iso_curve(patch, direction, at);
            if (!is_tip(rim, within)) set.curves.push_back(std::move(rim));
        }
    }
}

void add_lines(const SplinePatch& patch, int direction, std::size_t count, CurveSet& set) {
    const SplineBasis& across = basis_along(patch, 1 - direction);
    const double bays = static_cast<double>(across.closed ? count : std::max<std::size_t>(count, 2) - 1);
    for (std::size_t line = 0; line < count; ++line) {
        const double share = count == 1 ? 0.5 : static_cast<double>(line) / bays;
        set.curves.push_back(iso_curve(patch, direction, std::lerp(across.start(), across.end(), share)));
    }
}

Error without_rim() {
    return about_slot(Error{ErrorCode::empty_input, "", "has no rim: it closes everywhere",
                            "Take curves along u or v of it."},
                      "surface");
}

Result<Value> of_mesh(const Mesh& mesh, const std::string& which) {
    if (which != "rims")
        return about_slot(
            Error{ErrorCode::wrong_kind, "", "is a mesh, which has no u and v", "Take its rims."}, "which");
    CurveSet borders = borders_of(mesh);
    if (borders.curves.empty()) return without_rim();
    return Value(std::move(borders));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::string& which = in.word("which");
    if (const auto* mesh = std::get_if<Mesh>(&in.value("surface"))) return of_mesh(*mesh, which);
    const std::vector<SplinePatch>& patches = in.held<SurfaceSet>("surface").patches;
    CurveSet set;
    for (const SplinePatch& patch : patches) {
        if (run.cancelled()) return cancelled_error();
        if (which == "rims" && patch.trimmed()) {
            if (Status added = add_trims(patch, run, set); !added) return added.error();
        } else if (which == "rims") {
            add_rims(patch, set);
        } else
            add_lines(patch, which == "along_u" ? 0 : 1, in.count("count"), set);
    }
    if (set.curves.empty()) return without_rim();
    return Value(std::move(set));
}

}  // namespace

StepKind take_surface_curves() {
    return {
        .key = "curve.on_surface",
        .verb = "Take curves of a surface",
        .synonyms = "edges iso curves isoparametric rims borders trims lines ribs u v",
        .sentence = "Take {which} of {surface}[which=along_u,along_v| at {count} even places].",
        .slots = {choice_slot("which", "Which",
                              {{"rims", "the rims", "where it ends, those of its holes too"},
                               {"along_u", "curves along u", "at even places of v"},
                               {"along_v", "curves along v", "at even places of u"}}),
                  reference_slot("surface", "Surface", {Kind::surface, Kind::mesh}),
                  count_slot("count", "Places", "9", 1)},
        .results = {Kind::curves},
        .result_name = "ribs",
        .help =
            "Curves that lie on a surface exactly, with its numbers: its rims, or curves of one parameter. "
            "Rims "
            "of a trimmed surface are true to a ten millionth of its size where it is curved. Of a mesh the "
            "rims "
            "are its open edges, joined.",
        .estimate =
            [](const Inputs& in) {
                if (const auto* mesh = std::get_if<Mesh>(&in.value("surface"))) {
                    const auto corners = static_cast<double>(mesh->corner_count());
                    return Estimate{corners * 40, corners * 4e-7};
                }
                double poles = 0;
                const double count = in.word("which") == "rims" ? 4 : in.number("count");
                for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
                    poles += static_cast<double>(std::max(patch.u().pole_count(), patch.v().pole_count())) *
                             (3 + static_cast<double>(patch.fields().size()));
                const Estimate whole = surface_poles_estimate(in, 60, 1e-7);
                return Estimate{poles * count * 12 + whole.bytes, whole.seconds * count};
            },
        .make = make,
    };
}

}  // namespace plume
