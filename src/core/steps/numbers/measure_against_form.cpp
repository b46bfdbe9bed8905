#include <atomic>
#include <cmath>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/geometry/surfaces/form_search.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

// Of the form's size: what a ray leaves is not what it meets.
constexpr double leaves_share = 1e-6;

// What is measured at a place; not a number where there is no answer.
using Measure = std::function<double(Vec3 place)>;

Measure height_above(const FormSearch& form, Vec3 up) {
    const double touch = leaves_share * form.size();
    return [&form, up, touch](Vec3 place) {
        // From a little above, so that what lies on the form has a height of 0 and not that over a lower
        // part.
        if (const auto below = form.first_along(place + up * touch, up * -1, 0))
            return below->distance - touch;
        const auto above = form.first_along(place, up, 0);
        return above ? -above->distance : nan;
    };
}

Measure thickness_at(const FormSearch& form) {
    return [&form](Vec3 place) {
        const PlaceOnForm on = form.nearest(place);
        const auto other = form.first_along(on.place, on.normal * -1, leaves_share * form.size());
        return other ? other->distance : nan;
    };
}

Measure share_in_sight(const FormSearch& form, std::vector<Vec3> goals) {
    return [&form, goals = std::move(goals)](Vec3 place) {
        double seen = 0;
        for (const Vec3 goal : goals) {
            const double far = length(goal - place), close = leaves_share * form.size();
            const auto met =
                far > 2 * close ? form.first_along(place, (goal - place) * (1 / far), close) : std::nullopt;
            if (!met || met->distance > far - close) seen += 1;
        }
        return seen / static_cast<double>(goals.size());
    };
}

Result<std::vector<Vec3>> goals_of(const Inputs& in) {
    std::vector<Vec3> goals;
    if (const auto* attractors = std::get_if<Attractors>(&in.value("goals"))) {
        for (const Attractor& item : attractors->items())
            goals.push_back(item.position);
    } else if (const PointLattice* lattice = lattice_of(in.value("goals"))) {
        for (std::size_t index = 0; index < lattice->address_count(); ++index)
            if (lattice->present(index) && is_finite(lattice->point(index)))
                goals.push_back(lattice->point(index));
    }
    if (goals.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "hold no place", "Choose others."}, "goals");
    return goals;
}

Result<Measure> measure_of(const FormSearch& form, const Inputs& in) {
    const std::string& what = in.word("what");
    if (what == "height") return height_above(form, way_of(in));
    if (what == "thickness") {
        if (form.closed()) return thickness_at(form);
        return about_slot(Error{ErrorCode::wrong_kind, "", "is open and has no thickness",
                                "Choose a body or a closed mesh, or measure the distance to it."},
                          "form");
    }
    if (what == "sight") {
        auto goals = goals_of(in);
        if (!goals) return goals.error();
        return share_in_sight(form, *std::move(goals));
    }
    return Measure([&form](Vec3 place) { return form.signed_distance(place); });
}

void remark_unknown(std::size_t count, const std::string& what, const Run& run) {
    if (count == 0) return;
    const bool one = count == 1;
    run.remark_loss(grouped_text(static_cast<std::int64_t>(count)) +
                    (what == "height" ? (one ? " point has nothing below or above it and gets no height."
                                             : " points have nothing below or above them and get no height.")
                                      : (one ? " point is not finite or meets nothing and gets no number."
                                             : " points are not finite or meet nothing and get no number.")));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto form = FormSearch::make(in.value("form"), run);
    if (!form) return about_slot(form.error(), "form");
    const auto measure = measure_of(*form, in);
    if (!measure) return measure.error();
    const PointLattice& points = in.lattice("points");
    Doubles numbers(points.address_count());
    std::atomic<std::size_t> unknown = 0;
    const bool done = parallel_blocks(numbers.size(), 512, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t index = begin; index < end; ++index) {
            const Vec3 place = points.point(index);
            numbers[index] = points.present(index) && is_finite(place) ? (*measure)(place) : nan;
            if (points.present(index) && !std::isfinite(numbers[index])) ++unknown;
        }
    });
    if (!done) return cancelled_error();
    remark_unknown(unknown, in.word("what"), run);
    const Dimension dimension = in.word("what") == "sight" ? plain_number : a_length;
    return Value(FieldOnPoints{points.with_field({in.result_name(), std::move(numbers), dimension}),
                               in.result_name()});
}

double goal_count(const Inputs& in) {
    if (const PointLattice* lattice = lattice_of(in.value("goals")))
        return static_cast<double>(lattice->address_count());
    return static_cast<double>(in.held<Attractors>("goals").items().size());
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const auto form = static_cast<double>(bytes_of(in.value("form")));
    double rays = 1;
    if (in.word("what") == "sight") rays = std::max(1.0, goal_count(in));
    return {points * sizeof(double) + form * 12, form * 1e-7 + points * rays * 4e-6};
}

}  // namespace

StepKind measure_against_form() {
    return {
        .key = "field.of_form",
        .verb = "Measure points against a form",
        .synonyms =
            "distance signed inside outside nearest height above ground clearance headroom thickness wall "
            "visibility sight view occlusion surface mesh body",
        .sentence =
            "Measure, at each of {points}, {what} {form}[what=height|, along {direction}]"
            "[what=height&direction=placed| of {placement}][what=sight|, of {goals}].",
        .slots = with_direction(
            {reference_slot("points", "Points", {Kind::points, Kind::field}),
             choice_slot("what", "What",
                         {{"distance", "the distance to", "below 0 inside of a body"},
                          {"height", "the height above", "down to it; below 0 where it is above"},
                          {"thickness", "the thickness of", "through a body, from its nearest place"},
                          {"sight", "the share that is seen past", "of places: 1 sees all, 0 none"}}),
             reference_slot("form", "Form", {Kind::surface, Kind::mesh, Kind::bodies}),
             reference_slot("goals", "Places", {Kind::points, Kind::attractors, Kind::placements})}),
        .results = {Kind::field},
        .result_name = "clearance",
        .help =
            "A number on each point that says how it lies to a surface, a mesh or bodies. Exact surfaces are "
            "searched exactly. The thickness is measured square to the nearest place of the form. Bodies "
            "that "
            "overlap count each for itself: join them first.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
