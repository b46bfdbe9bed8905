// The walks of the README, with exactly its keystrokes: what is typed behind Ctrl+Return is read from the
// page itself.

#include <QApplication>
#include <QFile>
#include <QFileDialog>
#include <QLabel>
#include <QRegularExpression>
#include <QTableView>
#include <QToolButton>
#include <QTreeWidget>
#include <numeric>

#include "app/formula/formula_block.hpp"
#include "app/time/time_lanes.hpp"
#include "core/data/address_text.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "folders.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Walks : public WindowTest {
protected:
    // What the walk under a heading types behind Ctrl+Return, in order.
    static QStringList typed_in(const QString& heading) {
        QFile page(QString::fromUtf8(readme_file));
        EXPECT_TRUE(page.open(QIODevice::ReadOnly));
        const QString text = QString::fromUtf8(page.readAll());
        const qsizetype begin = text.indexOf("## " + heading);
        EXPECT_GE(begin, 0) << heading.toStdString();
        const QString walk = text.mid(begin, text.indexOf("\n## ", begin + 1) - begin);
        static const QRegularExpression keys("\\*\\*Ctrl\\+Return\\*\\*(?:, type)? `([^`]+)`");
        QStringList words;
        for (auto found = keys.globalMatch(walk); found.hasNext();)
            words << found.next().captured(1);
        return words;
    }
    // Types them one by one; the kinds of step that came of it.
    std::vector<std::string> walk(const QStringList& words) {
        std::vector<std::string> kinds;
        for (const QString& word : words) {
            const std::size_t before = study().items.size();
            continue_with(word);
            EXPECT_GT(study().items.size(), before) << word.toStdString();
            const Step* step = study().step(document().attention().selected());
            kinds.push_back(step ? step->kind : "");
        }
        return kinds;
    }
};

TEST_F(Walks, TheWingCanopy) {
    const std::vector<std::string> wanted{"lattice.rectangular", "attractors.points", "field.distance",
                                          "field.range",         "points.push",       "skin"};
    EXPECT_EQ(walk(typed_in("Five minutes")), wanted);
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_EQ(std::get<Attractors>(*document().results().shown("attractors")->value).items().size(), 2U)
        << "two rose discs stand in the model";
    EXPECT_EQ(lattice_of(*document().results().shown("lattice")->value)->point_count(), 425U);
    const std::string reach = "reach";
    driver.click(part(reach, "response"));
    ASSERT_TRUE(Driver::until([&] { return child("response-half_sine") != nullptr; }));
    driver.click(child("response-half_sine"));
    driver.key("Escape");
    computed();
    EXPECT_NE(part(reach, "reach"), nullptr) << "its reach appears in the sentence";
    EXPECT_EQ(slot_text_of("ranged", "low_length"), "0 m");
    EXPECT_EQ(slot_text_of("ranged", "high_length"), "3.2 m");
    type_into("ranged", "high_length", "250 cm");
    EXPECT_NEAR(top_of("surface"), 2.5, 0.1);
    driver.click(part("ranged", "high_length"), 3);
    choose("Make it a control");
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.key("ctrl+a");
    driver.type("swell");
    driver.key("Return");
    computed();
    ASSERT_NE(study().control("swell"), nullptr);
    type_into("ranged", "high_length", "swell * 2");
    EXPECT_EQ(document().results().problem_count(), 0U);
    const std::size_t items = study().items.size();
    for (int n = 0; n < 12; ++n)
        driver.key("ctrl+z");
    EXPECT_LT(study().items.size(), items);
}

TEST_F(Walks, AFormFromAFormula) {
    const std::vector<std::string> wanted{"lattice.formula", "skin"};
    EXPECT_EQ(walk(typed_in("Five more: a form from a formula")), wanted);
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_NE(document().results().shown("surface")->drawable, nullptr);
}

