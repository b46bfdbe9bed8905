// Panels laid flat and packed on sheets, and what is cut and written there.

#include "core/geometry/meshes/laid_panels.hpp"

#include <oneapi/tbb/global_control.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>
#include <span>

#include "core/geometry/meshes/panel_names.hpp"
#include "core/geometry/meshes/plates.hpp"
#include "core/geometry/meshes/sheet_lines.hpp"
#include "core/made_forms.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using std::numbers::pi;
using test::StudyMaker;
using test::value_of;
using Outline2 = std::vector<FlatPoint>;

Outline2 box(double width, double length) {
    return {{0, 0}, {width, 0}, {width, length}, {0, length}};
}

Outline2 placed(const Outline2& outline, const LaidOutline& laid) {
    Outline2 made;
    for (const FlatPoint corner : outline)
        made.push_back(laid.place(corner));
    return made;
}

// By distances between all edges, and whether one is inside the other.
double distance_to_edge(FlatPoint p, FlatPoint a, FlatPoint b) {
    const double x = b.x - a.x, y = b.y - a.y;
    const double share = std::clamp(((p.x - a.x) * x + (p.y - a.y) * y) / (x * x + y * y), 0.0, 1.0);
    return std::hypot(p.x - a.x - share * x, p.y - a.y - share * y);
}
bool inside(FlatPoint p, const Outline2& outline) {
    bool in = false;
    for (std::size_t at = 0; at < outline.size(); ++at) {
        const FlatPoint a = outline[at], b = outline[(at + 1) % outline.size()];
        if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (p.y - a.y) / (b.y - a.y) * (b.x - a.x)) in = !in;
    }
    return in;
}
double distance_between(const Outline2& one, const Outline2& other) {
    double least = 1e300;
    for (const auto& [points, edges] : {std::pair(&one, &other), {&other, &one}})
        for (const FlatPoint point : *points) {
            if (inside(point, *edges)) return 0;
            for (std::size_t at = 0; at < edges->size(); ++at)
                least = std::min(least,
                                 distance_to_edge(point, (*edges)[at], (*edges)[(at + 1) % edges->size()]));
        }
    return least;
}

constexpr double quarters[] = {0, pi / 2, pi, 3 * pi / 2};

Packing packed_on(const std::vector<Outline2>& outlines, const StockSheet& sheet) {
    auto made = packed(outlines, quarters, sheet, plume::Run());
    EXPECT_TRUE(made);
    return *std::move(made);
}

TEST(Packing, SquaresFillASheet) {
    const std::vector<Outline2> squares(12, box(1, 1));
    EXPECT_EQ(packed_on(squares, {3, 4}).sheet_count, 1U);
    EXPECT_EQ(packed_on(squares, {3, 4, 0, 0.01}).sheet_count, 2U) << "two by three of them on each";
    EXPECT_EQ(packed_on(squares, {3.02, 4.03, 0, 0.01}).sheet_count, 1U) << "no spacing is left along rims";
    EXPECT_EQ(packed_on(squares, {3.06, 4.07, 0.02, 0.01}).sheet_count, 1U);
    EXPECT_EQ(packed_on(squares, {3.059, 4.07, 0.02, 0.01}).sheet_count, 2U);
    EXPECT_EQ(packed_on(std::vector<Outline2>(5, box(1, 1)), {1, 1}).sheet_count, 5U);
    EXPECT_EQ(packed_on({}, {1, 1}).sheet_count, 0U);
    for (const double spacing : {3.1, 1e9, 1e300})
        EXPECT_EQ(packed_on(squares, {3, 4, 0, spacing}).sheet_count, 12U) << spacing << " apart";
    EXPECT_EQ(packed_on({box(1e30, 1)}, {3, 4}).sheet_count, 0U);
}

TEST(Packing, TurnsWhatFitsOnlyThatWay) {
    const auto made = packed_on({box(3, 1)}, {1, 3});
    ASSERT_TRUE(made.laid[0]);
    EXPECT_NEAR(std::abs(std::sin(made.laid[0]->turn_rad)), 1, 1e-12);
    const double up[] = {0};
    const auto unturned = packed({box(3, 1), box(1, 2)}, up, {1, 3}, plume::Run());
    EXPECT_FALSE(unturned->laid[0]);
    EXPECT_TRUE(unturned->laid[1]);
    EXPECT_EQ(unturned->sheet_count, 1U);
}

