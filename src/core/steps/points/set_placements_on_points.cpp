#include "core/base/parallel.hpp"
#include "core/geometry/moves/push.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/steps/moves/axis_slots.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const bool searched = in.word("up") == "surface";
    return {points * (sizeof(Placement) + 3 * sizeof(double)), points * (searched ? 5e-6 : 1e-7)};
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

// That of the surface which is nearest.
Vec3 normal_near(const std::vector<SurfaceSearch>& surfaces, Vec3 point) {
    Vec3 normal;
    double least = std::numeric_limits<double>::infinity();
    for (const SurfaceSearch& surface : surfaces) {
        const PlaceOnSurface found = surface.nearest(point);
        if (!(found.distance < least)) continue;
        least = found.distance;
        normal = surface.normal(found);
    }
    return normal;
}

// Of a slot that is asked for, or nothing.
Result<const DirectionsOnPoints*> directions_at(const Inputs& in, const std::string& slot, bool asked) {
    if (!asked) return nullptr;
    const auto& directions = in.held<DirectionsOnPoints>(slot);
    if (in.lattice("points").same_arrangement(directions.points)) return &directions;
    return about_slot(
        Error{ErrorCode::unlike_arrangement, "", "stand on other points", "Compute them on these points."},
        slot);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::string& up = in.word("up");
    std::optional<Normals> normals;
    if (up == "normal") {
        Result<Normals> found = lattice_normals(points, run);
        if (!found) return found.error();
        remark_missing(*found, points, "get placements with Z upwards", run);
        normals = *std::move(found);
    }
    std::vector<SurfaceSearch> surfaces;
    if (up == "surface")
        for (const SplinePatch& patch : in.held<SurfaceSet>("surface").patches)
            surfaces.emplace_back(patch);
    if (up == "surface" && surfaces.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "holds no surface", "Choose another."},
                          "surface");
    const auto directions = directions_at(in, "directions", up == "directions");
    if (!directions) return directions.error();
    const auto ways = directions_at(in, "way", in.word("along") == "way");
    if (!ways) return ways.error();
    const bool level = in.word("along") == "x";
    std::vector<Placement> placements(points.address_count());
    const bool finished =
        parallel_blocks(placements.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index) {
                if (!points.present(index)) continue;
                const Vec3 axis = normals ? Vec3{normals->x[index], normals->y[index], normals->z[index]}
                                  : *directions      ? (*directions)->direction(index)
                                  : surfaces.empty() ? Vec3{0, 0, 1}
                                                     : normal_near(surfaces, points.point(index));
                const Vec3 along = *ways   ? (*ways)->direction(index)
                                   : level ? Vec3{1, 0, 0}
                                           : along_of(points, index);
                placements[index] = placement_of(points.point(index), axis, along);
            }
        });
    if (!finished) return cancelled_error();
    Result<Placements> made = Placements::make(points, std::move(placements));
    if (!made) return made.error();
    return Value(*std::move(made));
}

}  // namespace

StepKind set_placements_on_points() {
    return {
        .key = "placement.on_lattice",
        .verb = "Set placements on points",
        .synonyms = "coordinate systems frames planes normals lattice",
        .sentence =
            "Set placements on {points} with {up}[up=directions| {directions}][up=surface| {surface}] "
            "upwards and {along}[along=way| {way}] along.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("up", "Up",
                              {{"normal", "the normals", "square to the lattice"},
                               {"z", "Z", ""},
                               {"directions", "the directions", "of a direction field"},
                               {"surface", "the normals of", "the surface they stand on, or the nearest"}}),
                  reference_slot("directions", "Directions", {Kind::directions}),
                  reference_slot("surface", "Surface", {Kind::surface}),
                  choice_slot("along", "Along",
                              {{"i", "the rows", "towards the next point of the row"},
                               {"x", "X", ""},
                               {"way", "the directions", "of a direction field: wind, slope, curvature"}}),
                  reference_slot("way", "Way", {Kind::directions})},
        .results = {Kind::placements},
        .result_name = "placements",
        .help =
            "Axes on every point of a lattice: up by its normals or a direction, and along as near as can be "
            "to "
            "the rows or to a direction field, so that what is copied to them turns with it.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
