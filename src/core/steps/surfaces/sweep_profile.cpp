#include <cmath>

#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_placements.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/swept.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

constexpr double sharp_rad = 0.15;

std::size_t station_count(const SplineCurve& rail) {
    const std::size_t spans = breaks_of(rail.basis()).size() - 1;
    // Every second one is a section, the others tell how true it is.
    const std::size_t bays = 2 * std::clamp<std::size_t>(8 * spans, 16, 400);
    return rail.closed() ? bays : bays + 1;
}

// How far along its curve a station stands, 0 to 1.
double share_at(std::size_t station, std::size_t count, bool closed) {
    return static_cast<double>(station) / static_cast<double>(closed ? count : count - 1);
}

// What a formula of the profile reads at each station.
FormulaSite site_at(const SplineCurve& rail, const std::vector<Placement>& stations) {
    const double total = length_of(rail);
    Doubles along;
    std::vector<Vec3> places;
    for (std::size_t at = 0; at < stations.size(); ++at) {
        along.push_back(share_at(at, stations.size(), rail.closed()) * total);
        places.push_back(stations[at].origin);
    }
    FormulaSite site = site_along(places, std::move(along), total, rail.closed(), "the rail");
    site.results.push_back({"scale", "how large the profile is, 1 as drawn", false, true});
    site.results.push_back({"turn", "an angle about the rail", false, true});
    return site;
}

Result<SplineCurve> rail_of(const Inputs& in) {
    Result<SplineCurve> rail = only_curve(in, "rail");
    if (!rail) return rail;
    const auto corners = corners_of(*rail, sharp_rad);
    const auto sharp =
        std::ranges::find_if(corners, [](const CurveCorner& corner) { return corner.turn_rad > sharp_rad; });
    if (sharp == corners.end()) return rail;
    return about_slot(Error{ErrorCode::unlike_arrangement, "",
                            "turns sharply at " + place_text(sharp->place, length(sharp->place), in.units()),
                            "Round its corners first."},
                      "rail");
}

struct Stations {
    std::vector<Placement> placements;
    std::vector<double> scales;  // of the profile there
};

// At even lengths. Towards a second rail the first axis points to its place of the same share, and the
// profile is as much larger as that is further away than at the first station.
Result<Stations> stations_of(const Inputs& in, const SplineCurve& rail, const Run& run) {
    const std::string& turning = in.word("turning");
    const std::size_t count = station_count(rail);
    auto placements = placements_along(
        rail, count, turning == "upright" ? PlacementTurning::upright : PlacementTurning::least, run);
    if (!placements) return placements.error();
    Stations stations{*std::move(placements), std::vector<double>(count, 1)};
    if (turning != "second") return stations;
    const Result<SplineCurve> second = only_curve(in, "second");
    if (!second) return second.error();
    if (second->closed() != rail.closed())
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                second->closed() ? "is closed, and the first rail is open"
                                                 : "is open, and the first rail is closed",
                                "Choose two rails of one kind."},
                          "second");
    const CurveLength measure(*second);
    double first = 0;
    for (std::size_t at = 0; at < count; ++at) {
        const double share = share_at(at, count, rail.closed());
        Placement& station = stations.placements[at];
        const Vec3 way =
            evaluate(*second, measure.parameter_at(share * measure.total())).position - station.origin;
        station = placement_of(station.origin, station.up, way);
        if (at == 0) first = length(way);
        stations.scales[at] = first > 0 ? length(way) / first : 1;
    }
    return stations;
}

Result<FormulaSite> site_of(const Inputs& in) {
    const Result<SplineCurve> rail = only_curve(in, "rail");
    if (!rail) return rail.error();
    const auto stations = placements_along(*rail, station_count(*rail), PlacementTurning::upright, Run());
    if (!stations) return stations.error();
    return site_at(*rail, *stations);
}

