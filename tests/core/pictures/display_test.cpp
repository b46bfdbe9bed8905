// What is drawn of the further kinds, handles, sketches, picking.

#include <oneapi/tbb/global_control.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/exchange/study_file.hpp"
#include "core/geometry/points/lattice_links.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/labels.hpp"
#include "core/picture/own_colours.hpp"
#include "core/picture/picking.hpp"
#include "core/picture/sketch.hpp"
#include "core/picture/thumbnail.hpp"
#include "core/results/items.hpp"
#include "core/study/edits/place_handles.hpp"
#include "core/study/sentence.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;
using test::StudyMaker;

Drawable drawn(const Value& value) {
    return *make_drawable(value, {}, plume::Run());
}

TEST(DrawableKinds, EdgesFollowTheArrangement) {
    StudyMaker maker;
    for (const char* kind : {"lattice.triangular", "lattice.hexagonal", "lattice.polar", "lattice.block"}) {
        maker.add(kind, "points");
        const Value value = test::value_of(test::run(maker.study), "points");
        std::size_t links = 0;
        for_each_link(*lattice_of(value), [&](std::size_t, std::size_t) { ++links; });
        EXPECT_EQ(drawn(value).edges.size(), 2 * links) << kind;
        maker = StudyMaker();
    }
}

TEST(DrawableKinds, ArrowsAreNoLongerThanNeighboursStandApart) {
    StudyMaker maker = test::canopy();
    maker.add("directions.attractors", "flow");
    const Value value = test::value_of(test::run(maker.study), "flow");
    const Drawable arrows = drawn(value);
    EXPECT_EQ(arrows.points.size(), 425U);
    EXPECT_EQ(arrows.edges.size(), 2U * 3U * 425U) << "a shaft and two barbs each";
    double longest = 0;
    for (std::size_t edge = 0; edge < arrows.edges.size(); edge += 6) {
        const DrawVertex &a = arrows.vertices[arrows.edges[edge]],
                         &b = arrows.vertices[arrows.edges[edge + 1]];
        longest = std::max(longest, static_cast<double>(std::hypot(a.x - b.x, a.y - b.y, a.z - b.z)));
    }
    EXPECT_GT(longest, 0.5);
    EXPECT_LT(longest, 2.0) << "neighbours stand 1.5 m apart in plan, a little more on the slope";
}

TEST(DrawableKinds, PlacementsHaveThreeAxesAndNumbersNothing) {
    StudyMaker maker = test::canopy();
    maker.add("placement.on_lattice", "placements");
    maker.add("number.statistic", "figure");
    const Evaluation evaluation = test::run(maker.study);
    EXPECT_EQ(drawn(test::value_of(evaluation, "placements")).edges.size(), 2U * 3U * 425U);
    const Drawable nothing = drawn(test::value_of(evaluation, "figure"));
    EXPECT_TRUE(nothing.points.empty() && nothing.edges.empty() && nothing.bounds.empty());
}

TEST(OwnColours, ThereAndBack) {
    for (const Rgb colour : {Rgb{0, 0, 0}, Rgb{1, 1, 1}, Rgb{0.76F, 0.31F, 0.36F}}) {
        const Rgb again = own_colour(own_colour_coordinate(colour));
        EXPECT_NEAR(again.red, colour.red, 1.0 / 127);
        EXPECT_NEAR(again.blue, colour.blue, 1.0 / 127);
    }
}

TEST(Handles, LinesJoinPolesInOrderAndRoundWhereTheyClose) {
    StudyMaker maker;
    maker.add("attractors.points", "apart");
    maker.add("curve.drawn", "curve");
    const auto lines = [&] {
        std::vector<PlaceHandle> handles;
        for (const char* name : {"apart", "curve"}) {
            const Step& step = *maker.study->step(name);
            for (PlaceHandle& handle :
                 place_handles(*maker.study, *standard_catalogue().find(step.kind), step))
                handles.push_back(std::move(handle));
        }
        return handle_lines(*maker.study, standard_catalogue(), handles);
    };
    using Pairs = std::vector<std::pair<std::size_t, std::size_t>>;
    EXPECT_EQ(lines(), (Pairs{{2, 3}, {3, 4}, {4, 5}, {5, 6}})) << "attractors are joined to nothing";
    maker.word("curve", "ends", "closed");
    EXPECT_EQ(lines().back(), (std::pair<std::size_t, std::size_t>{6, 2}));
}