TEST_F(Walks, ARidgeByItsPoles) {
    const QStringList typed = typed_in("Five more: a ridge by its poles");
    ASSERT_EQ(typed.size(), 4);
    EXPECT_EQ(walk(typed.mid(0, 1)), std::vector<std::string>{"curve.arc"});
    driver.click(part("arc", "shape"));
    choose("a line");
    computed();
    EXPECT_EQ(walk(typed.mid(1, 1)), std::vector<std::string>{"curve.over_base"});
    const auto ridge = [&](std::size_t pole) {
        return std::get<CurveSet>(*document().results().shown("curve")->value).curves.front().pole(pole);
    };
    // An end of the line carries the curve.
    Driver::settle(150);  // the curve is brought into view
    const Vec3 first = ridge(0), last = ridge(4);
    driver.drag(on_screen({6, 0, 0}), on_screen({6, 4, 0}));
    computed();
    EXPECT_NEAR(length(ridge(0) - first), 0, 0.02) << "the foot of its other end stays";
    EXPECT_NEAR(length(ridge(4) - last - Vec3{0, 4, 0}), 0, 0.3);
    EXPECT_EQ(walk(typed.mid(2)), (std::vector<std::string>{"curve.comb", "number.curve"}));
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, ARoofWithAThickness) {
    const QStringList typed = typed_in("Five more: a roof with a thickness");
    ASSERT_EQ(typed.size(), 5);
    EXPECT_EQ(walk(typed.mid(0, 2)), (std::vector<std::string>{"curve.drawn", "curve.drawn"}));
    driver.click(part("curve_2", "poles"));
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.click(button_in_popup("Draw"));
    ASSERT_TRUE(Driver::until([&] { return view().tool() != nullptr; }));
    Driver::settle(150);
    for (const Vec3 place : {Vec3{-10, 3, 0}, Vec3{-4, 2, 0}, Vec3{3, 4, 0}, Vec3{10, 3, 0}}) {
        driver.click(on_screen(place));
        Driver::settle(60);
    }
    driver.key("Return");
    computed();
    ASSERT_EQ(std::get<CurveSet>(*document().results().shown("curve_2")->value).curves.front().x().size(),
              4U);
    EXPECT_EQ(walk(typed.mid(2)), (std::vector<std::string>{"surface.loft", "body.thicken", "number.body"}));
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_FALSE(study().step("surface")->show.visible) << "the body stands where it was";
    EXPECT_TRUE(study().step("curve")->show.visible) << "its poles are still to be dragged";
    const auto volume = [&] {
        return std::get<Quantity>(*document().results().shown("figure")->value).value;
    };
    const double before = volume();
    EXPECT_GT(before, 0);
    driver.drag(on_screen({10, 3, 0}), on_screen({10, 5, 0}));
    computed();
    EXPECT_GT(volume(), before * 1.02);
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(volume(), before);
}

TEST_F(Walks, AReliefInContoursAndSheets) {
    const QStringList typed = typed_in("Five more: a relief in contours and sheets");
    ASSERT_EQ(typed.size(), 6);
    EXPECT_EQ(walk(typed.mid(0, 3)), (std::vector<std::string>{"lattice.formula", "skin", "curve.levels"}));
    const auto curves = [&] {
        return std::get<CurveSet>(*document().results().shown("levels")->value).curves;
    };
    const std::size_t before = curves().size();
    ASSERT_GT(before, 2U);
    // Dragged finer, and the count follows.
    QWidget* spacing = part("levels", "spacing");
    scroll_to(spacing);
    const QPoint middle = spacing->mapToGlobal(spacing->rect().center());
    driver.drag(middle, middle - QPoint(24, 0));
    computed();
    EXPECT_GT(curves().size(), before) << slot_text_of("levels", "spacing");
    // A line is pointed at, and named with its length in the table.
    driver.key("ctrl+2");
    Driver::settle(150);
    const SplineCurve line = curves().front();
    const Vec3 at = evaluate(line, std::midpoint(line.basis().start(), line.basis().end())).position;
    driver.move_to(on_screen(at));
    const ItemId levels = study().step("levels")->id;
    ASSERT_TRUE(Driver::until([&] { return document().attention().hovered().step == levels; }));
    const std::size_t hovered = document().attention().hovered().index;
    auto* table = window->findChild<QTableView*>("values");
    const QAbstractItemModel* rows = table->model();
    EXPECT_EQ(rows->index(table->currentIndex().row(), 0).data().toString(), QString::number(hovered));
    EXPECT_EQ(walk(typed.mid(3)), (std::vector<std::string>{"curve.write", "body.fill", "body.sheets"}));
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_GT(std::get<CurveSet>(*document().results().shown("writing")->value).curves.size(),
              curves().size());
    EXPECT_GT(std::get<SolidSet>(*document().results().shown("sheets")->value).bodies.size(), 10U);
}

TEST_F(Walks, HowASkinBendsAndAUnitInEveryCell) {
    const QStringList typed = typed_in("Five more: how a skin bends, and a unit in every cell");
    ASSERT_EQ(typed.size(), 6);
    EXPECT_EQ(walk(typed), (std::vector<std::string>{"lattice.formula", "thing.measure", "curve.isolines",
                                                     "outline.shape", "body.extrude", "cells.fill"}));
    EXPECT_EQ(document().results().problem_count(), 0U);
    const auto filled = [&] { return std::get<SolidSet>(*document().results().shown("filled")->value); };
    EXPECT_EQ(filled().bodies.size(), 60U * 40);
    const double before = figures_of(filled()).volume;
    QWidget* depth = part("filled", "thickness");
    scroll_to(depth);
    const QPoint middle = depth->mapToGlobal(depth->rect().center());
    driver.drag(middle, middle + QPoint(30, 0));
    computed();
    EXPECT_GT(figures_of(filled()).volume, before * 1.01) << slot_text_of("filled", "thickness");
}

