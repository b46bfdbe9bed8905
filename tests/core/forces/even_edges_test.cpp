// Edges drawn to one length on a form.

#include "core/forces/even_edges.hpp"

#include <cmath>
#include <random>

#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

Vec3 onto_plane(Vec3 at) {
    return {at.x, at.y, 0};
}
Vec3 onto_ball(Vec3 at) {
    return unit_or_zero(at) * 2;
}

// Triangles over a square of so many bays, shaken by a share of a bay.
Mesh shaken(std::uint32_t bays, double share, bool cut = true) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> by(-share, share);
    std::vector<Vec3> places;
    for (std::uint32_t j = 0; j <= bays; ++j)
        for (std::uint32_t i = 0; i <= bays; ++i)
            places.push_back(
                {i + 0.5 * j * (cut ? 1 : 0) + by(random), j * (cut ? std::sqrt(0.75) : 1) + by(random), 0});
    Mesh::Parts parts;
    set_vertices(parts, places);
    const auto add = [&](std::initializer_list<std::uint32_t> corners) {
        parts.corners.insert(parts.corners.end(), corners);
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    };
    for (std::uint32_t j = 0; j < bays; ++j)
        for (std::uint32_t i = 0; i < bays; ++i) {
            const std::uint32_t a = j * (bays + 1) + i, b = a + 1, c = a + bays + 2, d = c - 1;
            if (!cut) add({a, b, c, d});
            if (cut) add({a, b, d});
            if (cut) add({b, c, d});
        }
    return *Mesh::make(std::move(parts));
}

EvenEdgesWishes wishes_on(const std::function<Vec3(Vec3)>& onto, double spread, std::size_t rounds = 3000) {
    EvenEdgesWishes wishes;
    wishes.onto = onto;
    wishes.spread = spread;
    wishes.rounds = rounds;
    return wishes;
}

// What equal triangles fill, they can become again.
TEST(EvenEdges, ThePlaneIsFilledByEqualTriangles) {
    const Mesh mesh = shaken(8, 0.2);
    const auto made = even_edges(mesh, wishes_on(onto_plane, 1e-3), plume::Run());
    ASSERT_TRUE(made);
    EXPECT_LE(made->spread, 1e-3);
    for (const auto& [a, b] : sides_of(mesh).ends)
        EXPECT_NEAR(length(made->at[b] - made->at[a]), made->length, 1.1e-3 * made->length);
    // A degree of freedom less: as long as is asked.
    EvenEdgesWishes longer = wishes_on(onto_plane, 1e-3);
    longer.length = 2;
    EXPECT_LE(even_edges(mesh, longer, plume::Run())->spread, 1e-3);
    EXPECT_EQ(even_edges(mesh, longer, plume::Run())->length, 2);
}

// A tetrahedron on a ball of radius r has edges of r times the root of 8/3.
TEST(EvenEdges, OnABallATetrahedronBecomesRegular) {
    Mesh::Parts parts;
    set_vertices(parts, {{0, 0, 2}, {1.9, 0.1, 0.2}, {-0.5, 1.5, -0.4}, {-0.2, -1.7, -0.9}});
    parts.corners = {0, 1, 2, 0, 2, 3, 0, 3, 1, 1, 3, 2};
    parts.first = {0, 3, 6, 9, 12};
    const auto made = even_edges(*Mesh::make(std::move(parts)), wishes_on(onto_ball, 1e-9), plume::Run());
    EXPECT_NEAR(made->length, 2 * std::sqrt(8.0 / 3), 1e-6);
    EXPECT_LE(made->spread, 1e-9);
    for (const Vec3 at : made->at)
        EXPECT_NEAR(length(at), 2, 1e-12);
}