TEST(Handles, SeveralMoveTogetherOrNotAtAll) {
    StudyMaker maker;
    const ItemId id = maker.add("curve.drawn", "curve");
    const std::vector<PlaceMove> moves{{id, "poles", 0, {1, 2, 3}}, {id, "poles", 2, {4, 5, 6}}};
    const auto moved = move_places(*maker.study, standard_catalogue(), moves);
    ASSERT_TRUE(moved);
    const auto handles =
        place_handles(**moved, *standard_catalogue().find("curve.drawn"), *(*moved)->step("curve"));
    EXPECT_EQ(handles[0].position, (Vec3{1, 2, 3}));
    EXPECT_EQ(handles[2].position, (Vec3{4, 5, 6}));
    EXPECT_EQ(handles[1].position, (Vec3{-6, 0, 6}));
    const std::vector<PlaceMove> wrong{{id, "poles", 0, {1, 2, 3}}, {id, "poles", 99, {4, 5, 6}}};
    EXPECT_FALSE(move_places(*maker.study, standard_catalogue(), wrong));
}

TEST(Handles, OfPlacesToldByACurveStandOverItAndMoveAlongIt) {
    StudyMaker maker;
    maker.add("curve.arc", "base");
    maker.word("base", "shape", "line");
    maker.set("base", "ends", Places{{"a", "0 m", "0 m", "1 m", "1"}, {"b", "0 m", "20 m", "1 m", "1"}});
    const ItemId id = maker.add("curve.over_base", "ridge");
    maker.set("ridge", "base", ResultName{"base"});
    maker.set("ridge", "poles", Places{{"p", "0.25", "2 m", "3 m", "1"}, {"q", "1", "0 m", "5 m", "1"}});
    maker.number("ridge", "degree", "1");
    const Evaluation evaluation = test::run(maker.study);
    const ShownValue shown = [&](const std::string& name) -> const Value* {
        const Outcome* outcome = evaluation.outcome(name);
        return outcome ? outcome->value.get() : nullptr;
    };
    const auto& kind = *standard_catalogue().find("curve.over_base");
    const auto handles = place_handles(*maker.study, kind, *maker.study->step("ridge"), shown);
    ASSERT_EQ(handles.size(), 2U);
    EXPECT_NEAR(length(handles[0].position - Vec3{-2, 5, 4}), 0, 1e-12) << "left of a line along Y is -X";
    const auto curve = std::get<CurveSet>(*shown("ridge")).curves.front();
    EXPECT_NEAR(length(curve.pole(0) - handles[0].position), 0, 1e-12);
    EXPECT_TRUE(place_handles(*maker.study, kind, *maker.study->step("ridge")).empty())
        << "nobody knows the base";
    const std::vector<PlaceMove> moves{{id, "poles", 0, {1.23456, 7.00009, 6.5}, 0.01}};
    const auto moved = move_places(*maker.study, standard_catalogue(), moves, shown);
    ASSERT_TRUE(moved);
    const auto& places = std::get<plume::Places>((*moved)->step("ridge")->slots.at("poles"));
    EXPECT_EQ(places[0].x, "0.35");
    EXPECT_EQ(places[0].y, "-1.23 m");
    EXPECT_EQ(places[0].z, "5.5 m");
    // Other units leave shares what they are.
    const auto feet =
        with_units(*maker.study, standard_catalogue(), {LengthUnit::foot, AngleUnit::degree}, {});
    EXPECT_EQ(std::get<plume::Places>(feet->step("ridge")->slots.at("poles"))[0].x, "0.25");
    maker.set("ridge", "poles", Places{{"p", "1.5", "2 m", "3 m", "1"}, {"q", "1", "0 m", "5 m", "1"}});
    EXPECT_EQ(test::error_of(test::run(maker.study), "ridge").code, ErrorCode::out_of_range);
}

