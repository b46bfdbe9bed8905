#include <functional>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/form_search.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/moves/mapped_thing.hpp"
#include "core/steps/moves/moved_points.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// Of the size of what is pulled and what it is pulled onto: how true curves are.
constexpr double true_share = 1e-7;
// The same of polylines, where the target has creases.
constexpr double line_true_share = 1e-5;

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

// Onto whichever face is nearest, straight or along the line either way.
Pull pull_onto(std::shared_ptr<const FormSearch> form, std::optional<Vec3> direction) {
    return [form = std::move(form), direction](Vec3 from) -> std::optional<Pulled> {
        std::optional<PlaceOnForm> found;
        if (!direction) {
            found = form->nearest(from);
        } else {
            // What lies on the form stays there.
            const double touch = -1e-12 * form->size();
            found = form->first_along(from, *direction, touch);
            const auto behind = form->first_along(from, *direction * -1, touch);
            if (behind && (!found || behind->distance < found->distance)) found = behind;
        }
        if (!found || !is_finite(found->place)) return {};
        Pulled pulled{found->place, std::abs(found->distance), 0, 0};
        if (!found->patch) return pulled;
        pulled.share_u = share_of(found->u, found->patch->patch().u());
        pulled.share_v = share_of(found->v, found->patch->patch().v());
        return pulled;
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

Result<Pull> pull_of(const Inputs& in, const Run& run) {
    if (const auto* placements = std::get_if<Placements>(&in.value("target")))
        return pull_onto(placements->present_placements().front(), line_of(in));
    auto form = FormSearch::make(in.value("target"), run);
    if (!form) return about_slot(form.error(), "target");
    return pull_onto(std::make_shared<const FormSearch>(*std::move(form)), line_of(in));
}

// Whether the target has creases, which smooth curves cannot follow.
bool has_creases(const Inputs& in) {
    const Value& target = in.value("target");
    return std::holds_alternative<Mesh>(target) || std::holds_alternative<SolidSet>(target);
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

std::string jumps(double by, const Inputs& in) {
    return "Somewhere the nearest place jumps by up to " + quantity_text({by, a_length}, in.units(), 3) +
           ", and the curve goes across.";
}

Result<Value> pulled(const CurveSet& set, const Pull& pull, const Inputs& in, const Run& run) {
    CurveSet made;
    double jump = 0;
    const double size = bounds_of(in.value("target")).diagonal();
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
        if (has_creases(in)) {
            auto one = mapped_line(curve, place, line_true_share * reach, run);
            if (!one) return about_slot(at_curve(one.error(), set, number), "thing");
            jump = std::max(jump, one->jump);
            made.curves.push_back(std::move(one->curve));
            continue;
        }
        auto one = mapped_curves(curve, std::span(&place, 1), true_share * reach, run);
        if (!one) return about_slot(at_curve(one.error(), set, number), "thing");
        // Where the nearest place jumps no curve can follow.
        if (one->deviation > 1e3 * true_share * reach) jump = std::max(jump, one->deviation);
        made.curves.push_back(std::move(one->curves.front()));
    }
    if (made.curves.empty()) return about_slot(misses_all(), "thing");
    if (jump > 0) run.remark_loss(jumps(jump, in));
    return Value(std::move(made));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto pull = pull_of(in, run);
    if (!pull) return pull.error();
    const Value& thing = in.value("thing");
    if (const auto* set = std::get_if<CurveSet>(&thing)) return pulled(*set, *pull, in, run);
    if (std::holds_alternative<PointLattice>(thing) || std::holds_alternative<FieldOnPoints>(thing))
        return pulled(in.lattice("thing"), *pull, std::holds_alternative<SurfaceSet>(in.value("target")),
                      run);
    const ThingMap map{[&](Vec3 from) -> std::optional<Vec3> {
                           const auto found = (*pull)(from);
                           return found ? std::optional(found->place) : std::nullopt;
                       },
                       bounds_of(in.value("target")).diagonal(), "misses the target",
                       "Keep what lies over it, or pull it straight."};
    return mapped_thing(thing, map, in, run);
}

// Of what is searched: its bays or faces.
double face_count(const Value& target) {
    double faces = 0;
    if (const auto* set = std::get_if<SurfaceSet>(&target)) faces = searched_bays(set->patches);
    if (const auto* mesh = std::get_if<Mesh>(&target)) faces = static_cast<double>(mesh->face_count());
    if (const auto* set = std::get_if<SolidSet>(&target))
        for (const Body& body : set->bodies)
            faces +=
                body.exact() ? searched_bays(body.patches()) : static_cast<double>(body.mesh().face_count());
    return faces;
}

Estimate estimate(const Inputs& in) {
    const double faces = face_count(in.value("target"));
    const Value& thing = in.value("thing");
    if (const auto* set = std::get_if<CurveSet>(&thing)) {
        const double poles = pole_count(*set);
        return {faces * 400 + poles * 3000, faces * 1e-6 + poles * 2e-4};
    }
    if (!std::holds_alternative<PointLattice>(thing) && !std::holds_alternative<FieldOnPoints>(thing)) {
        const Estimate mapped = mapped_estimate(thing, 4e-6, 0);
        return {mapped.bytes + faces * 400, mapped.seconds + faces * 1e-6};
    }
    const auto points = static_cast<double>(in.lattice("thing").address_count());
    return {faces * 400 + points * 60, faces * 1e-6 + points * 4e-6};
}

}  // namespace

StepKind pull_thing() {
    std::vector<SlotSpec> slots = with_direction(
        {reference_slot("thing", "Thing",
                        {Kind::points, Kind::field, Kind::curves, Kind::mesh, Kind::frame, Kind::placements,
                         Kind::directions}),
         reference_slot("target", "Target", {Kind::surface, Kind::mesh, Kind::bodies, Kind::placements}),
         choice_slot("way", "Way",
                     {{"straight", "straight to the nearest place", "square to it"},
                      {"along", "along", "to where a line of that direction meets it first"}})});
    return {
        .key = "thing.pull",
        .verb = "Pull onto a surface",
        .synonyms =
            "project nearest closest drop snap drape plane mesh body points curves lay on distance u v",
        .sentence =
            "Pull {thing} onto {target}, {way}[way=along| {direction}][way=along&direction=placed| of "
            "{placement}].",
        .slots = std::move(slots),
        .results = {Kind::points, Kind::curves, Kind::mesh, Kind::frame, Kind::placements, Kind::directions},
        .result_name = "pulled",
        .help =
            "Points, curves, meshes or placements, each place moved to the nearest one of a surface, a mesh, "
            "a body or the plane of a placement; or along a direction, to the nearest place where the line "
            "meets it either way. Points get the distance they went, and of a surface the shares of u and v "
            "there; a point that meets nothing becomes a gap. Curves lie on a surface to a ten millionth of "
            "the size, on meshes and bodies as polylines to a hundred thousandth. Vertices of a mesh go "
            "where they go; placements turn to stand square to the target.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