// Large ones first, and small ones into what they leave: 2 of 2 by 2, and 4 of 1 by 1 beside them.
TEST(Packing, SmallOnesFillWhatLargeOnesLeave) {
    std::vector<Outline2> outlines(40, box(2, 2));
    outlines.insert(outlines.end(), 80, box(1, 1));
    const auto made = packed_on(outlines, {3, 4});
    EXPECT_GE(made.sheet_count, 20U) << "what is best";
    EXPECT_LE(made.sheet_count, 22U);
}

class RandomOutlines : public testing::TestWithParam<bool> {
protected:
    RandomOutlines() {
        std::mt19937 chance(7);
        std::uniform_real_distribution<double> share(0, 1);
        for (int at = 0; at < 40; ++at) {
            Outline2 outline;
            const int corners = 3 + at % 5;
            for (int corner = 0; corner < corners; ++corner) {
                const double angle = 2 * pi * (corner + 0.6 * share(chance)) / corners;
                const double radius = (GetParam() ? 0.15 + 0.45 * share(chance) : 0.4);
                outline.push_back({radius * std::cos(angle), radius * std::sin(angle)});
            }
            outlines.push_back(std::move(outline));
        }
    }
    std::vector<Outline2> outlines;
};

TEST_P(RandomOutlines, LieApartWithinTheirSheets) {
    const StockSheet sheet{2, 3, 0.05, 0.02};
    const Packing made = packed_on(outlines, sheet);
    std::vector<std::vector<Outline2>> sheets(made.sheet_count);
    for (std::size_t at = 0; at < outlines.size(); ++at) {
        ASSERT_TRUE(made.laid[at]);
        ASSERT_LT(made.laid[at]->sheet, made.sheet_count);
        sheets[made.laid[at]->sheet].push_back(placed(outlines[at], *made.laid[at]));
    }
    double area = 0;
    for (const std::vector<Outline2>& on_it : sheets) {
        EXPECT_FALSE(on_it.empty());
        for (std::size_t one = 0; one < on_it.size(); ++one) {
            for (std::size_t at = 0; at < on_it[one].size(); ++at) {
                const FlatPoint corner = on_it[one][at], next = on_it[one][(at + 1) % on_it[one].size()];
                area += (corner.x * next.y - corner.y * next.x) / 2;
                EXPECT_GE(std::min(corner.x, corner.y), 0.05 - 1e-6);
                EXPECT_LE(corner.x, 1.95 + 1e-6);
                EXPECT_LE(corner.y, 2.95 + 1e-6);
            }
            for (std::size_t other = 0; other < one; ++other)
                EXPECT_GE(distance_between(on_it[one], on_it[other]), 0.02 - 1e-6);
        }
    }
    EXPECT_GE(static_cast<double>(made.sheet_count), area / 6);
    EXPECT_LE(static_cast<double>(made.sheet_count), std::ceil(2.5 * area / 6)) << "no sheet is wasted";
}

TEST_P(RandomOutlines, TheSameOnOneThread) {
    const StockSheet sheet{2, 3, 0.05, 0.02};
    const Packing many = packed_on(outlines, sheet);
    const oneapi::tbb::global_control one_thread(oneapi::tbb::global_control::max_allowed_parallelism, 1);
    const Packing one = packed_on(outlines, sheet);
    for (std::size_t at = 0; at < outlines.size(); ++at) {
        EXPECT_EQ(many.laid[at]->sheet, one.laid[at]->sheet);
        EXPECT_EQ(many.laid[at]->turn_rad, one.laid[at]->turn_rad);
        EXPECT_EQ(many.laid[at]->move.x, one.laid[at]->move.x);
        EXPECT_EQ(many.laid[at]->move.y, one.laid[at]->move.y);
    }
}
INSTANTIATE_TEST_SUITE_P(Shapes, RandomOutlines, testing::Bool(),
                         [](const auto& shape) { return shape.param ? "Concave" : "Convex"; });

TEST(Packing, CanBeCancelled) {
    plume::Run run;
    run.cancel();
    EXPECT_EQ(packed(std::vector<Outline2>(5, box(1, 1)), quarters, {2, 2}, run).error().code,
              ErrorCode::cancelled);
}

