#include "core/geometry/moves/copies.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/solids/caps.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/steps/solids/body_support.hpp"

namespace plume {
namespace {

// Of its size: vertices so near are one.
constexpr double hardly_apart = 1e-9;

// Surfaces that close by themselves stay exact.
Result<SolidSet> exact_bodies(const SurfaceSet& set, const Run& run) {
    SolidSet bodies;
    for (const SplinePatch& patch : set.patches) {
        Result<Body> body = exact_body({patch}, run);
        if (!body) return body.error();
        if (const auto mesh = closed_mesh(*body, body_polygons / 10, run); !mesh) return mesh.error();
        bodies.bodies.push_back(*std::move(body));
    }
    return bodies;
}

Result<Mesh> mesh_of(const Value& thing, const Run& run) {
    if (const auto* mesh = std::get_if<Mesh>(&thing)) return *mesh;
    return mesh_of(std::get<SurfaceSet>(thing), body_polygons, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Value& thing = in.value("thing");
    if (const auto* set = std::get_if<SurfaceSet>(&thing))
        if (auto bodies = exact_bodies(*set, run))
            return some_bodies(*std::move(bodies), "thing", "holds no surface");
    if (run.cancelled()) return cancelled_error();
    Result<Mesh> mesh = mesh_of(thing, run);
    if (!mesh) return about_slot(mesh.error(), "thing");
    if (mesh->face_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "has no faces", "Choose another."}, "thing");
    Mesh closed = welded(*mesh, hardly_apart * mesh->bounds().diagonal());
    if (in.word("ends") == "capped") {
        Result<Mesh> with_caps = capped(closed);
        if (!with_caps) return about_slot(with_caps.error(), "thing");
        closed = *std::move(with_caps);
    }
    Result<SolidSet> bodies = bodies_of(closed, run);
    if (!bodies) return about_slot(bodies.error(), "thing");
    return Value(*std::move(bodies));
}

}  // namespace

StepKind close_bodies() {
    return {
        .key = "body.close",
        .verb = "Make bodies of closed things",
        .synonyms = "solid watertight cap close posts tubes mesh sphere hollow",
        .sentence = "Make bodies of {thing}, and {ends}.",
        .slots = {reference_slot("thing", "Thing", {Kind::mesh, Kind::surface}),
                  choice_slot("ends", "Ends",
                              {{"refused", "refuse open ends", "an open edge is an error that says where"},
                               {"capped", "cap open ends", "by a face over each open rim"}})},
        .results = {Kind::bodies},
        .result_name = "bodies",
        .help =
            "Posts, tubes, closed meshes and surfaces that close by themselves, as bodies with a volume: one "
            "for each piece that hangs together. A surface that closes stays exact.",
        .estimate =
            [](const Inputs& in) {
                if (const auto* mesh = std::get_if<Mesh>(&in.value("thing"))) {
                    const auto corners = static_cast<double>(mesh->corner_count());
                    return Estimate{corners * 60, corners * 5e-7};
                }
                const auto patches = static_cast<double>(in.held<SurfaceSet>("thing").patches.size());
                return Estimate{static_cast<double>(bytes_of(in.value("thing"))) + patches * 1e5,
                                patches * 1e-2};
            },
        .make = make,
    };
}

}  // namespace plume