TEST(EvenEdges, WhatIsHeldStaysAndRoundsAreCounted) {
    const Mesh mesh = shaken(6, 0.2, false);
    EvenEdgesWishes wishes = wishes_on(onto_plane, 0, 40);
    wishes.held.assign(mesh.vertex_count(), 0);
    for (std::size_t at = 0; at < 7; ++at)
        wishes.held[at] = 1;
    const auto made = even_edges(mesh, wishes, plume::Run());
    EXPECT_EQ(made->rounds, 40U);
    for (std::size_t at = 0; at < 7; ++at)
        EXPECT_EQ(made->at[at], mesh.vertex(at));
    const auto before = even_edges(mesh, wishes_on(onto_plane, 10), plume::Run());
    EXPECT_EQ(before->rounds, 0U);
    EXPECT_LT(made->spread, before->spread);
}

TEST(EvenEdges, BadOnesAreRefused) {
    EXPECT_EQ(even_edges(*Mesh::make({}), wishes_on(onto_plane, 0.1), plume::Run()).error().code,
              ErrorCode::empty_input);
    Mesh::Parts parts = shaken(2, 0).parts();
    std::vector<Vec3> places = vertex_places(shaken(2, 0));
    places[3].y = NAN;
    set_vertices(parts, places);
    EXPECT_EQ(
        even_edges(*Mesh::make(std::move(parts)), wishes_on(onto_plane, 0.1), plume::Run()).error().code,
        ErrorCode::not_finite);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(even_edges(shaken(2, 0.1), wishes_on(onto_plane, 0), cancelled).error().code,
              ErrorCode::cancelled);
}

test::StudyMaker square_grid(const char* bays, const char* size) {
    test::StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    for (const char* slot : {"columns", "rows"})
        maker.number("grid", slot, bays);
    for (const char* slot : {"width", "depth"})
        maker.number("grid", slot, size);
    return maker;
}

// By the step: vertices stay on the roof's faces, and edges become more alike.
TEST(EvenEdges, TheStepKeepsToItsForm) {
    test::StudyMaker maker = square_grid("8", "4 m");
    maker.add("points.move_formula", "domed");
    maker.formula("domed", "to_z = 1 m * cos(45° * x / 1 m) * cos(45° * y / 1 m)");
    maker.add("skin", "roof");
    maker.word("roof", "surface", "flat");
    maker.add("forces.hold", "held");
    maker.add("mesh.even_edges", "evened");
    maker.number("evened", "rounds", "100");
    const Evaluation made = test::run(maker.study);
    const Mesh roof = std::get<Mesh>(test::value_of(made, "roof")),
               evened = std::get<Mesh>(test::value_of(made, "evened"));
    const auto spread = [](const Mesh& mesh) {
        double least = 1e9, most = 0;
        for (const auto& [a, b] : sides_of(mesh).ends) {
            least = std::min(least, length(mesh.vertex(b) - mesh.vertex(a)));
            most = std::max(most, length(mesh.vertex(b) - mesh.vertex(a)));
        }
        return most / least;
    };
    EXPECT_LT(spread(evened), 1 + 0.5 * (spread(roof) - 1));
    for (const std::size_t corner : {0U, 8U, 72U, 80U})
        EXPECT_EQ(evened.vertex(corner), roof.vertex(corner));
    EXPECT_NE(test::remarks_of(made, "evened").find("long and differ from it by at most"), std::string::npos);
}

TEST(EvenEdges, TheStepGoesOntoAnotherForm) {
    test::StudyMaker maker = square_grid("6", "2 m");
    maker.add("skin", "flat");
    maker.word("flat", "surface", "flat");
    maker.add("points.move_formula", "domed");
    maker.set("domed", "points", ResultName{"grid"}).formula("domed", "to_z = 1 m - x * x / 4 m");
    maker.add("skin", "roof");
    maker.set("roof", "points", ResultName{"domed"}).word("roof", "surface", "smooth");
    maker.add("mesh.even_edges", "evened");
    maker.set("evened", "mesh", ResultName{"flat"})
        .word("evened", "on", "form")
        .set("evened", "on_form", ResultName{"roof"});
    const Mesh evened = std::get<Mesh>(test::value_of(test::run(maker.study), "evened"));
    for (std::size_t at = 0; at < evened.vertex_count(); ++at) {
        const Vec3 place = evened.vertex(at);
        EXPECT_NEAR(place.z, 1 - place.x * place.x / 4, 1e-3) << "on the vault";
    }
}

}  // namespace
}  // namespace plume