TEST_F(Walks, AHideOnItsSite) {
    const QStringList typed = typed_in("Five more: a hide on its site");
    ASSERT_EQ(typed.size(), 3);
    const auto choose_file = [&](const std::string& result, const char* name) {
        driver.click(part(result, "file"));
        ASSERT_TRUE(Driver::until([&] { return window->findChild<QFileDialog*>() != nullptr; }));
        Driver::settle(300);
        driver.type(QString(demo_folder) + "/site/" + name);
        driver.key("Return");
        ASSERT_TRUE(Driver::until([&] { return window->findChild<QFileDialog*>() == nullptr; }));
        computed();
    };
    EXPECT_EQ(walk(typed.mid(0, 1)), std::vector<std::string>{"curve.file"});
    choose_file("drawing", "plan.dxf");
    const auto remarks = [&] { return document().results().shown("drawing")->remarks; };
    ASSERT_FALSE(remarks().empty());
    EXPECT_NE(remarks().back().text.find("470 km"), std::string::npos) << remarks().back().text;
    driver.click(part("drawing", "placing"));
    choose("with the origin at");
    type_into("drawing", "east", "1250260 ft");
    type_into("drawing", "north", "900215 ft");
    computed();
    const Box box = document().results().shown("drawing")->bounds;
    EXPECT_NEAR(box.low.x, -260 * 0.3048, 1e-6);
    EXPECT_NEAR(box.high.y, 235 * 0.3048, 1e-6);
    EXPECT_EQ(walk(typed.mid(1, 1)), std::vector<std::string>{"lattice.heights"});
    choose_file("ground", "mud.asc");
    EXPECT_EQ(document().results().problem_count(), 1U) << "it asks for the unit";
    driver.click(part("ground", "unit"));
    choose("feet");
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_EQ(walk(typed.mid(2)), std::vector<std::string>{"exact.file"});
    choose_file("forms", "boathouse.step");
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_EQ(std::get<SolidSet>(*document().results().shown("forms")->value).bodies.size(), 3U);
}