// A wall of 4 by 3 panels, 2 m by 1 m, leaning back as 3 to 4, with openings in every second one.
StudyMaker wall() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.word("grid", "sizing", "spaced").number("grid", "pitch_u", "2 m").number("grid", "pitch_v", "1 m");
    maker.number("grid", "columns", "4").number("grid", "rows", "3");
    maker.add("points.move_formula", "leaning");
    maker.set("leaning", "points", ResultName{"grid"}).formula("leaning", "to_y = 0.6 * y\nto_z = 0.8 * y");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"leaning"})
        .word("skin", "surface", "flat")
        .word("skin", "facets", "quads");
    maker.add("mesh.panels", "panels");
    maker.set("panels", "mesh", ResultName{"skin"}).word("panels", "sizes", "formula");
    maker.formula("panels", "gap = 50 mm\nthickness = 20 mm\nopening = 0.25 * mod(face, 2)");
    maker.add("mesh.on_sheets", "sheets");
    maker.set("sheets", "mesh", ResultName{"panels"});
    maker.add("curve.of_sheets", "lines");
    maker.set("lines", "sheets", ResultName{"sheets"});
    return maker;
}

Mesh mesh_of(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    EXPECT_TRUE(made.outcome(name)->value) << sentence(*made.outcome(name)->error);
    return std::get<Mesh>(value_of(made, name));
}

double number_at(const Mesh& mesh, const char* name, std::size_t face) {
    const auto field = std::ranges::find(mesh.face_fields(), name, &Field::name);
    EXPECT_NE(field, mesh.face_fields().end()) << name;
    return field == mesh.face_fields().end() ? 0 : field->values[face];
}

double on_corner(const Mesh& mesh, const char* name, std::size_t vertex) {
    const auto field = std::ranges::find(mesh.fields(), name, &Field::name);
    EXPECT_NE(field, mesh.fields().end()) << name;
    return field == mesh.fields().end() ? 0 : field->values[vertex];
}

std::string first_remark(const StudyMaker& maker, const std::string& name) {
    return test::run(maker.study).outcome(name)->remarks.front().text;
}

TEST(LaidPanels, TrueShapesWithTheirNumbers) {
    const StudyMaker maker = wall();
    const Mesh laid = mesh_of(maker, "sheets");
    ASSERT_EQ(laid.part_count(), 12U);
    EXPECT_NEAR(area(laid), 6 * 1.9 * 0.9 * (1 + 0.75), 1e-9);
    EXPECT_EQ(laid.bounds().high.z, 0);
    for (std::size_t part = 0; part < 12; ++part) {
        const auto [begin, end] = laid.part(part);
        EXPECT_EQ(end - begin, part % 2 == 0 ? 1U : 4U);
        EXPECT_EQ(number_at(laid, panel_names::panel, begin), static_cast<double>(part));
        for (std::size_t face = begin; face < end; ++face)
            EXPECT_GT(area_vector(laid, face).z, 0) << "seen from outside";
        // The first edge of a panel runs along the wall, so up is to its left.
        const auto corners = laid.face(begin);
        const Vec3 edge = laid.vertex(corners[1]) - laid.vertex(corners[0]);
        EXPECT_NEAR(length(edge), 1.9, 1e-9);
        const double up = number_at(laid, panel_names::up, begin);
        EXPECT_NEAR(dot(edge, Vec3{std::cos(up), std::sin(up), 0}), 0, 1e-9);
        EXPECT_GT(cross(edge, Vec3{std::cos(up), std::sin(up), 0}).z, 0);
        // And on its sheet.
        for (const std::uint32_t vertex : corners) {
            EXPECT_GE(on_corner(laid, panel_names::on_x, vertex), 0.01 - 1e-6);
            EXPECT_LE(on_corner(laid, panel_names::on_x, vertex), 1.24 + 1e-6);
            EXPECT_LE(on_corner(laid, panel_names::on_y, vertex), 2.49 + 1e-6);
            EXPECT_EQ(on_corner(laid, panel_names::sheet_width, vertex), 1.25);
        }
    }
    EXPECT_GT(laid.bounds().low.x, 4) << "beside the wall";
    // Two of 1.9 by 0.9 m lie on no sheet of 1.25 by 2.5 m.
    EXPECT_EQ(first_remark(maker, "sheets"),
              "12 panels on 12 sheets of 1.25 m by 2.5 m: 47.9 % of them is used, 52.1 % is waste.");
}

