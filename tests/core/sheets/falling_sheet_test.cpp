// Sheets that fall: against closed forms, and that nothing ever goes through anything.

#include "core/sheets/falling_sheet.hpp"

#include <oneapi/tbb/global_control.h>

#include <limits>

#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double frame_s = 1.0 / 30;

// Squares in the XY plane, `columns` by `rows`, lifted by a function.
Mesh sheet_of(std::uint32_t columns, std::uint32_t rows, double size,
              const std::function<double(double, double)>& lift = {}) {
    Mesh::Parts parts;
    Doubles x, y, z;
    for (std::uint32_t j = 0; j <= rows; ++j)
        for (std::uint32_t i = 0; i <= columns; ++i) {
            x.push_back(size * i);
            y.push_back(size * j);
            z.push_back(lift ? lift(size * i, size * j) : 0);
        }
    for (std::uint32_t j = 0; j < rows; ++j)
        for (std::uint32_t i = 0; i < columns; ++i) {
            const std::uint32_t a = j * (columns + 1) + i, c = a + columns + 2;
            parts.corners.insert(parts.corners.end(), {a, a + 1, c, c - 1});
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    parts.x = Column(std::move(x));
    parts.y = Column(std::move(y));
    parts.z = Column(std::move(z));
    return *Mesh::make(std::move(parts));
}

// An octahedron whose faces are cut into four, `times` times, on a ball.
Mesh ball(Vec3 centre, double radius, int times) {
    std::vector<Vec3> at{{1, 0, 0}, {-1, 0, 0}, {0, 1, 0}, {0, -1, 0}, {0, 0, 1}, {0, 0, -1}};
    std::vector<std::array<std::uint32_t, 3>> faces{{0, 2, 4}, {2, 1, 4}, {1, 3, 4}, {3, 0, 4},
                                                    {2, 0, 5}, {1, 2, 5}, {3, 1, 5}, {0, 3, 5}};
    for (int time = 0; time < times; ++time) {
        std::map<std::pair<std::uint32_t, std::uint32_t>, std::uint32_t> middles;
        const auto middle = [&](std::uint32_t a, std::uint32_t b) {
            const auto [found, fresh] = middles.try_emplace(std::minmax(a, b), at.size());
            if (fresh) at.push_back(unit_or_zero(at[a] + at[b]));
            return found->second;
        };
        std::vector<std::array<std::uint32_t, 3>> finer;
        for (const auto& [a, b, c] : faces) {
            const std::uint32_t ab = middle(a, b), bc = middle(b, c), ca = middle(c, a);
            finer.insert(finer.end(), {{a, ab, ca}, {ab, b, bc}, {ca, bc, c}, {ab, bc, ca}});
        }
        faces = finer;
    }
    Mesh::Parts parts;
    for (Vec3& place : at)
        place = centre + place * radius;
    set_vertices(parts, at);
    for (const auto& face : faces) {
        parts.corners.insert(parts.corners.end(), face.begin(), face.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    return *Mesh::make(std::move(parts));
}

// A sheet on its way, from a mesh, with everything of it to be set first.
class Falling {
public:
    explicit Falling(Mesh mesh) : mesh_(std::move(mesh)) {
        state.at = vertex_places(mesh_);
        state.speed.resize(state.at.size());
        holds.firmness.assign(state.at.size(), 0);
        holds.from = holds.to = state.at;
        forces.thickness = 5e-3;
    }
    void hold(std::size_t vertex, double firmness = 1) { holds.firmness[vertex] = firmness; }
    void begin() {
        sheet = *make_sheet(mesh_, vertex_places(mesh_), material);
        falling = std::make_unique<FallingSheet>(sheet, vertex_places(mesh_));
        falling->put_among(obstacle, forces);
    }
    SheetReport frame() {
        if (!falling) begin();
        const auto report = falling->advance(state, holds, frame_s, plume::Run());
        holds.from = holds.to;
        return *report;
    }
    SheetReport seconds(double so_many) {
        SheetReport report;
        for (int frame_number = 0; frame_number < std::lround(so_many / frame_s); ++frame_number)
            report = frame();
        return report;
    }
    // With what it falls on; exactly.
    std::size_t crossings() const {
        Mesh::Parts parts = mesh_.parts();
        std::vector<Vec3> places = state.at;
        const auto behind = static_cast<std::uint32_t>(places.size());
        places.insert(places.end(), obstacle.at.begin(), obstacle.at.end());
        set_vertices(parts, places);
        // As they are cut into triangles.
        parts.first = {0};
        parts.corners.clear();
        for (const auto& triangle : sheet.triangles) {
            parts.corners.insert(parts.corners.end(), triangle.begin(), triangle.end());
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
        for (const auto& triangle : obstacle.triangles) {
            for (const std::uint32_t corner : triangle)
                parts.corners.push_back(behind + corner);
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
        return crossing_faces(*Mesh::make(std::move(parts)), plume::Run())->size();
    }
    double lowest() const { return std::ranges::min(state.at, {}, &Vec3::z).z; }

    SheetMaterial material;
    SheetForces forces;
    Obstacle obstacle;
    SheetState state;
    SheetHolds holds;
    Sheet sheet;
    std::unique_ptr<FallingSheet> falling;

private:
    Mesh mesh_;
};

double ripple(double x, double y) {
    return 1 + 2e-3 * std::sin(17 * x + 29 * y);
}

TEST(FallingSheets, FreeFallIsThatOfAStone) {
    Falling sheet(sheet_of(6, 6, 0.1));
    sheet.forces.calm = 0;
    const Vec3 before = sheet.state.at[20];
    sheet.seconds(1);
    // Backward Euler: the sum of k g dt^2 for k = 1 … 60.
    EXPECT_NEAR(before.z - sheet.state.at[20].z, 9.81 * 60 * 61 / 2 / 3600, 1e-9);
    EXPECT_NEAR(before.x - sheet.state.at[20].x, 0, 1e-9);
}

// A strip of 1 m that hangs by its upper end gets longer by weight g L^2 / (2 stretch).
TEST(FallingSheets, AHangingStripIsAsLongAsItsStiffnessSays) {
    Falling strip(sheet_of(2, 20, 0.05));
    strip.material = {1.0, 500, 0, 0};
    strip.forces.gravity = {0, -9.81, 0};
    strip.forces.calm = 0.9;
    for (std::size_t vertex = 60; vertex < 63; ++vertex)
        strip.hold(vertex);
    const SheetReport report = strip.seconds(20);
    EXPECT_LT(report.fastest, 1e-3);
    // Weights stand at the vertices: (n + 1) / n of half, of 20 edges less the half weight that the end has.
    const double expected = 1.0 * 9.81 / (2 * 500);
    EXPECT_NEAR(-strip.state.at[1].y, expected, 0.03 * expected);
    EXPECT_NEAR(report.most_stretched, 9.81 / 500, 0.04 * 9.81 / 500) << "the uppermost carries all";
}

TEST(FallingSheets, WhatIsHeldStaysToTheLastBit) {
    Falling sheet(sheet_of(10, 10, 0.1, ripple));
    sheet.hold(0);
    sheet.hold(10);
    const Vec3 first = sheet.state.at[0], second = sheet.state.at[10];
    sheet.seconds(3);
    EXPECT_EQ(sheet.state.at[0], first);
    EXPECT_EQ(sheet.state.at[10], second);
    EXPECT_LT(sheet.lowest(), 0.2);
}

TEST(FallingSheets, WhatIsHeldLessFirmlyGivesWay) {
    std::vector<double> given;
    for (const double firmness : {0.2, 0.9, 0.999}) {
        Falling sheet(sheet_of(8, 8, 0.1, ripple));
        for (const std::size_t corner : {0U, 8U, 72U, 80U})
            sheet.hold(corner, firmness);
        const Vec3 before = sheet.state.at[0];
        sheet.seconds(4);
        given.push_back(length(sheet.state.at[0] - before));
    }
    EXPECT_GT(given[0], 3 * given[1]);
    EXPECT_GT(given[1], 3 * given[2]);
    EXPECT_LT(given[2], 1e-3);
}

TEST(FallingSheets, EnergyNeverGrowsWithoutCause) {
    Falling sheet(sheet_of(12, 12, 0.1, ripple));
    sheet.hold(0);
    sheet.hold(12);
    sheet.begin();
    double before = sheet.falling->energy(sheet.state);
    const double first = before;
    for (int number = 0; number < 180; ++number) {
        sheet.frame();
        const double now = sheet.falling->energy(sheet.state);
        EXPECT_LE(now, before + 2e-3 * first) << number;
        before = now;
    }
    EXPECT_LT(before, 0.75 * first);
}

// Two wings that clap together, several edges a step: they are stopped where they meet, not torn by what
// still goes on.
TEST(FallingSheets, WhatStrikesItselfIsNotTorn) {
    constexpr std::uint32_t columns = 60, rows = 12, middle = columns / 2;
    constexpr double size = 0.03;
    const auto out = [](double x) { return x - size * middle; };
    Falling wings(sheet_of(columns, rows, size, [&](double x, double y) {
        return 1.5 * std::abs(out(x)) + 0.004 * std::sin(9 * x + 14 * y);
    }));
    wings.forces.gravity = {};
    for (std::size_t vertex = 0; vertex < wings.state.at.size(); ++vertex) {
        if (vertex % (columns + 1) == middle) wings.hold(vertex);
        wings.state.speed[vertex].x = -20 * out(wings.state.at[vertex].x);
    }
    wings.begin();
    const double first = wings.falling->energy(wings.state);
    double before = first;
    std::size_t touching = 0;
    for (int number = 0; number < 30; ++number) {
        const SheetReport report = wings.frame();
        const double now = wings.falling->energy(wings.state);
        EXPECT_LE(now, before + 2e-3 * first) << number;
        EXPECT_LT(report.most_stretched, 0.15) << number;
        touching += report.touching;
        before = now;
    }
    EXPECT_GT(touching, 0U);
    EXPECT_EQ(wings.crossings(), 0U);
}

TEST(FallingSheets, OnTheGroundItComesToRest) {
    Falling sheet(sheet_of(16, 16, 0.08, ripple));
    sheet.forces.ground = 0;
    const SheetReport report = sheet.seconds(6);
    EXPECT_GT(sheet.lowest(), 0);
    EXPECT_LT(report.fastest, 0.05);
    EXPECT_LT(std::ranges::max(sheet.state.at, {}, &Vec3::z).z, 0.05);
    EXPECT_LT(report.most_stretched, 0.01);
}

TEST(FallingSheets, ABallCatchesAClothAndNothingIsInside) {
    Falling cloth(sheet_of(24, 24, 0.06, ripple));
    const Vec3 centre{0.72, 0.72, 0.5};
    constexpr double radius = 0.3;
    add_obstacle(cloth.obstacle, ball(centre, radius, 2), 1);
    cloth.forces.ground = 0;
    cloth.begin();
    double nearest = 1;
    for (int number = 0; number < 60; ++number) {
        cloth.frame();
        ASSERT_EQ(cloth.crossings(), 0U) << "frame " << number;
    }
    // The faces of the ball lie within it by that.
    constexpr double faces = 0.9 * radius;
    for (const Vec3 at : cloth.state.at)
        nearest = std::min(nearest, length(at - centre));
    EXPECT_GT(nearest, faces);
    EXPECT_GT(std::ranges::max(cloth.state.at, {}, &Vec3::z).z, centre.z + radius) << "it lies on it";
    EXPECT_LT(cloth.lowest(), 0.4) << "and hangs down beside it";
}

// One frame in which the form goes where the map takes it.
void carry_form(Falling& cloth, const Affine& map) {
    cloth.obstacle.from = cloth.obstacle.at;
    for (Vec3& at : cloth.obstacle.at)
        at = map.at(at);
    cloth.begin();
    cloth.frame();
}

// Seven times its thickness a step, and turning.
TEST(FallingSheets, ABallThatRisesCarriesAClothAndDoesNotGoThroughIt) {
    Falling cloth(sheet_of(14, 14, 0.1, ripple));
    Vec3 centre{0.72, 0.69, 0.5};
    add_obstacle(cloth.obstacle, ball(centre, 0.3, 2), 1);
    for (int number = 0; number < 45; ++number) {
        const Vec3 by{0, 0, 2 * frame_s};
        carry_form(cloth, composed(moved_by(by), turned_about(centre, {1, 2, 3}, 0.05)));
        centre = centre + by;
        ASSERT_EQ(cloth.crossings(), 0U) << "frame " << number;
    }
    for (const Vec3 at : cloth.state.at)
        EXPECT_GT(length(at - centre), 0.9 * 0.3);
    EXPECT_GT(std::ranges::max(cloth.state.at, {}, &Vec3::z).z, centre.z + 0.3) << "it lies on it";
}

TEST(FallingSheets, ABallThatGrowsPushesAClothAway) {
    Falling cloth(sheet_of(14, 14, 0.1, ripple));
    cloth.forces.gravity = {};
    const Vec3 centre{0.72, 0.69, 0.8};
    add_obstacle(cloth.obstacle, ball(centre, 0.1, 2), 1);
    for (int number = 0; number < 60; ++number) {
        carry_form(cloth, scaled_about(centre, {1.025, 1.025, 1.025}));
        ASSERT_EQ(cloth.crossings(), 0U) << "frame " << number;
    }
    const double radius = 0.1 * std::pow(1.025, 60);
    for (const Vec3 at : cloth.state.at)
        EXPECT_GT(length(at - centre), 0.9 * radius);
}

// Ways begin elsewhere where a form moves, and what falls beside it does not know.
TEST(FallingSheets, AFormThatMovesElsewhereChangesNothing) {
    Falling sheet(sheet_of(6, 6, 0.1)), alone(sheet_of(6, 6, 0.1));
    const Vec3 far{5, 0, -3};
    add_obstacle(sheet.obstacle, ball(far, 0.3, 1), 1);
    for (int number = 0; number < 30; ++number) {
        carry_form(sheet, turned_about(far, {0, 1, 1}, 0.1));
        alone.frame();
    }
    for (std::size_t vertex = 0; vertex < alone.state.at.size(); ++vertex)
        EXPECT_NEAR(length(sheet.state.at[vertex] - alone.state.at[vertex]), 0, 1e-9);
}

// Corners that wander fold it over and over.
TEST(FallingSheets, FoldedOnItselfForFiveThousandFramesWithoutACrossing) {
    Falling sheet(sheet_of(5, 5, 0.11, ripple));
    sheet.forces.ground = 0.4;
    sheet.hold(0);
    sheet.hold(35);
    sheet.begin();
    const Vec3 first = sheet.holds.to[0], second = sheet.holds.to[35];
    std::size_t most_touching = 0;
    for (int number = 1; number <= 5000; ++number) {
        const double t = number * frame_s;
        sheet.holds.to[0] =
            first + Vec3{0.25 + 0.25 * std::sin(0.9 * t), 0.2 * std::sin(1.3 * t), 0.2 * std::sin(0.7 * t)};
        sheet.holds.to[35] = second + Vec3{-0.25 + 0.3 * std::cos(1.1 * t), 0.2 * std::cos(0.8 * t) - 0.3, 0};
        most_touching = std::max(most_touching, sheet.frame().touching);
        ASSERT_EQ(sheet.crossings(), 0U) << "frame " << number;
    }
    EXPECT_GT(most_touching, 20U) << "it was folded";
    for (const Vec3 at : sheet.state.at)
        ASSERT_LT(length(at), 10) << "nothing flies away";
}

TEST(FallingSheets, OneThreadAndManyAgreeToTheBit) {
    const auto fallen = [] {
        Falling cloth(sheet_of(24, 24, 0.06, ripple));
        add_obstacle(cloth.obstacle, ball({0.72, 0.72, 0.5}, 0.3, 2), 1);
        cloth.forces.ground = 0;
        cloth.seconds(1);
        return cloth.state.at;
    };
    const std::vector<Vec3> many = fallen();
    const oneapi::tbb::global_control one_thread(oneapi::tbb::global_control::max_allowed_parallelism, 1);
    EXPECT_EQ(fallen(), many);
}

// Folded between two balls, with contacts all over, before it is put elsewhere among something else.
TEST(FallingSheets, OneThatFellBeforeFallsAsIfItWereNew) {
    const auto caught_by = [](Vec3 centre) {
        Obstacle obstacle;
        add_obstacle(obstacle, ball(centre, 0.3, 2), 1);
        return obstacle;
    };
    Falling fresh(sheet_of(24, 24, 0.06, ripple)), used(sheet_of(24, 24, 0.06, ripple));
    const SheetState first = used.state;
    used.begin();
    used.forces.ground = 0.6;
    used.falling->put_among(caught_by({0.3, 0.3, 0.4}), used.forces);
    ASSERT_GT(used.seconds(1).touching, 20U);
    used.state = first;
    used.falling->put_among(caught_by({0.72, 0.72, 0.5}), fresh.forces);
    fresh.obstacle = caught_by({0.72, 0.72, 0.5});
    fresh.seconds(1);
    used.seconds(1);
    EXPECT_EQ(used.state.at, fresh.state.at);
    EXPECT_EQ(used.state.speed, fresh.state.speed);
}

TEST(FallingSheets, HandlesThatJumpAreReachedInTime) {
    Falling sheet(sheet_of(10, 10, 0.08, ripple));
    sheet.hold(0);
    sheet.hold(10);
    sheet.seconds(1);
    sheet.holds.to[0] = sheet.holds.to[0] + Vec3{0.4, 0.9, 0.5};
    for (int number = 0; number < 90; ++number) {
        sheet.frame();
        ASSERT_EQ(sheet.crossings(), 0U) << number;
    }
    EXPECT_LT(length(sheet.state.at[0] - sheet.holds.to[0]), 1e-9);
}

TEST(FallingSheets, PinsThatAreTooFarApartStretchItAndNoMore) {
    Falling sheet(sheet_of(10, 10, 0.1, ripple));
    for (const std::size_t corner : {0U, 10U, 110U, 120U})
        sheet.hold(corner);
    sheet.holds.to[120] = sheet.holds.to[120] + Vec3{1, 1, 0};
    const SheetReport report = sheet.seconds(5);
    EXPECT_GT(report.most_stretched, 0.5);
    for (const Vec3 at : sheet.state.at) {
        ASSERT_TRUE(is_finite(at));
        ASSERT_LT(length(at), 4);
    }
}

TEST(FallingSheets, AnyStiffnessLeavesItInThePlace) {
    for (const SheetMaterial& material : {SheetMaterial{0.2, 0, 0, 0}, SheetMaterial{0.2, 1e9, 1e9, 1e3},
                                          SheetMaterial{1e-6, 1e3, 1, 0}, SheetMaterial{1e4, 1e3, 1, 1e-3}}) {
        Falling sheet(sheet_of(8, 8, 0.1, ripple));
        sheet.material = material;
        sheet.forces.ground = 0;
        sheet.hold(0);
        sheet.seconds(2);
        for (const Vec3 at : sheet.state.at) {
            ASSERT_TRUE(is_finite(at)) << material.stretch;
            ASSERT_LT(length(at), 20) << material.stretch;
        }
    }
}

TEST(FallingSheets, WindAndInflationPushAlongTheNormals) {
    Falling blown(sheet_of(8, 8, 0.1));
    blown.forces.gravity = {};
    blown.forces.wind = {0, 0, 5};
    blown.seconds(0.5);
    EXPECT_GT(blown.lowest(), 0.3);
    EXPECT_LT(blown.state.speed[40].z, 5) << "not faster than the wind";
    Falling pressed(sheet_of(8, 8, 0.1));
    pressed.forces.gravity = {};
    pressed.forces.inflation = 1.5;
    pressed.forces.calm = 0;
    pressed.frame();
    // Pressure over weight is the acceleration: in two steps of a 60th 3 of a dt^2.
    EXPECT_NEAR(pressed.state.at[40].z, 3 * (1.5 / 0.15) / 3600, 1e-4);
}

TEST(FallingSheets, OneThatCrossesItselfAtFirstMovesAllTheSame) {
    // Two strips of one sheet laid through each other.
    Falling sheet(sheet_of(12, 4, 0.1, [](double x, double) { return 1 + 0.3 * std::abs(std::sin(5 * x)); }));
    for (Vec3& at : sheet.state.at)
        if (at.x > 0.65) at.x = 1.3 - at.x;
    sheet.forces.ground = 0;
    sheet.begin();
    sheet.seconds(3);
    EXPECT_LT(std::ranges::max(sheet.state.at, {}, &Vec3::z).z, 0.8) << "it fell";
    for (const Vec3 at : sheet.state.at)
        ASSERT_TRUE(is_finite(at));
}

TEST(FallingSheets, CancelledOnTheWay) {
    Falling sheet(sheet_of(8, 8, 0.1));
    sheet.begin();
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(sheet.falling->advance(sheet.state, sheet.holds, 1, run).error().code, ErrorCode::cancelled);
}

TEST(Sheets, WhatIsNoSheetIsRefused) {
    const Mesh mesh = sheet_of(2, 2, 0.1);
    std::vector<Vec3> places = vertex_places(mesh);
    EXPECT_EQ(make_sheet(*Mesh::make({}), std::vector<Vec3>{}, {}).error().code, ErrorCode::empty_input);
    places[4] = places[3];
    EXPECT_EQ(make_sheet(mesh, places, {}).error().code, ErrorCode::out_of_range);
    places[4].x = std::numeric_limits<double>::quiet_NaN();
    EXPECT_EQ(make_sheet(mesh, places, {}).error().code, ErrorCode::not_finite);
    EXPECT_EQ(lengths_between(vertex_places(mesh), std::vector<double>(9, -1)).error().code,
              ErrorCode::out_of_range);
}

TEST(Sheets, WeightAndAreaAreThoseOfTheMesh) {
    const auto sheet = make_sheet(sheet_of(5, 4, 0.2), vertex_places(sheet_of(5, 4, 0.2)), {0.5, 1, 1, 1});
    double area = 0, mass = 0;
    for (std::size_t vertex = 0; vertex < sheet->vertex_count; ++vertex) {
        area += sheet->area[vertex];
        mass += sheet->mass[vertex];
    }
    EXPECT_NEAR(area, 0.8, 1e-12);
    EXPECT_NEAR(mass, 0.4, 1e-12);
    EXPECT_EQ(std::ranges::count(sheet->springs, true, &SheetSpring::diagonal), 20);
    // Growing by a half: edges are half as long again.
    const auto longer = lengths_between(vertex_places(sheet_of(5, 4, 0.2)), std::vector<double>(30, 0.5));
    const auto grown = make_sheet(sheet_of(5, 4, 0.2), *longer, {});
    EXPECT_NEAR(grown->shortest_edge, 0.3, 1e-12);
}

}  // namespace
}  // namespace plume