TEST_F(Walks, ATowerOfBars) {
    const QStringList typed = typed_in("Five more: a tower of bars");
    ASSERT_EQ(typed.size(), 4);
    EXPECT_EQ(walk(typed.mid(0, 3)),
              (std::vector<std::string>{"outline.shape", "lattice.tower", "frame.link"}));
    const auto links = [&] { return std::get<BarFrame>(*document().results().shown("links")->value); };
    EXPECT_EQ(links().member_count(), 48U * 16);
    // Dragged, the shift is another and the bars are as many.
    QWidget* shift = part("links", "shift");
    scroll_to(shift);
    const QPoint middle = shift->mapToGlobal(shift->rect().center());
    driver.drag(middle, middle + QPoint(30, 0));
    computed();
    const double shifted = std::stod(slot_text_of("links", "shift"));
    ASSERT_GT(shifted, 1);
    ASSERT_LT(shifted, 48);
    EXPECT_EQ(links().member_count(), 48U * 16);
    scroll_to(part("links", "wrapping"));
    driver.click(part("links", "wrapping"));
    ASSERT_TRUE(Driver::until([] { return QApplication::activePopupWidget() != nullptr; }));
    driver.key("Down");
    driver.key("Down");
    driver.key("Return");
    computed();
    EXPECT_EQ(links().member_count(), static_cast<std::size_t>(48 - shifted) * 16);
    // One key numbers the nodes, and takes the numbers away.
    const ItemId step = study().step("links")->id;
    window->sheet().step_block(step)->setFocus(Qt::TabFocusReason);
    driver.key("l");
    EXPECT_TRUE(Driver::until([&] { return study().step("links")->show.labels; }));
    driver.key("l");
    EXPECT_TRUE(Driver::until([&] { return !study().step("links")->show.labels; }));
    // A bar that is pointed at is found in the table, and the other way round.
    driver.key("ctrl+3");
    Driver::settle(150);
    const BarFrame frame = links();
    const Member& bar = frame.members().front();
    driver.move_to(on_screen(frame.start(bar) * 0.5 + frame.end(bar) * 0.5));
    ASSERT_TRUE(Driver::until([&] { return document().attention().hovered().step == step; }));
    const std::size_t hovered = document().attention().hovered().index;
    ASSERT_LT(hovered, frame.member_count());
    auto* table = window->findChild<QTableView*>("values");
    const auto mark_at = [&](int row) {
        return table->model()->index(row, 0).data().toString().toStdString();
    };
    EXPECT_EQ(mark_at(table->currentIndex().row()), member_mark(frame, frame.members()[hovered]));
    const QRect row = table->visualRect(table->model()->index(table->rowAt(30), 0));
    driver.move_to(table->viewport()->mapToGlobal(row.center()));
    const int wanted = table->rowAt(30);
    EXPECT_TRUE(Driver::until(
        [&] { return document().attention().hovered().index == static_cast<std::size_t>(wanted); }));
    EXPECT_EQ(walk(typed.mid(3)), (std::vector<std::string>{"mesh.bars"}));
    computed();
    const Shown* bars = document().results().shown("bars");
    ASSERT_TRUE(bars && bars->value) << (bars && bars->error ? sentence(*bars->error) : "");
    EXPECT_EQ(std::get<Mesh>(*bars->value).part_count(), links().member_count());
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, ARoostThatGrows) {
    const QStringList typed = typed_in("Five more: a roost that grows");
    ASSERT_EQ(typed.size(), 3);
    EXPECT_EQ(walk(typed.mid(0, 1)), std::vector<std::string>{"growth.parts"});
    const auto height = [&] { return document().results().shown("grown")->drawable->bounds.high.z; };
    computed();
    const double before = height();
    // The first angle of the rules, dragged.
    FormulaEditor& rules = window->sheet().step_block(study().step("grown")->id)->formula()->editor();
    scroll_to(&rules);
    QTextCursor cursor = rules.textCursor();
    cursor.setPosition(static_cast<int>(rules.toPlainText().indexOf("30°")));
    const QPoint angle = rules.viewport()->mapToGlobal(rules.cursorRect(cursor).center() + QPoint(4, 0));
    driver.drag(angle, angle + QPoint(40, 0));
    computed();
    EXPECT_EQ(rules.toPlainText().count("30°"), 2);
    EXPECT_NE(height(), before);
    EXPECT_EQ(walk(typed.mid(1)), (std::vector<std::string>{"growth.members", "mesh.bars"}));
    computed();
    const auto frame = [&] { return std::get<BarFrame>(*document().results().shown("branches")->value); };
    EXPECT_EQ(frame().member_count(), 1U + 3 + 9 + 27 + 81);
    scroll_to(part("bars", "sizes"));
    driver.click(part("bars", "sizes"));
    choose("by");
    computed();
    scroll_to(part("bars", "formula"));
    driver.click(part("bars", "formula"));
    FormulaEditor& width = window->sheet().step_block(study().step("bars")->id)->formula()->editor();
    driver.click(&width);
    driver.key("ctrl+a");
    driver.type("width = thickness");
    driver.key("Escape");
    computed();
    EXPECT_EQ(std::get<Mesh>(*document().results().shown("bars")->value).part_count(),
              frame().member_count());
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, AStepOfOnesOwn) {
    const QByteArray data = qgetenv("XDG_DATA_HOME");
    qputenv("XDG_DATA_HOME", folder.path().toUtf8());
    const QStringList typed = typed_in("Five more: a step of one's own");
    ASSERT_EQ(typed.size(), 3) << typed.join(" | ").toStdString();
    EXPECT_EQ(walk(typed.mid(0, 2)), (std::vector<std::string>{"lattice.rectangular", "script.lua"}));
    computed();
    QWidget* high = part("computed", "high");
    const QPoint at = high->mapToGlobal(high->rect().center());
    driver.drag(at, at + QPoint(30, 0));
    computed();
    const double top = top_of("computed");
    EXPECT_GT(top, 0.5);
    const auto edge_of = [&](const char* name) {
        return window->sheet().step_block(study().step(name)->id)->mapToGlobal(QPoint(3, 12));
    };
    driver.click(edge_of("lattice"));
    driver.with_shift([&] { driver.click(edge_of("computed")); });
    driver.key("ctrl+j");
    ASSERT_TRUE(Driver::until([&] { return child("group-name") != nullptr; }));
    driver.type("Lift rings");
    auto* slots = qobject_cast<QTreeWidget*>(child("group-slots"));
    const auto rows = slots->findItems("bays along i", Qt::MatchStartsWith);
    ASSERT_EQ(rows.size(), 1);
    driver.click(
        slots->viewport()->mapToGlobal(slots->visualItemRect(rows.front()).center() -
                                       QPoint(slots->visualItemRect(rows.front()).width() / 2 - 10, 0)));
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 1; }));
    computed();
    EXPECT_NEAR(top_of("computed"), top, 1e-9);
    EXPECT_EQ(slot_text_of("computed", "steps"), "2 steps");
    EXPECT_EQ(slot_text_of("computed", "columns"), "24");
    StepBlock* block = window->sheet().step_block(study().step("computed")->id);
    driver.click(block->findChild<QToolButton*>("more"));
    choose("Keep among my steps");
    Driver::settle(200);
    reopen();
    EXPECT_EQ(walk({typed[2]}), std::vector<std::string>{"group.steps"});
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    qputenv("XDG_DATA_HOME", data);
}

