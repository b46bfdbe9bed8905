#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

PointLattice one_point(Vec3 place) {
    return points_at({Arrangement::row, {1, 1, 1}, {}}, std::span(&place, 1));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::vector<Vec3> points = finite_points(in.lattice("points")).places;
    if (points.empty())
        return about_slot(
            Error{ErrorCode::empty_input, "", "have no finite coordinates", "Choose other points."},
            "points");
    const std::string& what = in.word("what");
    if (what == "centroid") return Value(one_point(centroid(points)));
    if (what == "extents") {
        Box box;
        for (const Vec3 point : points)
            box.include(point);
        std::vector<Vec3> corners;
        for (const double z : {box.low.z, box.high.z})
            for (const double y : {box.low.y, box.high.y})
                for (const double x : {box.low.x, box.high.x})
                    corners.push_back({x, y, z});
        return Value(points_at({Arrangement::block, {2, 2, 2}, {}}, corners));
    }
    const BestFit fit = best_fit(points);
    run.remark("The point furthest from the plane is " + quantity_text({fit.worst, a_length}, in.units()) +
               " off it.");
    Result<Placements> placements = Placements::make(one_point(fit.placement.origin), {fit.placement});
    if (!placements) return placements.error();
    return Value(*std::move(placements));
}

}  // namespace

StepKind sum_up_points() {
    return {
        .key = "points.sum_up",
        .verb = "Take centroid, extents or best-fit plane",
        .synonyms = "middle average bounding box corners plane fit centre",
        .sentence = "Take {what} of {points}.",
        .slots = {choice_slot(
                      "what", "What",
                      {{"centroid", "the centroid", "the mean of the points"},
                       {"extents", "the corners of the extents", "eight, of the box along the axes"},
                       {"plane", "the best-fit plane", "a placement: least squares of the distances"}}),
                  reference_slot("points", "Points", {Kind::points, Kind::field, Kind::placements})},
        .results = {Kind::points, Kind::placements},
        .result_name = "middle",
        .help =
            "One point, eight, or a plane that stand for many points: as an origin, an attractor or the "
            "plane of "
            "other steps.",
        .estimate =
            [](const Inputs& in) {
                const auto points = static_cast<double>(in.lattice("points").address_count());
                return Estimate{points * sizeof(Vec3), points * 2e-8};
            },
        .make = make,
    };
}

}  // namespace plume