TEST(LaidPanels, WhatIsBeyondEachEdge) {
    const Mesh laid = mesh_of(wall(), "sheets");
    const auto beyond = std::ranges::find(laid.fields(), panel_names::beyond, &Field::name);
    ASSERT_NE(beyond, laid.fields().end());
    // The panel 5 is the second of the second row; its opening's corners are beyond nothing.
    const auto corners = laid.face(laid.part(4).begin), open = laid.face(laid.part(5).begin);
    const double expected[] = {0, 5, 8, panel_names::none};
    for (std::size_t at = 0; at < 4; ++at)
        EXPECT_EQ(beyond->values[corners[at]], expected[at]);
    EXPECT_EQ(beyond->values[open[0]], 1);
    EXPECT_EQ(beyond->values[open[1]], 6);
    EXPECT_EQ(beyond->values[open[2]], panel_names::none);
    EXPECT_EQ(beyond->values[open[3]], panel_names::none);
}

TEST(LaidPanels, GrainRunsUpOrAsItFits) {
    StudyMaker maker = wall();
    maker.number("sheets", "width", "2 m").number("sheets", "length", "2 m");
    for (const char* word : {"up", "half"}) {
        maker.word("sheets", "turned", word);
        const Mesh laid = mesh_of(maker, "sheets");
        for (std::size_t face = 0; face < laid.face_count(); ++face) {
            const double up = number_at(laid, panel_names::up, face);
            EXPECT_NEAR(std::sin(up), word == std::string("up") ? 1 : std::copysign(1, std::sin(up)), 1e-9);
        }
    }
    // Upright ones are 1.9 m wide.
    maker.number("sheets", "width", "1.25 m");
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "sheets")),
              "Width is too small for every panel. Type a larger one.");
    maker.word("sheets", "turned", "any");
    EXPECT_EQ(mesh_of(maker, "sheets").part_count(), 12U);
}

TEST(LaidPanels, EachFaceOfASkin) {
    StudyMaker maker = wall();
    maker.set("sheets", "mesh", ResultName{"skin"}).formula("leaning", "to_z = 0.3 * x * x / 1 m");
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "sheets")),
              "Mesh holds no flat plate. Lay each face, or make panels first.")
        << "its faces hang together";
    maker.formula("leaning", "to_y = 0.6 * y\nto_z = 0.8 * y");
    maker.word("sheets", "each", "face").number("sheets", "length", "4.1 m");
    const Mesh laid = mesh_of(maker, "sheets");
    EXPECT_EQ(laid.part_count(), 12U);
    EXPECT_NEAR(area(laid), 24, 1e-9);
    EXPECT_EQ(laid.fields().front().name, panel_names::beyond) << "what is beyond is known of faces, too";
    EXPECT_EQ(number_at(laid, panel_names::panel, 7), 7);
    EXPECT_EQ(first_remark(maker, "sheets").substr(0, 24), "12 panels on 6 sheets of");
}

TEST(LaidPanels, TooLargeOnesAreNamed) {
    StudyMaker maker = wall();
    maker.formula("panels", "gap = 50 mm + 300 mm * (face > 4)\nthickness = 0 m\nopening = 0");
    maker.number("sheets", "width", "0.8 m").number("sheets", "length", "1.5 m");
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(std::get<Mesh>(value_of(made, "sheets")).part_count(), 7U);
    const auto& remarks = made.outcome("sheets")->remarks;
    ASSERT_EQ(remarks.size(), 2U);
    EXPECT_TRUE(remarks[1].loss);
    EXPECT_EQ(remarks[1].text,
              "5 panels are larger than a sheet and left out, the first panel 0, 1.9 m by 0.9 m.");
    maker.formula("panels", "gap = 50 mm + 300 mm * (face != 3)\nthickness = 0 m\nopening = 0");
    EXPECT_EQ(test::run(maker.study).outcome("sheets")->remarks[1].text,
              "The panel 3, 1.9 m by 0.9 m, is larger than a sheet and left out.");
    maker.number("sheets", "margin", "0.4 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "sheets").slot, "margin");
}

TEST(LaidPanels, WarpedOnesSaySo) {
    StudyMaker maker = wall();
    maker.formula("leaning", "to_z = 0.1 * x * y / 1 m");
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(made.outcome("sheets")->remarks[1].text.substr(0, 31), "Panels are warped by up to 0.04");
}

// Posts are no plates, but for those of four sides.
TEST(LaidPanels, PartsThatAreNoPlates) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "1").number("grid", "rows", "1");
    maker.add("mesh.posts", "posts");
    maker.set("posts", "points", ResultName{"grid"}).word("posts", "footprint", "circle");
    maker.add("mesh.on_sheets", "sheets");
    maker.set("sheets", "mesh", ResultName{"posts"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "sheets").slot, "mesh");
    maker.number("posts", "sides", "4");
    EXPECT_EQ(mesh_of(maker, "sheets").part_count(), 4U);
}

