// Outlines drawn, attractors dragged in pairs, responses bent, numbers thrown, points picked, pictures
// linked.

#include <QApplication>
#include <QFile>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QToolButton>

#include "app/model/outline_tool.hpp"
#include "app/sheet/response_editor.hpp"
#include "core/data/bar_frame.hpp"
#include "core/picture/png.hpp"
#include "folders.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Places : public WindowTest {};

const plume::Places& places_of(const Study& study, const char* result, const char* slot) {
    return std::get<plume::Places>(study.step(result)->slots.at(slot));
}

TEST_F(Places, AnOutlineIsDrawnByClickingAndTypingLengths) {
    continue_with("draw outline");
    ASSERT_TRUE(study().step("outline"));
    driver.click(part("outline", "corners"));
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.click(button_in_popup("Draw"));
    ASSERT_TRUE(Driver::until([&] { return view().tool() != nullptr; }));
    Driver::settle(150);
    EXPECT_NEAR(view().camera().elevation_rad, std::acos(-1.0) / 2, 1e-9) << "in plan";
    const auto click = [&](Vec3 place) {
        driver.click(on_screen(place));
        Driver::settle(60);
    };
    click({-10.02, -5.01, 0});
    click({8, -5, 0});
    // A typed length in the direction of the cursor.
    driver.move_to(on_screen({8, 3, 0}));
    driver.type("7.5 m");
    driver.key("Return");
    click({-10, 4, 0});
    auto* tool = dynamic_cast<OutlineTool*>(view().tool());
    ASSERT_NE(tool, nullptr);
    ASSERT_EQ(tool->corners().size(), 4U);
    driver.key("BackSpace");
    EXPECT_EQ(tool->corners().size(), 3U);
    click({-9, 2, 0});
    click({-10, -5, 0});  // the first corner closes it
    computed();
    EXPECT_EQ(view().tool(), nullptr);
    const plume::Places& corners = places_of(study(), "outline", "corners");
    ASSERT_EQ(corners.size(), 4U);
    EXPECT_EQ(corners[0].x, "-10 m") << "snapped to the grid";
    EXPECT_EQ(corners[2].x, "8 m");
    EXPECT_EQ(corners[2].y, "2.5 m") << "7.5 m up from -5";
    EXPECT_EQ(document().results().shown("outline")->state, StepState::done);
    // A corner is dragged afterwards.
    driver.drag(on_screen({-9, 2, 0}), on_screen({-6, 6, 0}));
    computed();
    EXPECT_NE(places_of(study(), "outline", "corners")[3].x, "-9 m");
    driver.key("ctrl+z");
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(places_of(study(), "outline", "corners")[0].x, "-12 m") << "one undo takes the drawing back";
    // Handles are hidden, and then not in the way.
    driver.click(window->model().chip("outline"), 3);
    choose("Points and handles");
    computed();
    const auto hidden = places_of(study(), "outline", "corners");
    const auto drag_the_first = [&] {
        driver.drag(on_screen({std::stod(hidden[0].x), std::stod(hidden[0].y), 0}), on_screen({-6, 6, 0}));
        computed();
    };
    drag_the_first();
    EXPECT_EQ(places_of(study(), "outline", "corners"), hidden);
    driver.key("ctrl+z");
    computed();
    drag_the_first();
    EXPECT_NE(places_of(study(), "outline", "corners"), hidden) << "seen again they are dragged again";
}

TEST_F(Places, DrawingIsGivenUpWithEscape) {
    continue_with("draw outline");
    const StudyPointer before = document().snapshot();
    document().attention().ask_to_draw(study().step("outline")->id, "corners");
    ASSERT_TRUE(Driver::until([&] { return view().tool() != nullptr; }));
    Driver::settle(150);
    driver.click(on_screen({0, 0, 0}));
    driver.key("Escape");
    ASSERT_TRUE(Driver::until([&] { return view().tool() == nullptr; }));
    EXPECT_EQ(document().snapshot(), before);
}

