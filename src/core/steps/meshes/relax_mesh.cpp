#include "core/geometry/meshes/relaxed_mesh.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const double share = in.number("share");
    if (!(share > 0 && share <= 1))
        return about_slot(
            Error{ErrorCode::out_of_range, "", "is not between 0 and 1", "Type a share, as 0.5."}, "share");
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const std::string& rim = in.word("rim");
    return as_value(relaxed(*mesh,
                            {static_cast<int>(std::min<std::size_t>(in.count("rounds"), 1'000'000)), share,
                             in.word("form") == "kept",
                             rim == "held"   ? RimRule::held
                             : rim == "slid" ? RimRule::slid
                                             : RimRule::freed},
                            run));
}

}  // namespace

StepKind relax_mesh() {
    return {
        .key = "mesh.relax",
        .verb = "Relax a mesh",
        .synonyms = "smooth even out laplacian taubin soften fair noise",
        .sentence = "Relax {mesh} in {rounds} rounds, by {share} each, {form}, its rim {rim}.",
        .slots = {changed_mesh_slot(), count_slot("rounds", "Rounds", "10", 1),
                  number_slot("share", "Share", "0.5"),
                  choice_slot("form", "Form",
                              {{"kept", "keeping its form", "and a closed mesh its volume"},
                               {"shrunk", "drawing it in", "as a skin under tension"}}),
                  choice_slot(
                      "rim", "Rim",
                      {{"held", "held", ""}, {"slid", "evened along itself", ""}, {"freed", "free", ""}})},
        .results = {Kind::mesh},
        .result_name = "relaxed",
        .help =
            "Every vertex goes a share of the way to the mean of its neighbours, so many rounds. Kept in "
            "form, "
            "each round goes back out a little: waves vanish and what is large stays.",
        .estimate =
            [](const Inputs& in) {
                const Estimate one = changed_estimate(in, 90, 4e-8);
                return Estimate{one.bytes, one.seconds * (1 + in.number("rounds") / 4)};
            },
        .make = make,
    };
}

}  // namespace plume