TEST(Picking, FindsWhatProjectingEveryPointFinds) {
    StudyMaker maker = test::canopy();
    const Drawable points = drawn(test::value_of(test::run(maker.study), "pushed"));
    const ViewSize view{740, 545};
    for (const bool perspective : {true, false}) {
        Camera camera;
        camera.perspective = perspective;
        camera.fit(points.bounds, view.aspect());
        int hits = 0;
        for (double x = 5; x < 740; x += 41)
            for (double y = 5; y < 545; y += 37) {
                double least = 9;
                for (const DrawPoint& point : points.points) {
                    double px = 0, py = 0, depth = 0;
                    if (!camera.project(points.absolute(point.x, point.y, point.z), view.aspect(), px, py,
                                        depth))
                        continue;
                    least = std::min(least, std::hypot(px * view.width - x, py * view.height - y));
                }
                const auto picked = pick_point(points, camera, view, {x, y}, 9);
                ASSERT_EQ(picked.has_value(), least < 9) << x << ", " << y;
                if (!picked) continue;
                EXPECT_NEAR(picked->apart, least, 1.001);
                ++hits;
            }
        EXPECT_GT(hits, 10);
    }
}

// Posts of 0.2 m, 10 m apart, seen from the front at 10 pixels a metre.
// Nodes of frames and vertices of meshes, which are no items of their own, are named as lists name them.
TEST(Picking, PointsOfWhateverHasThem) {
    const PointLattice points = test::grid(4, 3);
    Mesh::Parts parts;
    parts.x = Doubles{0, 1, 1, 0};
    parts.y = Doubles{0, 0, 1, 1};
    parts.z = Doubles{0, 0, 0, 0};
    parts.first = {0, 4};
    parts.corners = {0, 1, 2, 3};
    const Value lattice(points), mesh(*Mesh::make(std::move(parts)));
    const Value frame(*BarFrame::make({points, {{0, 1}, {1, 5}}, {}, {}}));
    Camera camera;
    camera.target = {1.5, 1, 0};
    camera.distance = 8;
    const ViewSize view{800, 600};
    for (const Value* value : {&lattice, &mesh, &frame}) {
        const Items items = point_items_of(*value);
        ASSERT_GT(items.count, 3U);
        for (const std::size_t wanted : {0U, 1U}) {
            double x = 0, y = 0, depth = 0;
            ASSERT_TRUE(camera.project(items.place(wanted), view.aspect(), x, y, depth));
            const ViewPoint cursor{x * view.width + 3, y * view.height - 2};
            EXPECT_EQ(pick_place(items.count, items.place, camera, view, cursor, 12), wanted);
            EXPECT_FALSE(pick_place(items.count, items.place, camera, view, {-90, -90}, 12));
            const auto named = items.listing->named_in(items.listing->listed_as(wanted));
            ASSERT_TRUE(named);
            EXPECT_EQ(named->mask[wanted], 1);
            EXPECT_EQ(std::ranges::count(named->mask, 1), 1);
        }
    }
    const auto listed = [](const Value& value, const char* list) {
        return listed_places(point_items_of(value), list);
    };
    EXPECT_EQ(listed(mesh, "2 0..1 0"),
              (std::vector<Vec3>{std::get<Mesh>(mesh).vertex(2), std::get<Mesh>(mesh).vertex(0),
                                 std::get<Mesh>(mesh).vertex(1)}))
        << "in the order they are named, each once";
    EXPECT_TRUE(listed(mesh, "x").empty());
    EXPECT_TRUE(listed(Value(Quantity{1, a_length}), "0").empty());
    // A point of the lattice that no member ends at is a gap of the frame, and stands nowhere.
    EXPECT_FALSE(is_finite(point_items_of(frame).place(2)));
    EXPECT_EQ(point_items_of(Value(Quantity{1, a_length})).count, 0U);
}

