#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/meshes/thinned_mesh.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    ThinningRule rule;
    if (in.word("rule") == "count")
        rule.triangles = in.count("count");
    else
        rule.deviation = in.number("deviation");
    rule.keeps_rims = in.word("rims") == "kept";
    auto thin = thinned(*mesh, rule, run);
    if (!thin) return thin.error();
    if (thin->mesh.face_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "would leave no triangle", "Keep more of them."},
                          in.word("rule") == "count" ? "count" : "deviation");
    run.remark("It stands off by up to " + quantity_text({thin->deviation, a_length}, in.units(), 3) +
               ", measured at the vertices there were.");
    if (thin->folded > 0)
        run.remark_loss(count_text(thin->folded, "triangle folds", "triangles fold") +
                        " back over others: keep a few more or fewer.");
    if (in.word("rule") == "count" && thin->mesh.face_count() > rule.triangles)
        run.remark("Fewer than " + grouped_text(static_cast<std::int64_t>(thin->mesh.face_count())) +
                   " would tear it" + (rule.keeps_rims ? ", or its rims." : "."));
    if (!mesh->face_fields().empty()) run.remark_loss("Numbers of faces are lost: measure them again.");
    return Value(std::move(thin->mesh));
}

}  // namespace

StepKind thin_mesh() {
    return {
        .key = "mesh.thin",
        .verb = "Thin out a mesh",
        .synonyms = "simplify decimate reduce fewer triangles coarse light count deviation",
        .sentence =
            "Thin out {mesh} {rule}[rule=count| {count}][rule=deviation| {deviation}], its rims {rims}.",
        .slots = {changed_mesh_slot(),
                  choice_slot("rule", "Rule",
                              {{"count", "to triangles, about", "as few as that, if it can be"},
                               {"deviation", "as far as it stays within", "the fewest triangles that do"}}),
                  count_slot("count", "Triangles", "1000", 1),
                  length_above_zero_slot("deviation", "Deviation", "5 mm"),
                  choice_slot("rims", "Rims",
                              {{"kept", "kept", "vertex by vertex"}, {"thinned", "thinned as well", ""}})},
        .results = {Kind::mesh},
        .result_name = "thinned",
        .help =
            "Fewer triangles that look nearly the same. Vertices that stay keep their places and numbers; "
            "how "
            "far the others are from what is left is measured and said. Parts are thinned each for itself.",
        .estimate = [](const Inputs& in) { return changed_estimate(in, 260, 2e-6); },
        .make = make,
    };
}

}  // namespace plume
