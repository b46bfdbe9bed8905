#include <algorithm>

#include "core/base/text.hpp"
#include "core/forces/relaxation.hpp"
#include "core/steps/forces/balance_support.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

Result<FormulaSite> site_of(const Inputs& in) {
    return members_site(in, "the last line is the length of a member without force");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto given = given_net(in, a_length, run.part(0, 0.02));
    if (!given) return given.error();
    Elasticity elasticity;
    for (const double length : given->numbers)
        elasticity.rest_m.push_back(length * given->metres);
    elasticity.stiffness_kn.assign(given->net.links.size(), in.number("stiffness"));
    elasticity.pushes = in.word("members") == "bars";
    const auto balance = relaxed_net(given->net, elasticity, run.part(0.02, 1));
    if (!balance)
        return about_slot(balance.error(),
                          balance.error().code == ErrorCode::out_of_range ? "stiffness" : "net");
    if (const std::size_t slack = slack_links(given->net, *balance, elasticity); slack > 0)
        run.remark(count_text(slack, "member is", "members are") + " slack.");
    return in_balance(in, *given, *balance, run);
}

}  // namespace

StepKind relax_net() {
    return {
        .key = "forces.relax",
        .verb = "Let a net come to rest",
        .synonyms =
            "dynamic relaxation form finding cable chain catenary hanging stiffness elastic membrane shell",
        .sentence =
            std::string("Let {net} come to rest, its members {formula} long without force, {stiffness} "
                        "stiff, {members}, {loaded}") +
            load_text + ".",
        .slots = with_load_slots({net_slot(), formula_slot("formula", formula_label, "length"),
                                  force_slot("stiffness", "Stiffness", "1000 kN"),
                                  choice_slot("members", "Members",
                                              {{"cables", "which only pull", "what is shorter hangs slack"},
                                               {"bars", "which pull and push", ""}})}),
        .results = {Kind::frame, Kind::mesh},
        .result_name = "at_rest",
        .help =
            "Members pull by how much they are longer than they would be: a member of 1000 kN that is "
            "stretched by "
            "1 % pulls 10 kN. Chains and cloths of given lengths are members that are very stiff; what is "
            "turned "
            "upside down from hanging stands by pushing alone. Held points stay (Hold points).",
        .estimate = [](const Inputs& in) { return net_estimate(in, 220, 4e-5); },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