Result<std::vector<Affine>> maps_of(const Inputs& in, const SplineCurve& rail, Stations all, const Run& run) {
    const std::vector<Placement>& stations = all.placements;
    std::vector<double>& scales = all.scales;
    std::vector<double> turns(stations.size(), 0);
    if (in.word("change") == "formula") {
        const FormulaSite site = site_at(rail, stations);
        Result<CheckedFormula> formula = checked_formula(in, site);
        if (!formula) return formula.error();
        for (auto [name, dimension, into] :
             {std::tuple{"scale", plain_number, &scales}, std::tuple{"turn", an_angle, &turns}}) {
            const auto made = computed(*formula, name, dimension, site, in, run);
            if (!made) return made.error();
            if (!*made) continue;
            const bool scale = into == &scales;
            for (std::size_t at = 0; at < into->size(); ++at) {
                const double value = (**made)[at];
                if (!std::isfinite(value) || (scale && !(value > 0)))
                    return about_slot(Error{ErrorCode::out_of_range, "",
                                            std::string("gives a ") + name + " that is " +
                                                (scale ? "not above 0" : "no number") + " somewhere",
                                            "Look where its range begins."},
                                      "formula");
                (*into)[at] = scale ? (*into)[at] * value : value;
            }
        }
    }
    const Placement from =
        in.word("from") == "start" ? stations.front() : placement_of({}, {0, 0, 1}, {1, 0, 0});
    std::vector<Affine> maps;
    for (std::size_t at = 0; at < stations.size(); ++at)
        maps.push_back(composed(between_placements(from, stations[at]),
                                composed(turned_about(from.origin, from.up, turns[at]),
                                         scaled_about(from.origin, {scales[at], scales[at], scales[at]}))));
    return maps;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<SplineCurve> rail = rail_of(in);
    if (!rail) return rail.error();
    const auto stations = stations_of(in, *rail, run);
    if (!stations) return stations.error();
    const auto maps = maps_of(in, *rail, *stations, run);
    if (!maps) return maps.error();
    SurfaceSet set;
    double deviation = 0;
    for (const SplineCurve& profile : in.held<CurveSet>("curve").curves) {
        Result<Swept> made = swept(profile, *maps, rail->closed(), run);
        if (!made) return about_slot(made.error(), "rail");
        deviation = std::max(deviation, made->deviation);
        set.patches.push_back(std::move(made->patch));
    }
    if (set.patches.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no curve", "Draw one."}, "curve");
    run.remark(deviation_sentence(deviation, in));
    return Value(std::move(set));
}

}  // namespace

StepKind sweep_profile() {
    SlotSpec formula =
        formula_slot("formula", formula_label, "scale = 1 + 0.5 * sin(180° * u)\nturn = 90° * u");
    return {
        .key = "surface.sweep",
        .verb = "Sweep a profile along a rail",
        .synonyms = "carry section path gutter beam rail extrude along two rails scale twist",
        .sentence =
            "Sweep {curve}, {from}, along {rail}, {turning}[turning=second| {second}], "
            "{change}[change=formula| {formula}].",
        .slots = {curves_slot("curve", "Profile"),
                  choice_slot("from", "From",
                              {{"origin", "drawn at the origin", "X and Y of the study lie across the rail"},
                               {"start", "where it stands", "beside the start of the rail"}}),
                  curves_slot("rail", "Rail"),
                  choice_slot("turning", "Turning",
                              {{"least", "turning least", "no more twist than the rail has"},
                               {"upright", "kept upright", "its first axis stays level"},
                               {"second", "reaching to",
                                "its first axis follows a second rail, and it grows with it"}}),
                  curves_slot("second", "Second rail"),
                  choice_slot(
                      "change", "Change",
                      {{"none", "unchanged", "the same profile everywhere"},
                       {"formula", "changed by", "scale and turn by a formula of the place along the rail"}}),
                  formula},
        .results = {Kind::surface},
        .result_name = "swept",
        .help =
            "The surface that a profile passes over. Sections stand at even lengths of the rail; how true "
            "the "
            "surface is between them is told below. A formula reads u, s, x, y, z and length, and gives "
            "scale "
            "and turn.",
        .estimate =
            [](const Inputs& in) {
                double stations = 0;
                for (const SplineCurve& rail : in.held<CurveSet>("rail").curves)
                    stations = std::max(stations, static_cast<double>(station_count(rail)));
                const double poles = pole_count(in.held<CurveSet>("curve")) * stations;
                return Estimate{poles * 120 + stations * 500, poles * 2e-6 + stations * 2e-5};
            },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
