#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"
#include "core/base/text.hpp"
#include "core/data/box.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"
#include "core/geometry/measures/point_tree.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

// Of the size of a thing: coordinates of six digits are nearer.
constexpr double least_told = 2e-6;

// Which places are held, and where those go that are moved.
struct Chosen {
    std::vector<std::uint8_t> mask;
    std::vector<Vec3> to;  // empty: where they are
};

// Places of points and of attractors that are points.
std::vector<Vec3> spots_of(const Value& things) {
    std::vector<Vec3> spots;
    if (const PointLattice* lattice = lattice_of(things)) spots = finite_points(*lattice).places;
    if (const auto* attractors = std::get_if<Attractors>(&things))
        for (const Attractor& item : attractors->items())
            if (!item.path) spots.push_back(item.position);
    if (const auto* placements = std::get_if<Placements>(&things))
        spots = finite_points(placements->origins()).places;
    return spots;
}

// The one nearest to each spot, which goes to its target; of several spots that want one the nearest.
Chosen nearest_to(const PlacesOfThing& places, const std::vector<Vec3>& spots,
                  const std::vector<Vec3>& targets) {
    std::vector<Vec3> there;
    std::vector<std::size_t> index;
    for (std::size_t at = 0; at < places.at.size(); ++at) {
        if (places.present[at] == 0 || !is_finite(places.at[at])) continue;
        there.push_back(places.at[at]);
        index.push_back(at);
    }
    const PointTree tree(there);
    Chosen chosen{std::vector<std::uint8_t>(places.at.size(), 0), places.at};
    std::vector<double> distance(places.at.size(), 0);
    for (std::size_t spot = 0; spot < spots.size(); ++spot)
        for (const std::size_t found : tree.nearest_of(spots[spot], 1)) {
            const std::size_t at = index[found];
            const double apart = length(places.at[at] - spots[spot]);
            if (chosen.mask[at] != 0 && distance[at] <= apart) continue;
            chosen.mask[at] = 1;
            chosen.to[at] = targets[spot];
            distance[at] = apart;
        }
    return chosen;
}

// By the places it is told, and where these are to lead.
Result<Chosen> near_spots(const PlacesOfThing& places, const Inputs& in) {
    const std::vector<Vec3> spots = spots_of(in.value("spots"));
    if (!in.has("targets")) return nearest_to(places, spots, spots);
    const std::vector<Vec3> targets = spots_of(in.value("targets"));
    if (targets.size() != spots.size())
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "has " + count_text(targets.size(), "place", "places") + " for " +
                                    count_text(spots.size(), "point", "points"),
                                "Choose as many places as there are points to be held."},
                          "targets");
    return nearest_to(places, spots, targets);
}

// All within reach of spots or curves; each goes to the nearest place on these.
Result<Chosen> within(const PlacesOfThing& places, const Value& things, double reach, const Run& run) {
    Chosen chosen{std::vector<std::uint8_t>(places.at.size(), 0), places.at};
    const std::vector<Vec3> spots = spots_of(things);
    const PointTree tree(spots);
    std::vector<NearestOnCurve> curves;
    if (const auto* set = std::get_if<CurveSet>(&things))
        for (const SplineCurve& curve : set->curves)
            curves.emplace_back(curve);
    const auto look = [&](std::size_t at) {
        const Vec3 place = places.at[at];
        if (places.present[at] == 0 || !is_finite(place)) return;
        double nearest = reach;
        const auto meet = [&](Vec3 there, double distance) {
            if (distance > nearest) return;
            nearest = distance;
            chosen.mask[at] = 1;
            chosen.to[at] = there;
        };
        for (const std::size_t found : tree.nearest_of(place, 1))
            meet(spots[found], length(spots[found] - place));
        for (const NearestOnCurve& curve : curves) {
            const PlaceOnCurve found = curve.nearest(place);
            meet(found.place, found.distance);
        }
    };
    const bool finished =
        parallel_blocks(places.at.size(), 1024, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; ++at)
                look(at);
        });
    if (!finished) return cancelled_error();
    return chosen;
}

