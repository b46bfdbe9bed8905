#include "core/base/parallel.hpp"
#include "core/geometry/push.hpp"
#include "core/steps/axis_slots.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {points * (sizeof(Frame) + 3 * sizeof(double)), points * 1e-7};
}

// Towards the next point along i, or from the one before at the end and before a gap; X where neither is.
Vec3 along_of(const PointLattice& points, std::size_t index) {
    const Address at = points.address(index);
    const std::size_t columns = points.counts()[0];
    const auto neighbour = [&](bool next) -> std::optional<Vec3> {
        if (!points.closed(0) && at.i == (next ? columns - 1 : 0)) return {};
        const std::size_t to = points.index({(at.i + (next ? 1 : columns - 1)) % columns, at.j, at.k});
        return points.present(to) ? std::optional(points.point(to)) : std::nullopt;
    };
    if (const auto next = neighbour(true)) return *next - points.point(index);
    const auto before = neighbour(false);
    return before ? points.point(index) - *before : Vec3{1, 0, 0};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::string& up = in.word("up");
    std::optional<Normals> normals;
    if (up == "normal") {
        Result<Normals> found = lattice_normals(points, run);
        if (!found) return found.error();
        remark_missing(*found, points, "get frames with Z upwards", run);
        normals = *std::move(found);
    }
    const auto* directions =
        up == "directions" ? &std::get<DirectionsOnPoints>(in.value("directions")) : nullptr;
    if (directions && !points.same_arrangement(directions->points))
        return Error{ErrorCode::unlike_arrangement, "Directions", "stand on other points",
                     "Compute them on these points."};
    const bool level = in.word("along") == "x";
    std::vector<Frame> frames(points.address_count());
    const bool finished =
        parallel_blocks(frames.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index) {
                const Vec3 axis = normals      ? Vec3{normals->x[index], normals->y[index], normals->z[index]}
                                  : directions ? directions->direction(index)
                                               : Vec3{0, 0, 1};
                frames[index] =
                    frame_of(points.point(index), axis, level ? Vec3{1, 0, 0} : along_of(points, index));
            }
        });
    if (!finished) return cancelled_error();
    Result<Placements> placements = Placements::make(points, std::move(frames));
    if (!placements) return placements.error();
    return Value(*std::move(placements));
}

}  // namespace

StepKind place_on_lattice() {
    return {
        .key = "placement.on_lattice",
        .verb = "Place frames on points",
        .synonyms = "coordinate systems planes normals lattice",
        .sentence =
            "Place frames on {points} with {up}[up=directions| {directions}] upwards and {along} along.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("up", "Up",
                              {{"normal", "the normals", "square to the lattice"},
                               {"z", "Z", ""},
                               {"directions", "the directions", "of a direction field"}}),
                  reference_slot("directions", "Directions", {Kind::directions}),
                  choice_slot("along", "Along",
                              {{"i", "the rows", "towards the next point of the row"}, {"x", "X", ""}})},
        .results = {Kind::placements},
        .result_name = "frames",
        .help = "A coordinate frame on every point of a lattice.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