TEST_F(Places, AMirroredAttractorDragsItsOriginal) {
    continue_with("rectangular");
    continue_with("place attr");
    driver.click(part("attractors", "pairs"));
    choose("in pairs across the YZ");
    computed();
    driver.key("ctrl+2");
    driver.key("ctrl+0");
    Driver::settle(150);
    const auto& items = std::get<Attractors>(*document().results().shown("attractors")->value).items();
    ASSERT_EQ(items.size(), 4U);
    EXPECT_EQ(items[3].position, (Vec3{-7, 4, 0}));
    driver.drag(on_screen({-7, 4, 0}), on_screen({-12, 8, 0}));
    computed();
    const auto& moved = std::get<Attractors>(*document().results().shown("attractors")->value).items();
    EXPECT_NEAR(moved[3].position.x, -12, 0.3) << "the image is where it was dragged to";
    EXPECT_NEAR(moved[1].position.x, 12, 0.3) << "and its original on the other side";
    EXPECT_NEAR(moved[1].position.y, 8, 0.3);
    EXPECT_EQ(moved[0].position, (Vec3{-6, -3, 0})) << "the other pair stays";
}

TEST_F(Places, ACurveIsDrawnByItsPolesAndDragged) {
    continue_with("draw a curve");
    computed();
    const auto pole = [&](std::size_t index) {
        const auto curve = std::get<CurveSet>(*document().results().shown("curve")->value).curves.front();
        return curve.pole(index);
    };
    ASSERT_EQ(study().step("curve")->kind, "curve.drawn");
    // In plan, as a drag goes by itself.
    driver.drag(on_screen({0, 0, 0}), on_screen({1, 3, 0}));
    computed();
    EXPECT_NEAR(pole(2).x, 1, 0.2);
    EXPECT_NEAR(pole(2).y, 3, 0.2);
    EXPECT_EQ(pole(2).z, 0);
    // Held to Z it only rises, wherever the mouse goes.
    const Vec3 before = pole(2);
    driver.move_to(on_screen(before));
    driver.press();
    driver.move_to(on_screen(before + Vec3{0.3, 0, 0.5}));
    driver.key("z");
    EXPECT_TRUE(view().hint().contains("along Z")) << view().hint().toStdString();
    driver.move_to(on_screen(before + Vec3{0.2, 0, 2.5}));
    driver.move_to(on_screen(before + Vec3{0, 0, 4}));
    driver.release();
    computed();
    EXPECT_TRUE(view().hint().isEmpty());
    EXPECT_EQ(pole(2).x, before.x);
    EXPECT_EQ(pole(2).y, before.y);
    EXPECT_NEAR(pole(2).z, 4, 0.2);
    // One stroke is one undo.
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(pole(2), before);
    // Two chosen with Ctrl go together.
    const Vec3 first = pole(0), last = pole(4);
    driver.with_ctrl([&] {
        driver.click(on_screen(first));
        driver.click(on_screen(last));
    });
    driver.drag(on_screen(first), on_screen(first + Vec3{0, 2, 0}));
    computed();
    EXPECT_NEAR(pole(0).y, 2, 0.2);
    EXPECT_NEAR(length((pole(4) - last) - (pole(0) - first)), 0, 1e-9);
    EXPECT_EQ(pole(2), before) << "the others stay";
    driver.key("Escape");
    driver.drag(on_screen(last + Vec3{0, pole(0).y, 0}), on_screen(last));
    computed();
    EXPECT_NEAR(pole(0).y, 2, 0.2) << "let go, it stays";
    EXPECT_NEAR(pole(4).y, 0, 0.2);
}

