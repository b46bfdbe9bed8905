#include <functional>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/moves/moved_points.hpp"

namespace plume {
namespace {

// Of the size of what is pulled and what it is pulled onto: how true curves are.
constexpr double true_share = 1e-7;

struct Pulled {
    Vec3 place;
    double distance = 0;
    double share_u = 0, share_v = 0;
};

// Where a place comes to lie, if anywhere.
using Pull = std::function<std::optional<Pulled>(Vec3)>;

double share_of(double at, const SplineBasis& basis) {
    return (at - basis.start()) / (basis.end() - basis.start());
}

std::optional<Vec3> line_of(const Inputs& in) {
    return in.word("way") == "along" ? std::optional(way_of(in)) : std::nullopt;
}

// Onto whichever surface is nearest, straight or along the line either way.
Pull pull_onto(const SurfaceSet& set, std::optional<Vec3> direction) {
    std::vector<std::pair<SplinePatch, std::shared_ptr<const SurfaceSearch>>> patches;
    for (const SplinePatch& patch : set.patches)
        patches.emplace_back(patch, std::make_shared<const SurfaceSearch>(patch));
    return [patches = std::move(patches), direction](Vec3 from) {
        std::optional<Pulled> best;
        const auto take = [&](const SplinePatch& patch, const PlaceOnSurface& found) {
            const double distance = std::abs(found.distance);
            if (best && best->distance <= distance) return;
            best = Pulled{found.place, distance, share_of(found.u, patch.u()), share_of(found.v, patch.v())};
        };
        for (const auto& [patch, search] : patches) {
            if (!direction) {
                take(patch, search->nearest(from));
                continue;
            }
            for (const PlaceOnSurface& found : search->along(from, *direction))
                take(patch, found);
        }
        return best;
    };
}

Pull pull_onto(const Placement& plane, std::optional<Vec3> direction) {
    return [plane, way = direction.value_or(plane.up)](Vec3 from) -> std::optional<Pulled> {
        const double height = plane.to_local(from).z, rise = dot(way, plane.up);
        if (std::abs(rise) < 1e-12) return {};
        const Vec3 by = way * (height / rise);
        return Pulled{from - by, length(by), 0, 0};
    };
}

Result<Pull> pull_of(const Inputs& in) {
    if (const auto* placements = std::get_if<Placements>(&in.value("target")))
        return pull_onto(placements->present_placements().front(), line_of(in));
    const SurfaceSet& set = in.held<SurfaceSet>("target");
    if (set.patches.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no surface", "Choose another."}, "target");
    return pull_onto(set, line_of(in));
}

Error misses_all() {
    return {ErrorCode::empty_input, "", "misses the target everywhere",
            "Pull it straight, or along another direction."};
}

Result<Value> pulled(const PointLattice& points, const Pull& pull, bool onto_surface, const Run& run) {
    const std::size_t count = points.address_count();
    Doubles distance(count, 0.0), u(count, 0.0), v(count, 0.0);
    const auto made = moved_or_gaps(
        points,
        [&](std::size_t index, Vec3 point) -> std::optional<Vec3> {
            const auto found = pull(point);
            if (!found) return {};
            distance[index] = found->distance;
            u[index] = found->share_u;
            v[index] = found->share_v;
            return found->place;
        },
        run);
    if (!made) return made.error();
    if (made->gaps == points.point_count()) return about_slot(misses_all(), "thing");
    if (made->gaps > 0)
        run.remark_loss(grouped_text(static_cast<std::int64_t>(made->gaps)) +
                        (made->gaps == 1 ? " point misses the target and is a gap."
                                         : " points miss the target and are gaps."));
    PointLattice moved = made->points;
    moved = moved.with_field({"distance", std::move(distance), a_length});
    if (!onto_surface) return Value(std::move(moved));
    moved = moved.with_field({"share_u", std::move(u), plain_number});
    return Value(moved.with_field({"share_v", std::move(v), plain_number}));
}

Result<Value> pulled(const CurveSet& set, const Pull& pull, const Inputs& in, const Run& run) {
    CurveSet made;
    double deviation = 0, size = bounds_of(in.value("target")).diagonal();
    for (std::size_t number = 0; number < set.curves.size(); ++number) {
        const SplineCurve& curve = set.curves[number];
        const CurvePlace place = [&](double t) -> Result<Vec3> {
            const Vec3 from = evaluate(curve, t).position;
            const auto found = pull(from);
            if (found) return found->place;
            return Error{ErrorCode::out_of_range, "",
                         "misses the target at " + place_text(from, length(from), in.units()),
                         "Shorten it, or pull it straight."};
        };
        const double reach = std::max(size, bounds_of(curve).diagonal());
        auto one = mapped_curves(curve, std::span(&place, 1), true_share * reach, run);
        if (!one) return about_slot(at_curve(one.error(), set, number), "thing");
        deviation = std::max(deviation, one->deviation / reach);
        made.curves.push_back(std::move(one->curves.front()));
    }
    if (made.curves.empty()) return about_slot(misses_all(), "thing");
    // Where the nearest place jumps no curve can follow.
    if (deviation > 1e3 * true_share)
        run.remark_loss("Somewhere the nearest place jumps, and the curve does not follow: " +
                        deviation_sentence(deviation * size, in));
    return Value(std::move(made));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto pull = pull_of(in);
    if (!pull) return pull.error();
    const Value& thing = in.value("thing");
    if (const auto* set = std::get_if<CurveSet>(&thing)) return pulled(*set, *pull, in, run);
    return pulled(in.lattice("thing"), *pull, std::holds_alternative<SurfaceSet>(in.value("target")), run);
}

Estimate estimate(const Inputs& in) {
    double bays = 0;
    if (const auto* set = std::get_if<SurfaceSet>(&in.value("target")))
        for (const SplinePatch& patch : set->patches)
            bays += std::max(static_cast<double>(patch.x().size()), 400.0);
    if (const auto* set = std::get_if<CurveSet>(&in.value("thing"))) {
        const double poles = pole_count(*set);
        return {bays * 400 + poles * 3000, bays * 1e-6 + poles * 2e-4};
    }
    const auto points = static_cast<double>(in.lattice("thing").address_count());
    return {bays * 400 + points * 60, bays * 1e-6 + points * 4e-6};
}

}  // namespace

StepKind pull_thing() {
    std::vector<SlotSpec> slots = with_direction(
        {reference_slot("thing", "Thing", {Kind::points, Kind::field, Kind::curves}),
         reference_slot("target", "Target", {Kind::surface, Kind::placements}),
         choice_slot("way", "Way",
                     {{"straight", "straight to the nearest place", "square to it"},
                      {"along", "along", "to where a line of that direction meets it first"}})});
    return {
        .key = "thing.pull",
        .verb = "Pull onto a surface",
        .synonyms = "project nearest closest drop snap plane points curves lay on distance u v",
        .sentence =
            "Pull {thing} onto {target}, {way}[way=along| {direction}][way=along&direction=placed| of "
            "{placement}].",
        .slots = std::move(slots),
        .results = {Kind::points, Kind::curves},
        .result_name = "pulled",
        .help =
            "Points or curves, each place moved to the nearest one of a surface, or of the plane of a "
            "placement; or along a direction, to the nearest place where the line meets it either way. "
            "Points "
            "get the distance they went, and of a surface the shares of u and v there; what meets nothing "
            "becomes a gap. Curves lie on the surface to a ten millionth of the size.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