TEST_F(Walks, ANetThatHangs) {
    const QStringList typed = typed_in("Five more: a net that hangs");
    ASSERT_EQ(typed.size(), 5) << typed.join(" | ").toStdString();
    EXPECT_EQ(walk(typed.mid(0, 4)), (std::vector<std::string>{"lattice.rectangular", "frame.lattice",
                                                               "forces.hold", "forces.densities"}));
    const auto net = [&](const char* name) {
        return std::get<BarFrame>(*document().results().shown(name)->value);
    };
    const auto lowest = [&](const char* name) { return net(name).nodes().bounds().low.z; };
    EXPECT_NEAR(lowest("balanced"), 0, 1e-9) << "without load it is flat";
    driver.click(part("balanced", "loaded"));
    choose("under");
    computed();
    const double hung = lowest("balanced");
    EXPECT_LT(hung, -1);
    QWidget* weight = part("balanced", "weight");
    const QPoint at = weight->mapToGlobal(weight->rect().center());
    driver.drag(at, at + QPoint(30, 0));
    computed();
    EXPECT_LT(lowest("balanced"), hung);
    // One node more, picked among the net's nodes.
    driver.click(part("held", "at"));
    choose("the points named");
    computed();
    driver.click(part("held", "addresses"));
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.click(button_in_popup("Pick"));
    Driver::settle(200);
    const BarFrame flat = net("frame");
    const PointLattice& nodes = flat.nodes();
    const std::size_t middle = nodes.counts()[0] / 2 + nodes.counts()[0] * (nodes.counts()[1] / 2);
    driver.click(on_screen(nodes.point(middle)));
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("held", "addresses"), "0,0 " + address_text(nodes, middle));
    EXPECT_EQ(net("balanced").nodes().point(middle), nodes.point(middle)) << "it stays where it was";
    EXPECT_EQ(walk({typed[4]}), std::vector<std::string>{"forces.relax"});
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, AWalkThatRidesTheSwell) {
    EXPECT_EQ(walk(typed_in("Five more: a walk that rides the swell")),
              (std::vector<std::string>{"lattice.rectangular", "points.move_formula", "skin"}));
    driver.click(part("moved", "formula"));
    const StepBlock* block = window->sheet().step_block(study().step("moved")->id);
    ASSERT_TRUE(Driver::until([&] { return block->formula() != nullptr; }));
    FormulaEditor& formula = block->formula()->editor();
    const auto place_of = [&](const char* words) {
        QTextCursor cursor = formula.textCursor();
        cursor.setPosition(static_cast<int>(formula.toPlainText().indexOf(words)) + 1);
        return formula.viewport()->mapToGlobal(formula.cursorRect(cursor).center());
    };
    scroll_to(&formula);
    driver.click(place_of(")"));
    driver.key("End");
    driver.key("Left");
    driver.type(" - 120 * time");
    ASSERT_TRUE(Driver::until([&] { return child("time-strip") != nullptr; }));
    computed();
    ASSERT_EQ(document().results().problem_count(), 0U);
    const auto height = [&] { return lattice_of(*document().results().shown("moved")->value)->point(1).z; };
    const double before = height();
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() > 10; }));
    driver.click(child("time-play"));
    computed();
    EXPECT_GT(std::abs(height() - before), 0.05);
    scroll_to(&formula);
    driver.click(place_of("0.5 m"), 3);
    choose("Make 0.5 m a control");
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.key("ctrl+a");
    driver.type("swell");
    driver.key("Return");
    computed();
    scroll_to(child("control-key"));
    driver.click(child("control-key"));
    const auto& keys = [&]() -> const std::vector<ControlKey>& { return study().control("swell")->keys; };
    ASSERT_TRUE(Driver::until([&] { return keys().size() == 1; }));
    Driver::settle(400);
    auto* lanes = dynamic_cast<TimeLanes*>(child("time-lanes"));
    driver.click(lanes->mapToGlobal(QPoint(lanes->position_of(0, 3).x(), 8)));
    computed();
    QWidget* slider = child("control-slider");
    driver.click(slider->mapToGlobal(QPoint(slider->width() - 8, slider->height() / 2)));
    ASSERT_TRUE(Driver::until([&] { return keys().size() == 2; }));
    EXPECT_EQ(keys()[1].value, study().control("swell")->most);
    driver.click(window->sheet().step_block(study().step("surface")->id));
    ASSERT_TRUE(Driver::until([&] { return child("time-keep") != nullptr; }));
    driver.click(child("time-keep"));
    computed();
    ASSERT_NE(study().step("kept"), nullptr);
    EXPECT_EQ(slot_text_of("kept", "seconds"), "3");
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, AClothThatHangs) {
    const QStringList typed = typed_in("Five more: a cloth that hangs");
    EXPECT_EQ(walk(typed.mid(0, 2)), (std::vector<std::string>{"lattice.rectangular", "skin"}));
    driver.click(part("surface", "surface"));
    choose("flat facets");
    computed();
    EXPECT_EQ(walk(typed.mid(2)), (std::vector<std::string>{"forces.hold", "sheet.drape"}));
    ASSERT_TRUE(Driver::until([&] { return child("time-strip") != nullptr; }));
    computed();
    const auto lowest = [&] {
        return std::get<Mesh>(*document().results().shown("fallen")->value).bounds().low.z;
    };
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() >= 6; }));
    driver.click(child("time-play"));
    computed();
    const double soft = lowest();
    EXPECT_LT(soft, -0.05);
    const std::size_t frame = document().playing().frame();
    EXPECT_EQ(document().results().kept_frames(study().step("fallen")->id).size(), frame + 1);
    driver.click(part("fallen", "cloth"));
    choose("card");
    computed();
    EXPECT_NE(lowest(), soft) << "another cloth, at the same moment";
    EXPECT_EQ(document().playing().frame(), frame);
    driver.click(part("fallen", "below"));
    choose("a ground");
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    // One corner alone, led by a handle that is made where it is, and dragged.
    driver.click(part("held", "at"));
    choose("the points named");
    computed();
    driver.click(part("held", "led"));
    choose("led by");
    computed();
    driver.click(part("held", "leads"));
    choose("Handles where they are now");
    computed();
    const auto handle = [&] {
        return std::get<Attractors>(*document().results().shown("handles")->value).items().front().position;
    };
    const auto corner = [&] {
        return std::get<Mesh>(*document().results().shown("fallen")->value).vertex(0);
    };
    const Vec3 from = handle();
    EXPECT_NEAR(length(corner() - from), 0, 1e-3);
    const QPoint grip = on_screen(from);
    driver.drag(grip, grip + QPoint(25, 0));
    computed();
    EXPECT_GT(length(handle() - from), 0.5);
    EXPECT_GT(length(corner() - from), 0.1) << "it follows";
    EXPECT_EQ(document().results().problem_count(), 0U);
    // Recorded while it plays, and kept.
    driver.click(child("time-record"));
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() >= frame + 3; }));
    const QPoint led = on_screen(handle());
    driver.drag(led, led + QPoint(0, 20));
    driver.click(child("time-play"));
    computed();
    EXPECT_GE(std::get<plume::Places>(study().step("handles")->slots.at("places"))[0].keys.size(), 2U);
    driver.click(window->sheet().step_block(study().step("held")->id));
    ASSERT_TRUE(Driver::until([&] { return child("time-keep") != nullptr; })) << "of what is seen to move";
    const Mesh seen = std::get<Mesh>(*document().results().shown("fallen")->value);
    driver.click(child("time-keep"));
    computed();
    ASSERT_NE(study().step("kept"), nullptr);
    const Mesh kept = std::get<Mesh>(*document().results().shown("kept")->value);
    for (std::size_t vertex = 0; vertex < seen.vertex_count(); ++vertex)
        ASSERT_EQ(kept.vertex(vertex), seen.vertex(vertex)) << "what is kept is what was seen";
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, ANetOfThreads) {
    EXPECT_EQ(
        walk(typed_in("Five more: a net of threads")),
        (std::vector<std::string>{"lattice.rectangular", "frame.lattice", "forces.hold", "threads.drop"}));
    driver.click(part("fallen_threads", "grows"));
    choose("growing by");
    computed();
    ASSERT_TRUE(Driver::until([&] { return child("time-strip") != nullptr; }));
    const auto lowest = [&] {
        return std::get<BarFrame>(*document().results().shown("fallen_threads")->value)
            .nodes()
            .bounds()
            .low.z;
    };
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() >= 8; }));
    driver.click(part("fallen_threads", "cord"));
    choose("rubber");
    const std::size_t changed = document().playing().frame();
    EXPECT_GE(changed, 8U);
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() > changed + 4; }));
    EXPECT_TRUE(document().playing().plays());
    driver.click(child("time-play"));
    computed();
    EXPECT_LT(lowest(), -0.1);
    const auto& remarks = document().results().shown("fallen_threads")->remarks;
    EXPECT_TRUE(std::ranges::any_of(remarks, [](const Remark& remark) {
        return remark.text.find("it goes on from how it was before a change") != std::string::npos;
    }));
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, ASheetThatFrills) {
    const QStringList typed = typed_in("Five more: a sheet that frills");
    EXPECT_EQ(walk(typed.mid(0, 1)), (std::vector<std::string>{"sheet.grow"}));
    computed();
    const auto mesh = [&](const std::string& name) {
        return std::get<Mesh>(*document().results().shown(name)->value);
    };
    const std::size_t frilled = mesh("sheet").vertex_count();
    driver.click(part("sheet", "factor"));
    driver.type("0.85");
    driver.key("Return");
    computed();
    EXPECT_LT(mesh("sheet").vertex_count(), frilled / 2);
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(mesh("sheet").vertex_count(), frilled);
    EXPECT_EQ(walk(typed.mid(1, 1)), (std::vector<std::string>{"forces.hold"}));
    driver.click(part("held", "at"));
    choose("the points where");
    computed();
    driver.click(part("held", "formula"));
    const StepBlock* block = window->sheet().step_block(study().step("held")->id);
    ASSERT_TRUE(Driver::until([&] { return block->formula() != nullptr; }));
    FormulaEditor& condition = block->formula()->editor();
    driver.click(&condition);
    driver.key("ctrl+a");
    driver.type("ring == 0");
    computed();
    EXPECT_EQ(walk(typed.mid(2)), (std::vector<std::string>{"sheet.drape"}));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    const double before = mesh("fallen").bounds().low.z;
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() >= 6; }));
    driver.click(child("time-play"));
    computed();
    EXPECT_LT(mesh("fallen").bounds().low.z, before - 0.01);
    EXPECT_EQ(mesh("fallen").vertex(0), mesh("sheet").vertex(0)) << "its middle is held";
}