TEST_F(Places, AResponseIsBentWithTheMouseAndByNumbers) {
    build_canopy();
    driver.click(part("reach", "response"));
    ASSERT_TRUE(Driver::until([&] { return child("response-drawn") != nullptr; }));
    driver.click(child("response-straight"));
    computed();
    auto* graph = dynamic_cast<ResponseGraph*>(child("response-graph"));
    ASSERT_NE(graph, nullptr);
    ASSERT_TRUE(Driver::until([&] { return graph->numbers() != nullptr; }))
        << "the numbers are spread behind it";
    const auto at = [&](double share, double answer) {
        return graph->mapToGlobal(graph->place_of(share, answer).toPoint());
    };
    const auto word = [&] { return std::get<WordKey>(study().step("reach")->slots.at("response")).key; };
    EXPECT_EQ(word(), "straight");
    // A click adds a knot, and a drag takes it along.
    driver.move_to(at(0.5, 0.5));
    driver.press();
    for (int step = 1; step <= 8; ++step)
        driver.move_to(at(0.5, 0.5 - 0.05 * step));
    driver.release();
    computed();
    ASSERT_TRUE(word().starts_with("drawn ")) << word();
    ASSERT_EQ(graph->knots().size(), 3U);
    EXPECT_NEAR(graph->knots()[1].answer, 0.1, 0.02);
    const auto reach = std::get<FieldOnPoints>(*document().results().shown("reach")->value);
    double lowest = 1;
    for (const double value : reach.field().values.span())
        lowest = std::min(lowest, value);
    EXPECT_LT(lowest, 0.12);
    // In numbers, in the units of either side: the reach is 12 m.
    driver.click(child("knot-at"));
    driver.key("ctrl+a");
    driver.type("3 m");
    driver.key("Return");
    computed();
    EXPECT_NEAR(graph->knots()[1].at, 0.25, 1e-9);
    driver.click(child("knot-straight"));
    computed();
    EXPECT_TRUE(graph->knots()[1].straight);
    driver.click(child("knot-remove"));
    computed();
    EXPECT_EQ(graph->knots().size(), 2U);
    driver.key("Escape");
    EXPECT_TRUE(Driver::until([&] { return child("response-graph") == nullptr; }));
    const std::string bent = word();
    driver.key("ctrl+z");
    computed();
    EXPECT_NE(word(), bent);
}

TEST_F(Places, AnotherThrowAndBack) {
    continue_with("rectangular");
    continue_with("throw");
    ASSERT_TRUE(study().step("chance"));
    const auto first_number = [&] {
        return std::get<FieldOnPoints>(*document().results().shown("chance")->value).field().values[0];
    };
    const double before = first_number();
    part("chance", "seed")->setFocus(Qt::OtherFocusReason);
    driver.key("n");
    computed();
    EXPECT_EQ(slot_text_of("chance", "seed"), "2");
    EXPECT_NE(first_number(), before);
    driver.key("p");
    computed();
    EXPECT_EQ(first_number(), before) << "the throw before is exactly the same";
    // On the step itself the same keys do.
    window->sheet().step_block(study().step("chance")->id)->setFocus(Qt::OtherFocusReason);
    driver.key("n");
    computed();
    EXPECT_EQ(slot_text_of("chance", "seed"), "2");
}

TEST_F(Places, PointsArePickedInTheModel) {
    continue_with("rectangular");
    continue_with("keep points by address");
    driver.click(part("picked", "addresses"));
    ASSERT_TRUE(Driver::until([&] { return child("lines") != nullptr; }));
    driver.click(button_in_popup("Pick"));
    ASSERT_TRUE(Driver::until([&] { return view().tool() != nullptr; }));
    computed();
    EXPECT_TRUE(study().step("lattice")->show.visible) << "what can be picked is seen";
    driver.key("ctrl+2");
    Driver::settle(150);
    const auto lattice = std::get<PointLattice>(*document().results().shown("lattice")->value);
    const auto click = [&](Address address) {
        driver.click(on_screen(lattice.point(lattice.index(address))));
        computed();
    };
    click({4, 3, 0});
    click({20, 10, 0});
    EXPECT_EQ(slot_text_of("picked", "addresses"), "0,0 4,3 20,10");
    click({4, 3, 0});
    EXPECT_EQ(slot_text_of("picked", "addresses"), "0,0 20,10") << "a second click lets go";
    driver.key("Return");
    EXPECT_TRUE(Driver::until([&] { return view().tool() == nullptr; }));
    type_into("lattice", "columns", "10");
    auto* remarks =
        window->sheet().step_block(study().step("picked")->id)->findChild<QLabel*>("step-remarks");
    EXPECT_TRUE(remarks->isVisible());
    EXPECT_TRUE(remarks->text().contains("20,10")) << "and it says what is no longer there";
}