// Its top is cut into small triangles, its rim into larger faces.
TEST(Plates, AThickDiscLooksUp) {
    constexpr std::uint32_t sides = 64;
    constexpr double radius = 30, thickness = 40;
    std::vector<Vec3> places;
    for (const double z : {0.0, thickness}) {
        for (std::uint32_t side = 0; side < sides; ++side) {
            const double angle = 2 * pi * side / sides;
            places.push_back({radius * std::cos(angle), radius * std::sin(angle), z});
        }
        places.push_back({0, 0, z});
    }
    constexpr std::uint32_t top = sides + 1, low_middle = sides, high_middle = top + sides;
    std::vector<std::vector<std::uint32_t>> faces;
    for (std::uint32_t side = 0; side < sides; ++side) {
        const std::uint32_t next = (side + 1) % sides;
        faces.push_back({next, side, low_middle});
        faces.push_back({top + side, top + next, high_middle});
        faces.push_back({side, next, top + next, top + side});
    }
    const auto plate = plate_of(test::mesh_of_faces(places, faces), 0);
    ASSERT_TRUE(plate);
    EXPECT_EQ(plate->faces.size(), sides);
    EXPECT_NEAR(std::abs(plate->plane.up.z), 1, 1e-9);
    EXPECT_EQ(plate->loops.size(), 1U);
}

std::vector<double> pens_of(const CurveSet& set) {
    std::vector<double> pens;
    for (const SplineCurve& curve : set.curves)
        pens.push_back(curve.fields()[0].values[0]);
    return pens;
}

TEST(SheetLines, RimsCutsAndMarks) {
    StudyMaker maker = wall();
    const auto lines = [&](const char* what) {
        maker.word("lines", "what", what);
        return std::get<CurveSet>(value_of(test::run(maker.study), "lines"));
    };
    const CurveSet rims = lines("rims"), cuts = lines("cuts"), marks = lines("marks");
    EXPECT_EQ(rims.curves.size(), 12U);
    ASSERT_EQ(cuts.curves.size(), 12U + 6U) << "six have an opening";
    for (const SplineCurve& cut : cuts.curves)
        EXPECT_TRUE(cut.closed());
    EXPECT_EQ(std::ranges::count(pens_of(marks), 2.0), static_cast<std::ptrdiff_t>(marks.curves.size()));
    EXPECT_EQ(lines("all").curves.size(), 12 + 18 + marks.curves.size());
    // Every letter lies on its panel and beside its opening.
    const Mesh laid = mesh_of(maker, "sheets");
    for (const SplineCurve& mark : marks.curves)
        for (std::size_t pole = 0; pole < mark.x().size(); ++pole) {
            std::size_t on = 0;
            for (std::size_t face = 0; face < laid.face_count(); ++face) {
                Outline2 outline;
                for (const std::uint32_t corner : laid.face(face))
                    outline.push_back({laid.x()[corner], laid.y()[corner]});
                on += inside({mark.pole(pole).x, mark.pole(pole).y}, outline) ? 1 : 0;
            }
            EXPECT_EQ(on, 1U);
        }
}

