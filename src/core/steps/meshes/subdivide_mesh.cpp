#include "core/base/numbers.hpp"
#include "core/geometry/meshes/subdivided.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

SubdivisionRule rule_of(const Inputs& in) {
    SubdivisionRule rule;
    rule.scheme = in.word("scheme") == "loop" ? Subdivision::loop : Subdivision::catmull_clark;
    rule.levels = static_cast<int>(in.count("levels"));
    if (in.word("creases") == "angle") rule.crease_rad = in.number("angle");
    rule.sharp_corners = in.word("corners") == "sharp";
    return rule;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const SubdivisionRule rule = rule_of(in);
    constexpr int most_levels = 8;
    if (rule.levels > most_levels)
        return about_slot(Error{ErrorCode::out_of_range, "", "are more than " + std::to_string(most_levels),
                                "Subdivide fewer times: each makes four times as many faces."},
                          "levels");
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    return as_value(subdivided(*mesh, rule, run));
}

Estimate estimate(const Inputs& in) {
    const double faces = changed_corners(in) * std::pow(4, std::min(in.number("levels"), 30.0) - 1) *
                         (in.word("scheme") == "loop" ? 2 : 1);
    return {faces * 420, faces * 1.5e-6};
}

}  // namespace

StepKind subdivide_mesh() {
    return {
        .key = "mesh.subdivide",
        .verb = "Subdivide a mesh",
        .synonyms = "smooth catmull clark loop refine finer crease subdivision surface round",
        .sentence =
            "Subdivide {mesh} {levels} times by {scheme}, {creases}[creases=angle| {angle}][more|, the "
            "corners of its rim {corners}].",
        .slots = {changed_mesh_slot(), count_slot("levels", "Times", "2", 1),
                  choice_slot("scheme", "Scheme",
                              {{"quads", "Catmull and Clark", "into quads, from faces of any corners"},
                               {"loop", "Loop", "into triangles"}}),
                  choice_slot("creases", "Creases",
                              {{"none", "smooth everywhere", ""},
                               {"angle", "sharp where faces turn by more than", ""}}),
                  angle_slot("angle", "Angle", "40°"),
                  choice_slot(
                      "corners", "Corners of the rim",
                      {{"sharp", "sharp", "where a rim has a single face"}, {"round", "rounded", ""}})},
        .results = {Kind::mesh},
        .result_name = "subdivided",
        .help =
            "Each face in four, over and over, and every vertex where the smooth surface is that this comes "
            "to. Creases and rims stay sharp, smooth along themselves. Numbers of vertices are subdivided "
            "likewise, those of faces and parts stay with them.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