// One place for each point, in the order they are named; one place alone leads all of them as they lie.
Result<std::vector<Vec3>> led(const PlacesOfThing& places, const std::vector<std::size_t>& indices,
                              const Inputs& in) {
    const std::vector<Vec3> leads = spots_of(in.value("leads"));
    std::vector<Vec3> to = places.at;
    if (leads.size() == 1) {
        Vec3 middle;
        for (const std::size_t index : indices)
            middle = middle + places.at[index] * (1 / static_cast<double>(indices.size()));
        for (const std::size_t index : indices)
            to[index] = to[index] + leads[0] - middle;
        return to;
    }
    if (leads.size() != indices.size())
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "has " + count_text(leads.size(), "place", "places") + " for " +
                                    count_text(indices.size(), "point", "points"),
                                "Choose as many places as points are named, or one for all of them."},
                          "leads");
    for (std::size_t at = 0; at < indices.size(); ++at)
        to[indices[at]] = leads[at];
    return to;
}

Result<Chosen> named(const Value& thing, const PlacesOfThing& places, const Inputs& in, const Run& run) {
    const std::string& list = in.word("addresses");
    const PointLattice* lattice = lattice_in(thing);
    auto addresses =
        lattice ? named_addresses(list, *lattice) : named_numbers(list, std::get<Mesh>(thing).vertex_count());
    if (!addresses) return about_slot(addresses.error(), "addresses");
    if (addresses->missing > 0)
        run.remark_loss(count_text(addresses->missing, "address is", "addresses are") +
                        " not in it, the first ‘" + addresses->first_missing +
                        "’; it counts again when it is.");
    Chosen chosen{std::move(addresses->mask), {}};
    if (!in.has("leads")) return chosen;
    auto to = led(places, addresses->indices, in);
    if (!to) return to.error();
    chosen.to = *std::move(to);
    return chosen;
}

Result<FormulaSite> condition_of(const Inputs& in) {
    FormulaSite site = site_on_places(in.value("thing"));
    site.results.push_back({"", "the last line is the condition: yes where it is not 0", true});
    return site;
}

Result<Chosen> where(const Inputs& in, const Run& run) {
    const Result<FormulaSite> site = condition_of(in);
    auto formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    const std::vector<NodeId> outputs{term_of(*formula, "")->node};
    auto made = evaluate(formula->graph, outputs, site->domain, Keep::columns, run);
    if (!made) return made.error();
    auto mask = mask_of(made->columns[0]);
    if (!mask) return mask.error();
    return Chosen{*std::move(mask), {}};
}

Result<Chosen> chosen(const Value& thing, const PlacesOfThing& places, const Inputs& in, const Run& run) {
    const std::string& at = in.word("at");
    if (at == "near") return near_spots(places, in);
    if (at == "within" && in.has("targets"))
        return about_slot(Error{ErrorCode::wrong_kind, "", "is for points nearest to places",
                                "Hold the points nearest to these, or move them there."},
                          "moved");
    if (at == "within") return within(places, in.value("things"), in.number("reach"), run);
    if (at == "named") return named(thing, places, in, run);
    if (at == "where") return where(in, run);
    auto mask = at == "border" ? border_of(thing) : corners_of(thing);
    if (!mask) return about_slot(mask.error(), "thing");
    return Chosen{*std::move(mask), {}};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const double firmness = in.number("firmness");
    if (!(firmness > 0 && firmness <= 1))
        return about_slot(Error{ErrorCode::out_of_range, "", "is not above 0 and at most 1",
                                "Type a share: 1 stays where it is, 0.2 gives way."},
                          "firmness");
    const Value& thing = in.value("thing");
    auto held = firmness_in(thing);
    if (!held) return about_slot(held.error(), "thing");
    const PlacesOfThing places = places_in(thing);
    auto now = chosen(thing, places, in, run);
    if (!now) return now.error();
    const bool moves = !now->to.empty() && !(in.has("moved") && in.word("moved") == "kept");
    std::size_t count = 0;
    double furthest = 0;
    Box around;
    for (std::size_t at = 0; at < now->mask.size(); ++at) {
        if (places.present[at] == 0) continue;
        around.include(places.at[at]);
        if (now->mask[at] == 0) continue;
        ++count;
        (*held)[at] = std::max((*held)[at], firmness);
        if (moves) furthest = std::max(furthest, length(now->to[at] - places.at[at]));
    }
    if (count == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "are near none of its points",
                                "Hold those within a larger reach, or others."},
                          in.word("at") == "within" ? "things" : "at");
    const auto with_held =
        with_number_of_places(thing, {held_name, Column(Doubles(held->begin(), held->end())), plain_number});
    if (!with_held) return about_slot(with_held.error(), "thing");
    run.remark(count_text(count, "point", "points") + " held" +
               (furthest > least_told * around.diagonal()
                    ? ", moved by up to " + quantity_text({furthest, a_length}, in.units())
                    : "") +
               ".");
    if (!moves) return *with_held;
    return with_places(*with_held, now->to);
}