TEST(Picking, ThinPartsAreTakenFromBesideThem) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "feet");
    for (const auto& [slot, text] : {std::pair{"columns", "2"}, {"rows", "1"}, {"width", "20 m"}})
        maker.number("feet", slot, text);
    maker.add("mesh.posts", "posts");
    const Drawable posts = drawn(test::value_of(test::run(maker.study), "posts"));
    const ViewSize view{400, 400};
    Camera camera = seen_from(StandardView::front, {});
    camera.target = {0, 0, 1};
    camera.distance *= 40 / camera.view_height();
    const auto at = [&](double x_m) { return ViewPoint{200 + 10 * x_m, 200}; };
    const auto picked = [&](double x_m) { return pick_part(posts, camera, view, at(x_m), 6); };
    ASSERT_TRUE(picked(0));
    EXPECT_EQ(picked(0)->apart, 0);
    const std::size_t middle = picked(0)->part;
    ASSERT_TRUE(picked(0.5));
    EXPECT_EQ(picked(0.5)->part, middle);
    EXPECT_NEAR(picked(0.5)->apart, 4, 0.05) << "5 pixels from its axis, 1 of them within the post";
    EXPECT_FALSE(picked(0.8));
    EXPECT_FALSE(pick_part(posts, camera, view, {200, 400}, 6)) << "below their feet";
    ASSERT_TRUE(picked(10.5));
    EXPECT_NE(picked(10.5)->part, middle);
}

