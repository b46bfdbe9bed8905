#include <algorithm>

#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/frames/delaunay.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/parts/scattered.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/frames/frame_support.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {
namespace {

// A plane that points are laid into and come back from: the ground, or the parameters of a patch, stretched
// so that lengths are true in the mean.
struct Sheet {
    std::vector<Vec3> flat;  // the points in the plane
    PlaneRegion region;
    std::function<Vec3(Vec3 flat)> back;
};

Result<PlaneRegion> region_inside(const Inputs& in) {
    const auto outline = only_curve(in, "outline");
    if (!outline) return outline.error();
    if (!outline->closed())
        return about_slot(Error{ErrorCode::unlike_arrangement, "", "is open", "Close it."}, "outline");
    PlaneRegion region;
    const bool straight = outline->basis().degree == 1;
    for (const Vec3 place : sample(*outline, usual_tolerance(*outline)).points) {
        region.places.push_back({place.x, place.y, 0});
        region.corner.push_back(straight ? 1 : 0);
    }
    return region;
}

// Mean lengths of the patch along u and v, at the middles of a few bays.
std::pair<double, double> mean_lengths(const SplinePatch& patch) {
    constexpr int looks = 8;
    const PatchEvaluator evaluator(patch);
    double along_u = 0, along_v = 0;
    for (int a = 0; a < looks; ++a)
        for (int b = 0; b < looks; ++b) {
            const auto at = [&](const SplineBasis& basis, int n) {
                return basis.start() + (basis.end() - basis.start()) * (n + 0.5) / looks;
            };
            const SurfacePoint point = evaluator.at(at(patch.u(), a), at(patch.v(), b));
            along_u += length(point.along_u);
            along_v += length(point.along_v);
        }
    return {along_u / (looks * looks), along_v / (looks * looks)};
}

Result<Sheet> sheet_on_surface(const Inputs& in, const std::vector<Vec3>& places) {
    const auto patch = only_patch(in, "points are joined on one");
    if (!patch) return patch.error();
    const auto [by_u, by_v] = mean_lengths(*patch);
    if (!(by_u > 0) || !(by_v > 0))
        return about_slot(Error{ErrorCode::out_of_range, "", "has no extent", "Choose another."}, "surface");
    const SurfaceSearch search(*patch);
    Sheet sheet;
    for (const Vec3 place : places) {
        const PlaceOnSurface there = search.nearest(place);
        sheet.flat.push_back({there.u * by_u, there.v * by_v, 0});
    }
    const double u0 = patch->u().start() * by_u, u1 = patch->u().end() * by_u, v0 = patch->v().start() * by_v,
                 v1 = patch->v().end() * by_v;
    sheet.region = {{{u0, v0, 0}, {u1, v0, 0}, {u1, v1, 0}, {u0, v1, 0}}, {1, 1, 1, 1}};
    sheet.back = [evaluator = std::make_shared<PatchEvaluator>(*patch), patch = *patch, by_u = by_u,
                  by_v = by_v](Vec3 flat) {
        return evaluator
            ->at(std::clamp(flat.x / by_u, patch.u().start(), patch.u().end()),
                 std::clamp(flat.y / by_v, patch.v().start(), patch.v().end()))
            .position;
    };
    return sheet;
}

Result<Sheet> sheet_of(const Inputs& in, const std::vector<Vec3>& places) {
    if (in.word("where") == "surface") return sheet_on_surface(in, places);
    Sheet sheet{places, region_about(places), {}};
    double height = 0;
    for (const Vec3 place : places)
        height += place.z / static_cast<double>(places.size());
    sheet.back = [height](Vec3 flat) { return Vec3{flat.x, flat.y, height}; };
    if (in.word("where") != "outline") return sheet;
    auto region = region_inside(in);
    if (!region) return region.error();
    sheet.region = *std::move(region);
    return sheet;
}

// Within an outline only sides whose middles lie inside.
Pairs sides_inside(const Inputs& in, const Sheet& sheet) {
    Pairs pairs = delaunay_pairs(sheet.flat);
    if (in.word("where") == "outline")
        std::erase_if(pairs, [&](const auto& pair) {
            return !sheet.region.contains((sheet.flat[pair.first] + sheet.flat[pair.second]) * 0.5);
        });
    return pairs;
}

Result<Value> cells_framed(const Sheet& sheet, const Run& run) {
    auto net = voronoi_net(sheet.flat, sheet.region, run);
    if (!net) return about_slot(net.error(), "points");
    for (Vec3& place : net->places)
        place = sheet.back(place);
    std::vector<std::size_t> addresses(net->places.size());
    for (std::size_t at = 0; at < addresses.size(); ++at)
        addresses[at] = at;
    if (net->places.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "has no cell inside", "Enlarge it."}, "outline");
    return frame_of_pairs(scattered(net->places), addresses, net->pairs, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const auto joined = points_to_join(in, "left out", run);
    if (!joined) return joined.error();
    const auto& [places, addresses] = *joined;
    const auto sheet = sheet_of(in, places);
    if (!sheet) return sheet.error();
    if (in.word("cells") == "voronoi") return cells_framed(*sheet, run);
    return frame_of_pairs(points, addresses, sides_inside(in, *sheet), run);
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const bool cells = in.word("cells") == "voronoi";
    return {points * (cells ? 900 : 420), points * (cells ? 1.2e-5 : 3e-6)};
}

}  // namespace

StepKind frame_cells() {
    return {
        .key = "frame.cells",
        .verb = "Join points into triangles or cells",
        .synonyms = "delaunay voronoi triangulation network bars members foam tessellation",
        .sentence = "Join {points} into {cells} {where}[where=outline| {outline}][where=surface| {surface}].",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("cells", "Cells",
                              {{"triangles", "Delaunay triangles", "no point lies in another's circle"},
                               {"voronoi", "Voronoi cells", "around each point what is nearest to it"}}),
                  choice_slot("where", "Where",
                              {{"plan", "in plan", "by x and y"},
                               {"outline", "in plan, within", "a closed outline"},
                               {"surface", "on", "a surface, by its parameters"}}),
                  reference_slot("outline", "Outline", {Kind::curves}), surface_slot()},
        .results = {Kind::frame},
        .result_name = "cells",
        .help =
            "Members of a net among points: the sides of their Delaunay triangles, between the points "
            "themselves, or those of their Voronoi cells, cut at the rim of an outline, of a surface, or of "
            "a "
            "rectangle a little larger than the points, whose pieces are members too. Within an outline "
            "triangles have the sides whose middles lie inside. On a surface points are joined as they lie "
            "over its parameters, stretched to its mean lengths, and cells end at its seam.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
