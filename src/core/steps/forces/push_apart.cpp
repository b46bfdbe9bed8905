#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/forces/pushed_apart.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/geometry/curves/within_outline.hpp"
#include "core/geometry/surfaces/form_search.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

using Kept = std::function<Vec3(std::size_t number, Vec3 place)>;

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_lattice(in.lattice("points"));
    site.results.push_back({"", "the last line is the radius of each", true});
    return site;
}

// Those of the points that are there and finite, with their addresses.
struct Given {
    Spheres spheres;
    std::vector<std::size_t> addresses;
};
Result<Given> given_spheres(const Inputs& in, const Run& run) {
    const auto site = site_of(in);
    const auto radii = numbers_by_formula(in, *site, a_length, run);
    if (!radii) return radii.error();
    const PointLattice& points = in.lattice("points");
    const auto held = firmness_in(Value(points));
    if (!held) return about_slot(held.error(), "points");
    Given given;
    for (std::size_t at = 0; at < points.address_count(); ++at) {
        if (!points.present(at)) continue;
        given.addresses.push_back(at);
        given.spheres.places.push_back(points.point(at));
        given.spheres.radii.push_back((*radii)[at]);
        given.spheres.stays.push_back((*held)[at] >= 1 ? 1 : 0);
    }
    return given;
}

// How many stick out by more than a thousandth of their radius.
std::size_t sticking_out(const WithinOutline& outline, const std::vector<double>& radii,
                         const std::vector<Vec3>& places) {
    std::size_t out = 0;
    for (std::size_t at = 0; at < places.size(); ++at)
        if (!outline.holds(places[at], (1 - 1e-3) * radii[at])) ++out;
    return out;
}

void tell(const PushedApart& made, const PushingRule& rule, const Run& run) {
    run.remark(count_text(made.touching, "pair touches", "pairs touch") + ".");
    if (made.overlaps > 0)
        run.remark(
            count_text(made.overlaps, "pair overlaps", "pairs overlap") + " still, by up to " +
            short_text(made.overlap * 100, 2) + " % of the smaller radius" +
            (made.rounds == rule.most_rounds ? " after " + std::to_string(made.rounds) + " rounds" : "") +
            ": there may be no room for all.");
}

Result<Value> moved_to(const PointLattice& points, const Given& given, const PushedApart& made) {
    std::vector<Vec3> places = places_in(Value(points)).at;
    Doubles radii(points.address_count(), 0);
    for (std::size_t at = 0; at < given.addresses.size(); ++at) {
        places[given.addresses[at]] = made.places[at];
        radii[given.addresses[at]] = given.spheres.radii[at];
    }
    const auto moved = with_places(Value(points), places);
    if (!moved) return moved.error();
    return with_number_of_places(*moved, {"radius", Column(std::move(radii)), a_length});
}

Result<Value> pushed(const Inputs& in, const Given& given, const Kept& kept, const WithinOutline* outline,
                     const Run& run) {
    PushingRule rule;
    rule.kept = kept;
    rule.most_rounds = in.count("rounds");
    Vec3 middle;
    for (const Vec3 place : given.spheres.places)
        middle = middle + place * (1.0 / static_cast<double>(given.spheres.places.size()));
    if (in.word("drawn") == "together") rule.drawn_to = &middle;
    const auto made = pushed_apart(given.spheres, rule, run);
    if (!made)
        return about_slot(made.error(), made.error().code == ErrorCode::out_of_range ? "formula" : "points");
    tell(*made, rule, run);
    if (outline)
        if (const std::size_t out = sticking_out(*outline, given.spheres.radii, made->places); out > 0)
            run.remark(count_text(out, "sticks", "stick") + " out of the outline: it is too narrow there.");
    return moved_to(in.lattice("points"), given, *made);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto given = given_spheres(in, run.part(0, 0.05));
    if (!given) return given.error();
    const Run rest = run.part(0.05, 1);
    const std::string& where = in.word("where");
    if (where == "space") return pushed(in, *given, {}, nullptr, rest);
    if (where == "level") {
        const auto kept = [&](std::size_t number, Vec3 place) {
            return Vec3{place.x, place.y, given->spheres.places[number].z};
        };
        return pushed(in, *given, kept, nullptr, rest);
    }
    if (where == "outline") {
        const auto outline = Outline::make(in.held<CurveSet>("outline"));
        if (!outline) return about_slot(outline.error(), "outline");
        const WithinOutline within(*outline);
        const auto kept = [&](std::size_t number, Vec3 place) {
            return within.kept(place, given->spheres.radii[number]);
        };
        return pushed(in, *given, kept, &within, rest);
    }
    const auto form = FormSearch::make(in.value("form"), run);
    if (!form) return about_slot(form.error(), "form");
    const auto kept = [&](std::size_t, Vec3 place) { return form->nearest(place).place; };
    return pushed(in, *given, kept, nullptr, rest);
}

// Those that overlap a lot take most rounds; of others some hundred are enough.
Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const std::string& where = in.word("where");
    const double each = where == "form" ? 1e-6 : where == "outline" ? 4e-7 : 2.5e-7;
    return {points * 150, points * each * std::min(in.number("rounds"), 2000.0)};
}

}  // namespace

StepKind push_apart() {
    return {
        .key = "forces.apart",
        .verb = "Push points apart",
        .synonyms = "circles spheres pack packing spread repel collide overlap bubbles touch tangent",
        .sentence =
            "Push {points} apart, each {formula} in radius, {where}[where=outline| {outline}][where=form| "
            "{form}][more|, {drawn}][more|, in at most {rounds} rounds].",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  formula_slot("formula", formula_label, "50 cm"),
                  choice_slot("where", "Where",
                              {{"level", "each at its height", "circles"},
                               {"space", "in space", "spheres"},
                               {"outline", "within", "an outline, in its plane"},
                               {"form", "on", "a surface, a mesh or a body"}}),
                  reference_slot("outline", "Outline", {Kind::curves}),
                  reference_slot("form", "Form", {Kind::surface, Kind::mesh, Kind::bodies}),
                  choice_slot("drawn", "Drawn",
                              {{"apart", "no further than they have to", ""},
                               {"together", "drawn together until they touch", "towards their middle"}}),
                  count_slot("rounds", "Rounds", "2000", 1)},
        .results = {Kind::points},
        .result_name = "apart",
        .help =
            "Circles or spheres around points push each other away until none overlap, the smaller ones "
            "further. "
            "They keep to an outline or a surface, and held points stay (Hold points). Each carries its "
            "radius, for "
            "what is to stand there. Where there is no room for all, it says how many overlap still.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