TEST(Labels, StandApartAndInTheView) {
    const Drawable points = drawn(grid(400, 250));
    const ViewSize view{740, 545}, cell{20, 12};
    Camera camera;
    camera.elevation_rad = std::acos(-1.0) / 2;
    camera.fit(points.bounds, view.aspect());
    const auto places = label_spots(points, {}, camera, view, cell, 100'000);
    EXPECT_GT(places.size(), 300U);
    EXPECT_LE(places.size(), 38U * 46U) << "one a cell at most, of a hundred thousand points";
    std::set<std::pair<int, int>> cells;
    for (const LabelSpot& place : places) {
        EXPECT_TRUE(
            cells.insert({static_cast<int>(place.at.x / 20), static_cast<int>(place.at.y / 12)}).second);
        double x = 0, y = 0, depth = 0;
        const DrawPoint& point = points.points[place.item];
        ASSERT_TRUE(camera.project(points.absolute(point.x, point.y, point.z), view.aspect(), x, y, depth));
        EXPECT_NEAR(x * view.width, place.at.x, 0.01);
        EXPECT_NEAR(y * view.height, place.at.y, 0.01);
    }
    EXPECT_EQ(label_spots(points, {}, camera, view, cell, 7).size(), 7U);
}

TEST(Sketch, SnapsTakesLengthsAndCloses) {
    Sketch sketch;
    EXPECT_EQ(sketch.place_for({1.26, -0.74, 0}, 0.5, {}), (Vec3{1.5, -0.5, 0}));
    sketch.add({0, 0, 0});
    sketch.add({0, 0, 0});
    EXPECT_EQ(sketch.corners().size(), 1U) << "a click on the same place";
    EXPECT_LT(length(sketch.place_for({3, 4, 0}, 1, 10) - Vec3{6, 8, 0}), 1e-12);
    EXPECT_EQ(sketch.place_for({0, 0, 0}, 1, 2), (Vec3{2, 0, 0})) << "no direction yet";
    sketch.add({4, 0, 0});
    EXPECT_FALSE(sketch.would_close({0.1, 0, 0}, 0.5)) << "two corners enclose nothing";
    sketch.add({4, 3, 0});
    EXPECT_TRUE(sketch.would_close({0.1, 0, 0}, 0.5));
    sketch.take_back();
    EXPECT_EQ(sketch.corners().size(), 2U);
}

TEST(Handles, ImagesAreDraggedWithTheirOriginals) {
    StudyMaker maker;
    maker.add("attractors.points", "knots");
    maker.set("knots", "places", Places{{"a", "4 m", "1 m", "0 m", "1"}, {"b", "6 m", "-2 m", "0 m", "1"}});
    maker.word("knots", "pairs", "x");
    const StepKind& kind = *standard_catalogue().find("attractors.points");
    const auto handles = place_handles(*maker.study, kind, *maker.study->step("knots"));
    ASSERT_EQ(handles.size(), 4U);
    EXPECT_EQ(handles[3].position, (Vec3{-6, -2, 0}));
    EXPECT_TRUE(handles[3].image);
    const StudyPointer dragged = *move_place(*maker.study, standard_catalogue(), handles[3].step,
                                             handles[3].slot, handles[3].index, {-7, 5, 0});
    const auto& places = std::get<Places>(dragged->step("knots")->slots.at("places"));
    EXPECT_EQ(places[1].x, "7 m");
    EXPECT_EQ(places[1].y, "5 m");
    const auto attractors = std::get<Attractors>(test::value_of(test::run(dragged), "knots"));
    EXPECT_EQ(attractors.items()[3].position, (Vec3{-7, 5, 0})) << "drawn where it was dragged to";
    EXPECT_FALSE(move_place(*maker.study, standard_catalogue(), handles[0].step, "places", 4, {}));
    maker.word("knots", "pairs", "single");
    EXPECT_EQ(place_handles(*maker.study, kind, *maker.study->step("knots")).size(), 2U);
}

TEST(Thumbnail, KeepsProportionsAndMeans) {
    Raster raster{400, 100, 1, std::vector<float>(40'000, 0.5F)};
    const Image small = thumbnail(raster, 80);
    EXPECT_EQ(small.width, 80);
    EXPECT_EQ(small.height, 20);
    EXPECT_EQ(small.rgba[0], 128);
    EXPECT_EQ(small.rgba.size(), 80U * 20U * 4U);
    const Raster one{1, 1, 3, {1, 0, 2}};
    EXPECT_EQ(thumbnail(one, 80).rgba, (std::vector<std::uint8_t>{255, 0, 255, 255}));
}

TEST(Sentences, ConditionsJoinedByAnd) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("thing.repeat", "copies");
    maker.word("copies", "axis", "placed");
    const StepKind& kind = *standard_catalogue().find("thing.repeat");
    const auto text = [&] { return sentence_text(kind, *maker.study->step("copies")); };
    EXPECT_EQ(text().find("of …"), std::string::npos) << text();
    maker.word("copies", "how", "turn");
    EXPECT_NE(text().find("the up axis of …"), std::string::npos) << text();
}

TEST(StudyFile, FurtherSlotsAndShowsComeBack) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("field.image", "picture");
    maker.set("picture", "file", FileName{"pictures/ä b.png"}).word("picture", "response", "drawn 0:0 1:1");
    maker.add("points.keep_addresses", "picked");
    maker.set("picked", "addresses", Lines{"0,0 1,1\n2..3,4"});
    Show show = maker.study->step("picked")->show;
    show.ramp = {Ramp::tide, true, 8};
    show.labels = true;
    show.label_by = "picture";
    maker.study = *set_show(*maker.study, maker.study->step("picked")->id, show);
    const auto again = study_from_text(study_to_text(*maker.study));
    ASSERT_TRUE(again) << sentence(again.error());
    EXPECT_EQ((*again)->step("picked")->show, show);
    EXPECT_EQ((*again)->step("picture")->slots, maker.study->step("picture")->slots);
    EXPECT_EQ((*again)->step("picked")->slots, maker.study->step("picked")->slots);
}

TEST(Determinism, OneThreadAndManyGiveTheSameBytes) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "300").number("grid", "rows", "200");
    maker.add("attractors.points", "perches");
    maker.add("directions.attractors", "flow");
    maker.add("field.noise", "hills");
    maker.add("field.random", "chance");
    maker.add("field.smooth", "calm");
    const Evaluation first = test::run(maker.study);
    const oneapi::tbb::global_control alone(oneapi::tbb::global_control::max_allowed_parallelism, 1);
    const Evaluation second = test::run(maker.study);
    for (const char* name : {"flow", "hills", "chance", "calm"}) {
        const PointLattice a = *lattice_of(test::value_of(first, name));
        const PointLattice b = *lattice_of(test::value_of(second, name));
        for (std::size_t field = 0; field < a.fields().size(); ++field)
            EXPECT_TRUE(std::ranges::equal(a.fields()[field].values.span(), b.fields()[field].values.span()))
                << name;
    }
}

}  // namespace
}  // namespace plume