std::vector<Word> moved_words() {
    return {{"there", "moved there", "to the place that holds it"},
            {"onto", "moved onto", "to other places, one for each, as where they go while those tell which"},
            {"kept", "where they are", "they stay where the thing has them"}};
}

}  // namespace

StepKind hold_points() {
    SlotSpec leads =
        reference_slot("leads", "Led by", {Kind::attractors, Kind::points, Kind::field, Kind::placements});
    leads.for_each_of = "addresses";
    return {
        .key = "forces.hold",
        .verb = "Hold points",
        .synonyms = "pin fix support anchor handle attach clamp boundary restrain mast",
        .sentence =
            "Hold {thing} at {at}[at=near| {spots}][at=within| {reach} of {things}]"
            "[at=near,within|, {moved}][moved=onto| {targets}][at=named| {addresses}, {led}][led=onto| "
            "{leads}][at=where| {formula}], "
            "as firmly as "
            "{firmness}.",
        .slots = {reference_slot("thing", "Thing", {Kind::mesh, Kind::frame, Kind::points, Kind::field}),
                  choice_slot("at", "At",
                              {{"corners", "its corners", ""},
                               {"border", "its border", ""},
                               {"near", "the points nearest to", "one for each"},
                               {"within", "all points within", "near points or curves"},
                               {"named", "the points named", "by address, or picked"},
                               {"where", "the points where", "a condition holds"}}),
                  reference_slot("spots", "Places",
                                 {Kind::attractors, Kind::points, Kind::field, Kind::placements}),
                  length_slot("reach", "Reach", "50 cm"),
                  reference_slot(
                      "things", "Places",
                      {Kind::curves, Kind::attractors, Kind::points, Kind::field, Kind::placements}),
                  choice_slot("moved", "Moved", moved_words()),
                  reference_slot("targets", "Onto",
                                 {Kind::attractors, Kind::points, Kind::field, Kind::placements}),
                  point_addresses_slot("addresses", "Addresses", "0,0"),
                  choice_slot("led", "Led",
                              {{"kept", "where they are", "they stay where the thing has them"},
                               {"onto", "led by",
                                "places, one for each in the order they are named, or one for all of them"}}),
                  leads, formula_slot("formula", formula_label, "z > 1 m"),
                  number_slot("firmness", "Firmness", "1")},
        .results = {Kind::mesh, Kind::frame, Kind::points},
        .result_name = "held",
        .help =
            "Points, nodes of a frame or vertices of a mesh that forces cannot move: a number ‘held’, 1 "
            "where "
            "they stay, less where they give way as a spring does. What holds them can move them to it: they "
            "follow its place. Where it moves by keys, the places of its first moment say which points it "
            "holds, and "
            "it moves them onto itself. Points that are named are led by places whatever is nearest, so that "
            "these can be dragged while a sheet hangs from them. What is held already stays so.",
        .estimate =
            [](const Inputs& in) {
                const Value& thing = in.value("thing");
                const PointLattice* lattice = lattice_in(thing);
                const auto places = static_cast<double>(lattice ? lattice->address_count()
                                                                : std::get<Mesh>(thing).vertex_count());
                return Estimate{places * 90, places * 4e-7};
            },
        .make = make,
        .contexts = {{"formula", context(condition_of)}},
    };
}

}  // namespace plume