TEST_F(Walks, StonesThatSplit) {
    const QStringList typed = typed_in("Five more: stones that split");
    ASSERT_EQ(typed.size(), 5);
    EXPECT_EQ(walk(typed.mid(0, 3)),
              (std::vector<std::string>{"lattice.rectangular", "skin", "growth.faces"}));
    computed();
    const auto mesh = [&](const std::string& name) {
        return std::get<Mesh>(*document().results().shown(name)->value);
    };
    const auto counts = [&] { return mesh("tiles").part_marks()->grown->generations.size(); };
    EXPECT_EQ(counts(), 5U);
    const double width = area_vector(mesh("tiles"), 0).z;
    FormulaEditor& rules = window->sheet().step_block(study().step("tiles")->id)->formula()->editor();
    scroll_to(&rules);
    QTextCursor cursor = rules.textCursor();
    cursor.setPosition(static_cast<int>(rules.toPlainText().indexOf("0.15")));
    const QPoint inset = rules.viewport()->mapToGlobal(rules.cursorRect(cursor).center() + QPoint(4, 0));
    driver.drag(inset, inset + QPoint(40, 0));
    computed();
    EXPECT_GT(area_vector(mesh("tiles"), 0).z, width);
    driver.click(&rules);
    driver.key("ctrl+End");
    for (const char* line : {"glass becomes", "raised 0.3 m, tapered 0.5", "cap, above", "side, beside"}) {
        driver.key("Return");
        driver.type(line);
        driver.key("Escape");  // puts a list of names away
        rules.setFocus();
    }
    computed();
    QWidget* slider = child("growth-slider");
    scroll_to(slider);
    slider->setFocus();
    driver.key("Right");
    computed();
    EXPECT_EQ(slot_text_of("tiles", "generations"), "4");
    EXPECT_GT(mesh("tiles").bounds().high.z, 0.29);
    EXPECT_EQ(walk(typed.mid(3, 1)), std::vector<std::string>{"growth.keep"});
    computed();
    scroll_to(part("kept", "names"));
    driver.click(part("kept", "names"));
    ASSERT_TRUE(Driver::until([&] { return child("picks") != nullptr; }));
    auto* list = static_cast<QTreeWidget*>(child("picks"));
    ASSERT_TRUE(Driver::until([&] { return list->topLevelItemCount() == 7; }));
    const auto names = list->findItems("cap", Qt::MatchExactly);
    ASSERT_EQ(names.size(), 1);
    const QRect row = list->visualItemRect(names.front());
    driver.click(list->viewport()->mapToGlobal(QPoint(12, row.center().y())));
    driver.key("Escape");
    computed();
    const Mesh caps = mesh("kept");
    for (std::size_t face = 0; face < caps.part_count(); face += 1000)
        EXPECT_TRUE(caps.part_mark(face).starts_with("cap ")) << caps.part_mark(face);
    EXPECT_EQ(walk(typed.mid(4)), std::vector<std::string>{"growth.trace"});
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Walks, PostsInAnOutline) {
    const std::vector<std::string> wanted{"outline.drawn", "lattice.triangular", "points.keep_inside",
                                          "field.random", "mesh.posts"};
    EXPECT_EQ(walk(typed_in("Five more: posts in an outline")), wanted);
    EXPECT_EQ(document().results().problem_count(), 0U);
    driver.key(
        "ctrl+a");  // the line after a new step is empty, so N is typed into it: the step has to be in hand
    const Step* thrown = study().step("chance");
    ASSERT_NE(thrown, nullptr);
    const std::string before = slot_text_of("chance", "seed");
    window->sheet().step_block(thrown->id)->setFocus(Qt::TabFocusReason);
    driver.key("n");
    computed();
    EXPECT_NE(slot_text_of("chance", "seed"), before);
    driver.key("p");
    computed();
    EXPECT_EQ(slot_text_of("chance", "seed"), before);
}