// By whatever word a vertex is named: a click on its ring lets it go, and nothing else.
TEST_F(Places, WhatARangeNamesIsLetGoByAClick) {
    continue_with("rectangular");
    type_into("lattice", "columns", "3");
    type_into("lattice", "rows", "2");
    continue_with("skin");
    driver.click(part("surface", "surface"));
    choose("flat");
    computed();
    continue_with("hold");
    driver.click(part("held", "at"));
    choose("the points named");
    driver.click(part("held", "addresses"));
    ASSERT_TRUE(Driver::until([&] { return child("lines") != nullptr; }));
    driver.key("ctrl+a");
    driver.type("0,0 4..6");
    driver.click(button_in_popup("Pick"));
    ASSERT_TRUE(Driver::until([&] { return view().tool() != nullptr; }));
    computed();
    driver.key("ctrl+2");
    Driver::settle(150);
    const auto click = [&](std::size_t vertex) {
        const auto mesh = std::get<Mesh>(*document().results().shown("surface")->value);
        driver.click(on_screen(mesh.vertex(vertex)));
        computed();
    };
    click(5);
    EXPECT_EQ(slot_text_of("held", "addresses"), "0,0 4 6");
    click(0);
    EXPECT_EQ(slot_text_of("held", "addresses"), "4 6");
    click(5);
    EXPECT_EQ(slot_text_of("held", "addresses"), "4 6 5");
    EXPECT_TRUE(study().step("surface")->show.visible);
    driver.key("Return");
    computed();
    EXPECT_FALSE(study().step("surface")->show.visible) << "it was shown to be picked";
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(slot_text_of("held", "addresses"), "4 6") << "one step back is the last pick";
}

TEST_F(Places, MembersArePickedInTheModel) {
    continue_with("rectangular");
    continue_with("frame points along their rows");
    continue_with("members by mark");
    const std::string frame_name = std::get<ResultName>(study().step("picked")->slots.at("frame")).name;
    driver.click(part("picked", "marks"));
    ASSERT_TRUE(Driver::until([&] { return child("lines") != nullptr; }));
    driver.click(button_in_popup("Pick"));
    ASSERT_TRUE(Driver::until([&] { return view().tool() != nullptr; }));
    computed();
    driver.key("ctrl+2");
    Driver::settle(150);
    const auto frame = std::get<BarFrame>(*document().results().shown(frame_name)->value);
    const std::size_t all = frame.member_count();
    const auto& bar = *std::ranges::find(frame.members(), "8,5–8,6",
                                         [&](const Member& member) { return member_mark(frame, member); });
    const QPoint middle = on_screen((frame.start(bar) + frame.end(bar)) * 0.5);
    const auto left = [&] {
        return std::get<BarFrame>(*document().results().shown("picked")->value).member_count();
    };
    driver.click(middle);
    computed();
    EXPECT_EQ(slot_text_of("picked", "marks"), "0,0–1,0 8,5–8,6");
    EXPECT_EQ(left(), all - 2);
    driver.click(middle);
    computed();
    EXPECT_EQ(slot_text_of("picked", "marks"), "0,0–1,0") << "a second click lets go";
    driver.key("Return");
    EXPECT_TRUE(Driver::until([&] { return view().tool() == nullptr; }));
}

