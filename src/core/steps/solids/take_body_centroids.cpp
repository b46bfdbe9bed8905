#include "core/geometry/parts/subset.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run&) {
    const SolidSet& set = in.held<SolidSet>("bodies");
    if (set.bodies.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no body", "Choose another."}, "bodies");
    std::vector<Vec3> places;
    Doubles volumes, areas;
    for (const Body& body : set.bodies) {
        places.push_back(body.figures().centroid);
        volumes.push_back(body.figures().volume);
        areas.push_back(body.figures().area);
    }
    const PointLattice row = points_at({Arrangement::row, {places.size(), 1, 1}, {}}, places);
    return Value(row.with_field({"volume", std::move(volumes), {3, 0}})
                     .with_field({"area", std::move(areas), {2, 0}}));
}

}  // namespace

StepKind take_body_centroids() {
    return {
        .key = "points.body_centroids",
        .verb = "Take the centroids of bodies",
        .synonyms = "centre of gravity mass middle volume barycentre each",
        .sentence = "Take the centroid of each of {bodies}.",
        .slots = {bodies_slot()},
        .results = {Kind::points},
        .result_name = "centres",
        .help = "A row with one point for each body, in their order, with its volume and its surface area.",
        .estimate =
            [](const Inputs& in) {
                const auto bodies = static_cast<double>(in.held<SolidSet>("bodies").bodies.size());
                return Estimate{bodies * 100 + 1000, bodies * 1e-7};
            },
        .make = make,
    };
}

}  // namespace plume