// Tab takes what was typed and opens the next live part, Shift+Tab the one before.
TEST_F(Walks, TabGoesFromNumberToNumber) {
    continue_with("lattice");
    driver.click(part("lattice", "columns"));
    ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }));
    driver.type("10");
    driver.key("Tab");
    driver.type("6");
    driver.key("shift+Tab");
    driver.type("12");
    driver.key("Tab");
    driver.key("Return");
    computed();
    EXPECT_EQ(slot_text_of("lattice", "columns"), "12");
    EXPECT_EQ(slot_text_of("lattice", "rows"), "6");
    EXPECT_EQ(child("inline-editor"), nullptr);
    // The part after the rows is a word: its list opens, and Escape leaves it with the focus there.
    driver.click(part("lattice", "rows"));
    ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }));
    driver.key("Tab");
    ASSERT_TRUE(Driver::until([] { return QApplication::activePopupWidget() != nullptr; }));
    driver.key("Escape");
    EXPECT_TRUE(Driver::until([&] { return part("lattice", "sizing")->hasFocus(); }));
    // From the first one Shift+Tab leaves the sentence.
    driver.click(part("lattice", "columns"));
    ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }));
    driver.key("shift+Tab");
    EXPECT_TRUE(Driver::until([&] { return child("inline-editor") == nullptr; }));
    EXPECT_EQ(slot_text_of("lattice", "columns"), "12");
}