TEST_F(Places, PartsOfAMeshAreToldAndPickedInTheModel) {
    continue_with("rectangular");
    type_into("lattice", "columns", "5");
    type_into("lattice", "rows", "3");
    continue_with("stand posts");
    computed();
    driver.key("ctrl+2");
    Driver::settle(150);
    const auto top_of_post = [&](std::size_t part) {
        const auto mesh = std::get<Mesh>(*document().results().shown("posts")->value);
        const Vec3 corner = mesh.vertex(mesh.face(mesh.part(part).begin)[0]);
        const auto lattice = std::get<PointLattice>(*document().results().shown("lattice")->value);
        return Vec3{lattice.x()[part], lattice.y()[part], corner.z + 2};
    };
    driver.move_to(on_screen(top_of_post(7)));
    ASSERT_TRUE(
        Driver::until([&] { return document().attention().hovered().step == study().step("posts")->id; }));
    EXPECT_EQ(document().attention().hovered().index, 7U);
    continue_with("keep parts");
    driver.click(part("taken", "parts"));
    ASSERT_TRUE(Driver::until([&] { return child("lines") != nullptr; }));
    driver.click(button_in_popup("Pick"));
    ASSERT_TRUE(Driver::until([&] { return view().tool() != nullptr; }));
    computed();
    driver.click(on_screen(top_of_post(7)));
    computed();
    driver.click(on_screen(top_of_post(17)));
    computed();
    EXPECT_EQ(slot_text_of("taken", "parts"), "0 7 17");
    driver.key("Return");
    computed();
    EXPECT_EQ(std::get<Mesh>(*document().results().shown("taken")->value).part_count(), 3U);
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Places, TypedPointsAreTakenOver) {
    continue_with("type points");
    driver.click(part("points", "rows"));
    ASSERT_TRUE(Driver::until([&] { return child("lines") != nullptr; }));
    auto* edit = dynamic_cast<QPlainTextEdit*>(child("lines"));
    driver.key("ctrl+a");
    driver.type("1 2 3");
    driver.key("Return");
    driver.type("4 5 6");
    EXPECT_EQ(edit->toPlainText(), "1 2 3\n4 5 6");
    driver.key("ctrl+Return");
    computed();
    EXPECT_EQ(std::get<PointLattice>(*document().results().shown("points")->value).point_count(), 2U);
}

TEST_F(Places, AChangedPictureIsNoticedAndReadAgain) {
    const QString picture = folder.filePath("tone.png");
    const auto write = [&](std::uint8_t tone) {
        Image image{4, 4, {}};
        for (int pixel = 0; pixel < 16; ++pixel)
            image.rgba.insert(image.rgba.end(), {tone, tone, tone, 255});
        ASSERT_TRUE(write_png(image, picture.toStdString()));
    };
    write(255);
    continue_with("rectangular");
    continue_with("picture");
    ASSERT_TRUE(study().step("picture"));
    EXPECT_EQ(document().results().shown("picture")->state, StepState::failed) << "no picture is chosen yet";
    document().apply(set_slot(study(), study().step("picture")->id, "file", FileName{picture.toStdString()}),
                     "picture");
    computed();
    const auto tone = [&] {
        return std::get<FieldOnPoints>(*document().results().shown("picture")->value).field().values[0];
    };
    EXPECT_NEAR(tone(), 1, 1e-6);
    EXPECT_TRUE(document().results().shown("picture")->thumbnail);
    write(0);
    ASSERT_TRUE(Driver::until([&] { return child("read-again") != nullptr; })) << "the change is noticed";
    EXPECT_NEAR(tone(), 1, 1e-6) << "and nothing changes by itself";
    driver.click(child("read-again"));
    ASSERT_TRUE(Driver::until([&] { return tone() < 0.5; }));
    EXPECT_TRUE(Driver::until([&] { return child("read-again") == nullptr; }));
    // A file that is no longer linked is nobody's business.
    document().apply(set_slot(study(), study().step("picture")->id, "file", FileName{"another.png"}),
                     "picture");
    computed();
    write(200);
    Driver::settle(2600);
    EXPECT_EQ(child("read-again"), nullptr);
    document().undo();
    computed();
    ASSERT_TRUE(Driver::until([&] { return child("read-again") != nullptr; }))
        << "linked again, it is noticed";
    driver.click(child("read-again"));
    ASSERT_TRUE(Driver::until([&] { return child("read-again") == nullptr; }));
    ASSERT_TRUE(QFile::remove(picture));
    ASSERT_TRUE(Driver::until([&] { return child("read-again") != nullptr; })) << "so is its going";
}

