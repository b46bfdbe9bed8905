#include "core/geometry/best_fit.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

std::vector<Vec3> finite_points(const PointLattice& points) {
    std::vector<Vec3> finite;
    for (std::size_t index = 0; index < points.address_count(); ++index)
        if (points.present(index) && is_finite(points.point(index))) finite.push_back(points.point(index));
    return finite;
}

PointLattice block_of(const std::vector<Vec3>& places, std::array<std::size_t, 3> counts) {
    Doubles x, y, z;
    for (const Vec3 place : places) {
        x.push_back(place.x);
        y.push_back(place.y);
        z.push_back(place.z);
    }
    PointLattice::Parts parts;
    parts.arrangement = counts[2] > 1 ? Arrangement::block : Arrangement::row;
    parts.counts = counts;
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *PointLattice::make(std::move(parts));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const std::vector<Vec3> points = finite_points(in.lattice("points"));
    if (points.empty())
        return Error{ErrorCode::empty_input, "Points", "have no finite coordinates", "Choose other points."};
    const std::string& what = in.word("what");
    if (what == "centroid") return Value(block_of({centroid(points)}, {1, 1, 1}));
    if (what == "extents") {
        Box box;
        for (const Vec3 point : points)
            box.include(point);
        std::vector<Vec3> corners;
        for (const double z : {box.low.z, box.high.z})
            for (const double y : {box.low.y, box.high.y})
                for (const double x : {box.low.x, box.high.x})
                    corners.push_back({x, y, z});
        return Value(block_of(corners, {2, 2, 2}));
    }
    const BestFit fit = best_fit(points);
    run.remark("The point furthest from the plane is " + quantity_text({fit.worst, a_length}, in.units()) +
               " off it.");
    Result<Placements> placements = Placements::make(block_of({fit.frame.origin}, {1, 1, 1}), {fit.frame});
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
        .make = make,
    };
}

}  // namespace plume
