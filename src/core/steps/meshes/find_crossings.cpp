#include "core/base/text.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// More lines than that nobody reads.
constexpr std::size_t most_crossings = 100'000;
constexpr std::size_t most_named = 5;

// A crossing that is a point is shown by the face.
CurvePoints shown(const FaceCrossing& crossing, const Mesh& mesh) {
    const bool at_a_point = crossing.line.empty();
    CurvePoints points;
    points.points = at_a_point ? corner_places(mesh, crossing.face) : crossing.line;
    points.closed = at_a_point || crossing.closed;
    const std::size_t count = points.points.size();
    points.fields = {{"face", Doubles(count, crossing.face), plain_number},
                     {"other", Doubles(count, crossing.other), plain_number}};
    return points;
}

std::string pairs_text(const FaceCrossings& crossings) {
    std::size_t count = 0;
    std::string named;
    const FaceCrossing* before = nullptr;
    for (const FaceCrossing& crossing : crossings.all) {
        if (before && before->face == crossing.face && before->other == crossing.other) continue;
        before = &crossing;
        if (++count <= most_named)
            named += (named.empty() ? "" : ", ") + std::to_string(crossing.face) + " and " +
                     std::to_string(crossing.other);
    }
    return (crossings.more ? "More than " : "") +
           count_text(count, "pair of faces crosses: ", "pairs of faces cross: ") + named +
           (count > most_named ? ", …" : "") + ".";
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const auto crossings = crossings_of(*mesh, most_crossings, run);
    if (!crossings) return crossings.error();
    CurveSet lines;
    for (const FaceCrossing& crossing : crossings->all)
        if (auto line = curve_through(shown(crossing, *mesh), CurveShape::straight))
            lines.curves.push_back(*std::move(line));
    if (crossings->all.empty())
        run.remark("Nothing crosses.");
    else
        run.remark_loss(pairs_text(*crossings));
    return Value(std::move(lines));
}

}  // namespace

StepKind find_crossings() {
    return {
        .key = "mesh.crossings",
        .verb = "Find where a mesh crosses itself",
        .synonyms = "crossings pairs self intersection penetrate through clash",
        .sentence = "Find where {mesh} crosses itself.",
        .slots = {changed_mesh_slot()},
        .results = {Kind::curves},
        .result_name = "crossings",
        .help =
            "A line wherever two faces go through each other, with their numbers `face` and `other`; around "
            "what both "
            "cover where they lie in one plane. Faces that share a side or a corner cross where they meet "
            "beyond it. How many pairs there are is said, and which the first are.",
        .stays_beside = true,
        .estimate = [](const Inputs& in) { return changed_estimate(in, 330, 1.5e-6); },
        .make = make,
    };
}

}  // namespace plume