TEST_F(Places, OneStudyAfterAnotherIsOpened) {
    for (const char* name :
         {"wing-canopy", "perch-field", "reed-screen", "crest", "perch-field", "spiral-rail"}) {
        ASSERT_TRUE(window->open_file(QString(demo_folder) + "/" + name + ".plume")) << name;
        computed();
        EXPECT_EQ(document().results().problem_count(), 0U) << name;
        document().mark_saved(document().path());
    }
}

TEST_F(Places, ManyResultsKeepTheirNamesReadable) {
    ASSERT_TRUE(window->open_file(QString(demo_folder) + "/perch-field.plume"));
    computed();
    Driver::settle(100);
    int seen = 0;
    for (const Item& item : study().items) {
        const Step* step = step_of(item);
        if (!step || page_of(*step) != Page::sheet) continue;
        QToolButton* chip = window->model().chip(step->name);
        if (!chip->isVisible()) continue;
        ++seen;
        EXPECT_GE(chip->width(), chip->sizeHint().width()) << step->name;
    }
    EXPECT_GT(seen, 3);
    QToolButton* more = window->findChild<QToolButton*>("more-chips");
    ASSERT_TRUE(more->isVisible());
    EXPECT_FALSE(study().step("grid")->show.visible);
    driver.click(more);
    choose("grid");
    computed();
    EXPECT_TRUE(study().step("grid")->show.visible) << "what has no chip of its own is in the menu";
}

TEST_F(Places, OfVeryManyResultsTheSeenOnesHaveChips) {
    StudyPointer many = std::make_shared<const Study>();
    const StepKind& kind = *document().catalogue().find("lattice.rectangular");
    for (int number = 0; number < 150; ++number) {
        const auto added = add_step(*many, document().catalogue(), kind, many->items.size());
        ASSERT_TRUE(added);
        Show show = added->study->step(added->id)->show;
        show.visible = number == 0;
        many = *set_show(*added->study, added->id, show);
    }
    document().apply(many, "many");
    computed();
    const std::string first = step_of(study().items[0])->name, second = step_of(study().items[1])->name;
    ASSERT_TRUE(Driver::until([&] { return window->model().chip(first); }));
    EXPECT_TRUE(window->model().chip(first)->isVisible());
    EXPECT_EQ(window->model().chip(second), nullptr);
    int chips = 0;
    for (const Item& item : study().items)
        if (const QToolButton* chip = window->model().chip(step_of(item)->name))
            chips += chip->isVisible() ? 1 : 0;
    auto* more = window->findChild<QToolButton*>("more-chips");
    EXPECT_EQ(more->text(), QString("+%1").arg(150 - chips));
    driver.click(more);
    ASSERT_TRUE(Driver::until([] { return QApplication::activePopupWidget() != nullptr; }));
    driver.key("Down");
    driver.key("Down");
    driver.key("Return");
    computed();
    EXPECT_TRUE(study().step(second)->show.visible);
    ASSERT_TRUE(Driver::until([&] { return window->model().chip(second); }));
    EXPECT_TRUE(window->model().chip(second)->isVisible());
}

}  // namespace
}  // namespace plume::test
