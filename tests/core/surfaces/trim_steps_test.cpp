#include <numbers>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

// A wall of 6 by 4 m over a line, and a circle of 1 m in its plane, both about the origin.
StudyMaker wall(Vec3 from, Vec3 to, const std::string& plane) {
    const auto metres = [](double number) { return std::to_string(number) + " m"; };
    StudyMaker maker;
    maker.add("curve.arc", "base");
    maker.word("base", "shape", "line");
    maker.set("base", "ends",
              Places{{"a", metres(from.x), metres(from.y), metres(from.z), "1"},
                     {"b", metres(to.x), metres(to.y), metres(to.z), "1"}});
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"base"}).number("wall", "by", "4 m").word("wall", "direction", "z");
    maker.add("outline.shape", "window");
    maker.word("window", "shape", "circle").word("window", "plane", plane).number("window", "radius", "1 m");
    maker.add("surface.trim", "trimmed");
    maker.set("trimmed", "surface", ResultName{"wall"}).set("trimmed", "curve", ResultName{"window"});
    return maker;
}

const SurfaceSet& surfaces(const Evaluation& evaluation, const char* name) {
    return std::get<SurfaceSet>(*evaluation.outcome(name)->value);
}

TEST(TrimSteps, OutlinesAreCastAlongAnyAxis) {
    StudyMaker facing_y = wall({-3, 5, -2}, {3, 5, -2}, "xz"), facing_x = wall({7, -3, -2}, {7, 3, -2}, "yz");
    facing_y.word("trimmed", "direction", "y");
    facing_x.word("trimmed", "direction", "x");
    for (StudyMaker* maker : {&facing_y, &facing_x}) {
        const Evaluation made = test::run(maker->study);
        ASSERT_TRUE(made.outcome("trimmed")->value) << sentence(*made.outcome("trimmed")->error);
        EXPECT_NEAR(*area_of(surfaces(made, "trimmed"), plume::Run()), 24 - pi, 1e-9);
    }
    // Along the plane of the wall nothing is thrown.
    const Evaluation beside = test::run(facing_y.word("trimmed", "direction", "z").study);
    ASSERT_FALSE(beside.outcome("trimmed")->value);
    EXPECT_EQ(beside.outcome("trimmed")->error->slot, "curve");
}

TEST(TrimSteps, MeshesHaveTheHoles) {
    StudyMaker maker = wall({-3, 5, -2}, {3, 5, -2}, "xz");
    maker.word("trimmed", "direction", "y");
    const Evaluation made = test::run(maker.study);
    SplinePatch::Parts parts = surfaces(made, "trimmed").patches.front().parts();
    parts.fields = {{"height", parts.z, a_length}};
    const SurfaceSet set{{*SplinePatch::make(parts), *SplinePatch::make(parts)}};
    const Mesh mesh = *mesh_of(set, 5000, plume::Run());
    EXPECT_NEAR(area(mesh), 2 * (24 - pi), 2e-2);
    EXPECT_EQ(mesh.part_count(), 2U);
    const Field& height = mesh.fields().front();
    EXPECT_EQ(height.name, "height");
    for (std::size_t at = 0; at < mesh.vertex_count(); ++at) {
        EXPECT_NEAR(height.values[at], mesh.vertex(at).z, 1e-12);
        EXPECT_GT(std::hypot(mesh.vertex(at).x, mesh.vertex(at).z), 1 - 1e-9) << "in the hole";
    }
}

TEST(TrimSteps, WhatMissesIsSaid) {
    StudyMaker maker = wall({-3, 5, -2}, {3, 5, -2}, "xz");
    maker.word("trimmed", "direction", "y").word("trimmed", "keep", "inside");
    maker.add("thing.move", "elsewhere");
    maker.set("elsewhere", "thing", ResultName{"window"}).number("elsewhere", "x", "20 m");
    StudyMaker away = maker;
    away.add("surface.trim", "nothing");
    away.set("nothing", "surface", ResultName{"wall"}).set("nothing", "curve", ResultName{"elsewhere"});
    away.word("nothing", "direction", "y");
    const Evaluation missed = test::run(away.study);
    ASSERT_FALSE(missed.outcome("nothing")->value);
    EXPECT_NE(missed.outcome("nothing")->error->message.find("misses the surface"), std::string::npos);
    // Of two one may miss: the other cuts, and that is remarked.
    maker.add("thing.repeat", "two");
    maker.set("two", "thing", ResultName{"window"}).number("two", "count", "2").number("two", "x", "20 m");
    maker.add("surface.trim", "one");
    maker.set("one", "surface", ResultName{"wall"}).set("one", "curve", ResultName{"two"});
    maker.word("one", "direction", "y").word("one", "keep", "inside");
    const Evaluation made = test::run(maker.study);
    const Outcome& one = *made.outcome("one");
    ASSERT_TRUE(one.value) << sentence(*one.error);
    EXPECT_NEAR(*area_of(surfaces(made, "one"), plume::Run()), pi, 1e-9);
    ASSERT_EQ(one.remarks.size(), 1U);
    EXPECT_TRUE(one.remarks.front().loss);
}

TEST(TrimSteps, OffsetsFlipsAndRimsOfTrimmedSurfaces) {
    StudyMaker maker = wall({-3, 5, -2}, {3, 5, -2}, "xz");
    maker.word("trimmed", "direction", "y");
    maker.add("surface.offset", "offset");
    maker.set("offset", "surface", ResultName{"trimmed"}).number("offset", "by", "1 m");
    maker.add("surface.flip", "flipped");
    maker.set("flipped", "surface", ResultName{"offset"}).word("flipped", "way", "swapped");
    maker.add("curve.on_surface", "rims");
    maker.set("rims", "surface", ResultName{"flipped"}).word("rims", "which", "rims");
    const Evaluation made = test::run(maker.study);
    for (const char* name : {"offset", "flipped"})
        EXPECT_NEAR(*area_of(surfaces(made, name), plume::Run()), 24 - pi, 1e-9) << name;
    const auto& rims = std::get<CurveSet>(*made.outcome("rims")->value);
    ASSERT_EQ(rims.curves.size(), 2U);
    EXPECT_NEAR(length_of(rims.curves[0]), 20, 1e-9);
    EXPECT_NEAR(length_of(rims.curves[1]), 2 * pi, 1e-9);
}

}  // namespace
}  // namespace plume
