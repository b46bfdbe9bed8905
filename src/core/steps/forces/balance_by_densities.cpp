#include "core/forces/force_density.hpp"
#include "core/steps/forces/balance_support.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

Result<FormulaSite> site_of(const Inputs& in) {
    return members_site(in, "the last line is the force density, as 2 kN/m");
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto given = given_net(in, a_force_per_length, run.part(0, 0.1));
    if (!given) return given.error();
    std::vector<double> a_metre;
    for (const double density : given->numbers)
        a_metre.push_back(density / given->metres);
    const auto balance = balanced_by_densities(given->net, a_metre, run.part(0.1, 1));
    if (!balance) return about_slot(balance.error(), "net");
    return in_balance(in, *given, *balance, run);
}

}  // namespace

StepKind balance_by_densities() {
    return {
        .key = "forces.densities",
        .verb = "Find the form of a net by force densities",
        .synonyms =
            "form finding cable tension membrane equilibrium hanging prestress schek funicular structure",
        .sentence = std::string("Find the form of {net} in balance, its members pulling {formula}, "
                                "{loaded}") +
                    load_text + ".",
        .slots = with_load_slots(
            {net_slot(), formula_slot("formula", formula_label, "2 kN/m * if(border, 10, 1)")}),
        .results = {Kind::frame, Kind::mesh},
        .result_name = "balanced",
        .help =
            "Each member pulls with a force for each metre of its length, so the form in balance is found at "
            "once "
            "and exactly. Where it pulls more, the net is drawn tighter: give borders ten times as much. "
            "Below 0 "
            "members push. Held points stay (Hold points). Members carry their force, points what "
            "supports them.",
        .estimate = [](const Inputs& in) { return net_estimate(in, 600, 3e-6); },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
