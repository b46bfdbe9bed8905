#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/forces/pushed_apart.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/geometry/curves/segment_tree.hpp"
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

// Within the outline by their radius, in its plane.
class WithinOutline {
public:
    WithinOutline(const Outline& outline, const std::vector<double>& radii)
        : outline_(outline), radii_(radii), rim_(corners_of(outline)) {}

    Vec3 operator()(std::size_t number, Vec3 place) const {
        const Vec3 local = outline_.plane().to_local(place), flat{local.x, local.y, 0};
        const NearestPlace rim = rim_.nearest(flat);
        const bool inside = outline_.contains(FlatPoint{flat.x, flat.y});
        if (inside && rim.distance >= radii_[number]) return outline_.plane().to_world(flat);
        Vec3 inwards = inside ? flat - rim.place : rim.place - flat;
        // On the rim itself: to the left of how it runs.
        if (!(rim.distance > 0)) inwards = Vec3{-rim.along.y, rim.along.x, 0};
        return outline_.plane().to_world(rim.place + unit_or_zero(inwards) * radii_[number]);
    }
    // How many stick out by more than this share of their radius.
    std::size_t sticking_out(const std::vector<Vec3>& places, double share) const {
        std::size_t out = 0;
        for (std::size_t at = 0; at < places.size(); ++at) {
            const Vec3 local = outline_.plane().to_local(places[at]), flat{local.x, local.y, 0};
            const bool inside = outline_.contains(FlatPoint{flat.x, flat.y});
            if (!inside || rim_.nearest(flat).distance < (1 - share) * radii_[at]) ++out;
        }
        return out;
    }

private:
    static std::vector<Vec3> corners_of(const Outline& outline) {
        std::vector<Vec3> corners;
        for (const FlatPoint corner : outline.corners())
            corners.push_back({corner.x, corner.y, 0});
        corners.push_back(corners.front());
        return corners;
    }

    const Outline& outline_;
    const std::vector<double>& radii_;
    SegmentTree rim_;
};

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
        if (const std::size_t out = outline->sticking_out(made->places, 1e-3); out > 0)
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
        const WithinOutline within(*outline, given->spheres.radii);
        return pushed(in, *given, std::cref(within), &within, rest);
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
            "{form}], {drawn}, in at most {rounds} rounds.",
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