TEST(SheetLines, RefusesWhatDoesNotLieOnSheets) {
    StudyMaker maker = wall();
    maker.set("lines", "sheets", ResultName{"panels"});
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "lines")),
              "Sheets carries no number ‘sheet’. Choose panels that were laid on sheets.");
    maker.set("lines", "sheets", ResultName{"sheets"}).set("lines", "number", WordKey{"weight"});
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "lines")),
              "Number is not carried by the panels. Type one that they carry: area, panel, up, sheet.");
    maker.set("lines", "number", WordKey{"area"});
    EXPECT_FALSE(test::run(maker.study).outcome("lines")->error) << "any number may be the mark";
    // Panels that were moved, or lie upside down.
    const Mesh laid = mesh_of(maker, "sheets");
    const SheetLinePlan plan{true, true, true, panel_names::panel, 0.05};
    Mesh::Parts moved = laid.parts();
    Doubles x(laid.x().span().begin(), laid.x().span().end());
    for (double& place : x)
        place += 40;
    moved.x = x;
    EXPECT_TRUE(sheet_lines(*Mesh::make(moved), plan, plume::Run())) << "all together";
    x[3] -= 0.1;
    moved.x = x;
    EXPECT_EQ(sheet_lines(*Mesh::make(moved), plan, plume::Run()).error().code,
              ErrorCode::unlike_arrangement);
    Mesh::Parts turned = laid.parts();
    for (std::size_t face = 0; face < laid.face_count(); ++face)
        std::ranges::reverse(std::span(turned.corners).subspan(turned.first[face], laid.face(face).size()));
    EXPECT_EQ(sentence(sheet_lines(*Mesh::make(turned), plan, plume::Run()).error()),
              "has panels that lie upside down, the first on the face 0. Choose panels as they were laid, "
              "and mirror what is drawn of "
              "them.");
}

// A splinter that the raster of places passes by is cut, and said to bear no mark.
TEST(SheetLines, PanelsTooThinForAMark) {
    StudyMaker maker = wall();
    maker.number("grid", "columns", "1").number("grid", "rows", "1").word("lines", "what", "marks");
    const Mesh laid = mesh_of(maker, "sheets");
    Mesh::Parts thin = laid.parts();
    ASSERT_EQ(laid.vertex_count(), 4U);
    // Two legs that hold none of these places, a ten-millionth wide.
    const Vec3 corner = laid.vertex(0) -
                        Vec3{on_corner(laid, panel_names::on_x, 0), on_corner(laid, panel_names::on_y, 0), 0};
    const double on_x[] = {0.1, 1.0, 1.1, 1.0 - 1e-7}, on_y[] = {0.1, 0.437, 2.1, 0.437 + 1e-7};
    Doubles x(4), y(4);
    for (std::size_t at = 0; at < 4; ++at) {
        x[at] = corner.x + on_x[at];
        y[at] = corner.y + on_y[at];
    }
    thin.x = x;
    thin.y = y;
    for (Field& field : thin.fields) {
        if (field.name == panel_names::on_x) field.values = Doubles(std::begin(on_x), std::end(on_x));
        if (field.name == panel_names::on_y) field.values = Doubles(std::begin(on_y), std::end(on_y));
    }
    const auto drawn =
        sheet_lines(*Mesh::make(thin), {false, false, true, panel_names::panel, 0.05}, plume::Run());
    ASSERT_TRUE(drawn) << drawn.error().message;
    EXPECT_EQ(drawn->without_marks, 1U);
    EXPECT_TRUE(drawn->curves.curves.empty());
}

// By hand: one panel of 2 m by 1 m, whose mark is 0: it is written in the middle, an arrow above it, and its
// edges bear 1 to 4 with nothing beyond.
TEST(SheetLines, TheArrowPointsUp) {
    StudyMaker maker = wall();
    maker.number("grid", "columns", "1").number("grid", "rows", "1");
    maker.formula("panels", "gap = 0 m\nthickness = 0 m\nopening = 0").word("lines", "what", "marks");
    maker.word("sheets", "turned", "up").number("sheets", "width", "3 m").number("lines", "height", "0.1 m");
    const auto set = std::get<CurveSet>(value_of(test::run(maker.study), "lines"));
    const Mesh laid = mesh_of(maker, "sheets");
    std::size_t upright = 0;
    for (const SplineCurve& curve : set.curves)
        if (curve.x().size() == 2 && std::abs(curve.pole(1).y - curve.pole(0).y - 0.12) < 1e-9) {
            ++upright;
            EXPECT_NEAR(curve.pole(0).x, laid.bounds().low.x + 1, 0.01) << "the shaft of the arrow";
        }
    EXPECT_EQ(upright, 1U);
}

}  // namespace
}  // namespace plume