TEST_F(Walks, TheCanopyLeaves) {
    const QString study_file = file("canopy.plume");
    ASSERT_TRUE(QFile::copy(QString(demo_folder) + "/wing-canopy.plume", study_file));
    reopen(study_file);
    // A tenth of the size: what it shows is not looked at here.
    const ItemId picture = study().step("canopy_picture")->id;
    document().apply(set_slot(study(), picture, "width", NumberText{"192"}), "width");
    document().apply(set_slot(study(), picture, "height", NumberText{"120"}), "height");
    driver.key("ctrl+shift+2");
    const auto says = [&](const char* words) {
        const auto* write = qobject_cast<QPushButton*>(child("hand-off-write"));
        return write && write->text() == words;
    };
    ASSERT_TRUE(Driver::until([&] { return says("Write 6 files"); }));
    EXPECT_EQ(walk(typed_in("Five more: the canopy leaves")), std::vector<std::string>{"handoff.table"});
    ASSERT_TRUE(Driver::until([&] { return says("Write 7 files"); }));
    driver.click(child("hand-off-write"));
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    for (const char* ending :
         {".ifc", ".step", "-contours.dxf", "-footing.xlsx", "-drawing.pdf", ".xlsx", ".png"})
        EXPECT_TRUE(QFile::exists(file("handoff/wing-canopy") + ending)) << ending;
    driver.key("ctrl+shift+1");
    document().apply(set_control_value(study(), "swell", 2), "swell");
    computed();
    driver.key("ctrl+shift+2");
    ASSERT_TRUE(Driver::until([&] {
        const auto& plan = document().results().hand_off();
        const HandOffEntry* parts = plan ? plan->entry(study().step("canopy_parts")->id) : nullptr;
        return parts && parts->counts.gone == 1 && parts->counts.changed > 0;
    }));
    driver.click(child("hand-off-write"));
    driver.click(child("hand-off-arrived"));
    const auto received = [&](const char* name, const char* words) {
        const auto* label = qobject_cast<QLabel*>(child(name));
        return label && label->text().contains(words);
    };
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write") && child("received-take-in"); }));
    driver.click(child("received-take-in"));
    ASSERT_TRUE(Driver::until([&] { return received("received-state", "as in the files"); }));
    const auto* before = qobject_cast<QLabel*>(child("received-state"));
    const QString fewer = before->text();
    document().apply(set_control_value(study(), "swell", 3), "swell");
    ASSERT_TRUE(Driver::until([&] { return !says("Nothing to write") && !says("Write 0 files"); }));
    computed();
    driver.click(child("hand-off-write"));
    ASSERT_TRUE(Driver::until([&] { return received("received-state", "Something has arrived"); }));
    driver.click(child("received-take-in"));
    ASSERT_TRUE(Driver::until([&] { return received("received-state", "as in the files"); }));
    EXPECT_NE(before->text(), fewer) << "a foot came back";
    EXPECT_TRUE(received("received-files", "23 parts in it, 23 of it here"));
    document().attention().select(study().step("canopy_picture")->id);
    driver.click(child("hand-off-the-picture"));
    ASSERT_TRUE(Driver::until([&] { return received("picture-about", "· drawn"); }));
    EXPECT_TRUE(received("picture-about", "at a bearing of 273.1°"));
    type_into("canopy_picture", "hour", "9");
    ASSERT_TRUE(Driver::until([&] {
        return received("picture-about", "· drawn") && received("picture-about", "at a bearing of 100.3°");
    })) << qobject_cast<QLabel*>(child("picture-about"))->text().toStdString();
    driver.click(child("picture-as-model"));
    ASSERT_TRUE(Driver::until([&] { return study().cameras.size() == 1; }));
}

}  // namespace
}  // namespace plume::test
