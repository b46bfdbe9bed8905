// The page Hand off: writing a set, changing the form, seeing what changed and what is gone, writing again.

#include <QApplication>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QSlider>
#include <QTableView>
#include <QTreeWidget>
#include <algorithm>
#include <array>

#include "app/handoff/rehearsal_view.hpp"
#include "app/handoff/sheet_view.hpp"
#include "core/exchange/study_file.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class HandOffs : public WindowTest {
protected:
    void open_study_of(const char* name, const char* text) {
        QFile written(file(name));
        ASSERT_TRUE(written.open(QIODevice::WriteOnly));
        written.write(text);
        written.close();
        reopen(written.fileName());
    }
    // Nest boxes of which a control says how many stand in a row.
    void open_boxes() {
        open_study_of("nests.plume", R"({"plume": 1, "title": "Nest boxes",
          "controls": [{"name": "boxes_in_row", "value": 4, "least": 1, "most": 9, "step": 1}],
          "page": [
            {"step": "lattice.block", "result": "corners", "show": {"visible": false}, "slots": {
              "columns": "= boxes_in_row", "rows": 1, "layers": 1, "width": "= boxes_in_row * 1 m",
              "depth": "1 m", "height": "1 m", "origin": "corner"}},
            {"step": "body.cells", "result": "boxes", "slots": {"points": "corners"}}],
          "handoff": [
            {"step": "handoff.building", "result": "parts", "slots": {"results": {"results": ["boxes"]}}},
            {"step": "handoff.exact", "result": "solids", "slots": {"results": {"results": ["boxes"]}}}]})");
    }
    void show_hand_off() {
        driver.key("ctrl+shift+2");
        ASSERT_TRUE(Driver::until([&] { return child("hand-off-write") && planned(); }));
    }
    // On the page where the study is made, and back.
    void one_box_less() {
        driver.key("ctrl+shift+1");
        ASSERT_TRUE(Driver::until([&] { return child("control-value") != nullptr; }));
        driver.click(child("control-value"));
        ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }));
        driver.key("ctrl+a");
        driver.type("3");
        driver.key("Return");
        ASSERT_TRUE(Driver::until([&] { return study().control("boxes_in_row")->value == 3; }));
        computed();
        show_hand_off();
    }
    bool planned() { return document().results().hand_off() != nullptr; }
    QString text_of_label(const char* name) {
        const auto* label = qobject_cast<QLabel*>(child(name));
        return label ? label->text() : QString();
    }
    QPushButton* write_button() { return qobject_cast<QPushButton*>(child("hand-off-write")); }
    bool says(const char* words) { return write_button() && write_button()->text() == words; }
    bool says_both_are_of_one_file(const char* one, const char* other) {
        return std::ranges::all_of(std::array{one, other}, [&](const char* name) {
            const StepBlock* block = window->sheet().step_block(study().step(name)->id);
            const auto* error = block ? block->findChild<QLabel*>("step-error") : nullptr;
            return error && error->isVisible();
        });
    }
    QByteArray bytes_of(const char* name) {
        QFile read(file(name));
        return read.open(QIODevice::ReadOnly) ? read.readAll() : QByteArray();
    }
};

TEST_F(HandOffs, TheSetIsWrittenChangedAndWrittenAgain) {
    open_boxes();
    show_hand_off();
    ASSERT_TRUE(Driver::until([&] { return says("Write 2 files"); }));
    EXPECT_EQ(text_of_label("hand-off-state"), "4 new");
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    EXPECT_EQ(bytes_of("handoff/nest-boxes.ifc").count("=IFCBUILDINGELEMENTPROXY("), 4);
    EXPECT_FALSE(write_button()->isEnabled());
    one_box_less();
    ASSERT_TRUE(Driver::until([&] { return says("Write 2 files"); }));
    EXPECT_EQ(text_of_label("hand-off-state"), "1 gone, 3 as before");
    const auto* table = qobject_cast<QTableView*>(child("hand-off-parts"));
    ASSERT_NE(table, nullptr);
    const auto cell = [&](int row, int column) {
        return table->model()->index(row, column).data().toString();
    };
    EXPECT_EQ(cell(0, 0), "boxes 3,0,0") << "what is gone stands first";
    EXPECT_EQ(cell(0, 3), "gone");
    EXPECT_EQ(cell(1, 3), "as before");
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    EXPECT_EQ(bytes_of("handoff/nest-boxes.ifc").count("=IFCBUILDINGELEMENTPROXY("), 3) << "no ghosts";
}

TEST_F(HandOffs, AFilmIsWrittenWithAllItsMomentsAndAnotherAdded) {
    open_study_of("jetty.plume", R"({"plume": 1, "title": "Jetty", "time": {"seconds": 0.5, "rate": 4},
      "page": [
        {"step": "lattice.rectangular", "result": "piles", "show": {"visible": false}, "slots": {
          "columns": "= 2", "rows": "= 1", "width": "= 2 m + 1 m * time", "depth": "= 1 m"}},
        {"step": "skin", "result": "jetty", "slots": {"points": "piles"}}],
      "handoff": [
        {"step": "handoff.film", "result": "growing", "slots": {"results": {"results": ["jetty"]},
          "format": ".png", "width": "= 48", "height": "= 32"}}]})");
    show_hand_off();
    ASSERT_TRUE(Driver::until([&] { return says("Write 1 file"); }));
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    EXPECT_EQ(bytes_of("handoff/jetty.png").count("fcTL"), 3) << "at 0, 0.25 and 0.5 s";
    continue_with("film");
    ASSERT_NE(study().step("film"), nullptr);
    EXPECT_EQ(study().step("film")->kind, "handoff.film");
}

TEST_F(HandOffs, WhatSomebodyElseChangedIsAskedAbout) {
    open_boxes();
    show_hand_off();
    ASSERT_TRUE(Driver::until([&] { return says("Write 2 files"); }));
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    QFile theirs(file("handoff/nest-boxes.step"));
    ASSERT_TRUE(theirs.open(QIODevice::Append));
    theirs.write("/* by hand */");
    theirs.close();
    // Seen when the page is opened again.
    driver.key("ctrl+shift+1");
    show_hand_off();
    ASSERT_TRUE(Driver::until([&] { return says("Write 1 file"); }));
    in_dialog([&] {
        const auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        EXPECT_TRUE(box && box->text().contains("was changed by somebody else"));
        Driver().key("Escape");
    });
    driver.click(write_button());
    EXPECT_TRUE(bytes_of("handoff/nest-boxes.step").endsWith("/* by hand */"));
    in_dialog([&] {
        for (QPushButton* button : QApplication::activeModalWidget()->findChildren<QPushButton*>())
            if (button->text().contains("Replace")) Driver().click(button);
    });
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    EXPECT_FALSE(bytes_of("handoff/nest-boxes.step").contains("by hand"));
}

TEST_F(HandOffs, SentencesAreAddedAndSayWhatIsGivenAsWhat) {
    open_boxes();
    show_hand_off();
    continue_with("building");
    EXPECT_EQ(study().step("building_parts")->kind, "handoff.building");
    EXPECT_EQ(slot_text_of("building_parts", "results"), "boxes");
    // Two of one file: both say so, and what mends it. Their lines are there before anything is clicked.
    ASSERT_TRUE(Driver::until([&] { return says_both_are_of_one_file("parts", "building_parts"); }));
    driver.click(part("building_parts", "results"));
    ASSERT_TRUE(Driver::until([&] { return child("given-as-boxes") != nullptr; }));
    child("given-as-boxes")->setFocus();
    driver.type("wall");
    driver.key("Return");
    EXPECT_TRUE(Driver::until([&] { return slot_text_of("building_parts", "results") == "boxes as wall"; }));
    driver.key("Escape");
    driver.click(part("building_parts", "file"));
    driver.key("ctrl+a");
    driver.type("{study}-walls");
    driver.key("Return");
    EXPECT_TRUE(Driver::until([&] { return says("Write 3 files"); }));
    driver.key("ctrl+z");
    EXPECT_TRUE(Driver::until([&] { return says("Write 1 file"); })) << "undone, they are of one file again";
    // What leaves is no step of the sheet, nor the other way round.
    driver.key("ctrl+shift+1");
    EXPECT_EQ(window->sheet().step_block(study().step("building_parts")->id), nullptr);
    continue_with("skin");
    EXPECT_EQ(page_of(study().items.back()), Page::hand_off);
}

// What the issue of ghosts is about: write, receive, take one box away, write again, see what arrived.
TEST_F(HandOffs, WhatArrivedIsUpdatedInPlace) {
    open_boxes();
    show_hand_off();
    driver.click(child("hand-off-arrived"));
    ASSERT_TRUE(Driver::until(
        [&] { return text_of_label("received-instead").contains("Nothing has been written"); }));
    ASSERT_TRUE(Driver::until([&] { return says("Write 2 files"); }));
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return text_of_label("received-state") == "Something has arrived"; }));
    EXPECT_TRUE(
        text_of_label("received-files").contains("nest-boxes.ifc: 4 new · 4 parts in it, 0 of it here"))
        << text_of_label("received-files").toStdString();
    driver.click(child("received-take-in"));
    ASSERT_TRUE(Driver::until([&] { return text_of_label("received-state") == "4 parts, as in the files"; }));
    const auto* tree = qobject_cast<QTreeWidget*>(child("received-parts"));
    ASSERT_NE(tree, nullptr);
    ASSERT_EQ(tree->topLevelItemCount(), 1);
    EXPECT_EQ(tree->topLevelItem(0)->text(0), "ground");
    EXPECT_EQ(tree->topLevelItem(0)->text(1), "4");
    EXPECT_EQ(tree->topLevelItem(0)->text(3), "4 m³") << "four of 1 m³";
    // The last one is chosen in the tree by the keyboard: it stands out, and is told about.
    driver.click(child("received-parts"));
    driver.key("End");
    for (int at = 0; at < 3; ++at)
        driver.key("Right");
    driver.key("End");
    ASSERT_TRUE(Driver::until([&] { return text_of_label("received-part") == "boxes 3,0,0"; }))
        << text_of_label("received-part").toStdString();
    EXPECT_TRUE(text_of_label("received-figures").contains("1 m³"));
    // Locked, it stays though its file has it no more.
    driver.click(child("received-lock"));
    ASSERT_TRUE(Driver::until([&] {
        const auto* lock = qobject_cast<QPushButton*>(child("received-lock"));
        return lock && lock->text() == "Unlock it" && lock->isEnabled();
    }));
    one_box_less();
    ASSERT_TRUE(Driver::until([&] { return says("Write 2 files"); }));
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] {
        return text_of_label("received-files")
            .contains("1 locked, 3 as before · 3 parts in it, 4 of it here");
    })) << text_of_label("received-files").toStdString();
    // Unlocked, it goes with the next taking in.
    driver.click(child("received-lock"));
    ASSERT_TRUE(Driver::until([&] { return text_of_label("received-state") == "Something has arrived"; }));
    driver.click(child("received-take-in"));
    ASSERT_TRUE(Driver::until([&] { return text_of_label("received-state") == "3 parts, as in the files"; }));
    EXPECT_TRUE(text_of_label("received-files").contains("3 as before · 3 parts in it, 3 of it here"));
}

TEST_F(HandOffs, WhatGoesWrongWhereItIsReceivedIsSeenOnPurpose) {
    open_boxes();
    show_hand_off();
    ASSERT_TRUE(Driver::until([&] { return says("Write 2 files"); }));
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    driver.click(child("hand-off-arrived"));
    ASSERT_TRUE(Driver::until([&] { return child("received-take-in") != nullptr; }));
    driver.click(child("received-take-in"));
    ASSERT_TRUE(Driver::until([&] { return text_of_label("received-state") == "4 parts, as in the files"; }));
    driver.click(child("received-what-if"));
    choose("… as millimetres");
    ASSERT_TRUE(
        Driver::until([&] { return text_of_label("received-doubts").contains("1000 times too small"); }));
    const auto* tree = qobject_cast<QTreeWidget*>(child("received-parts"));
    ASSERT_NE(tree, nullptr);
    EXPECT_EQ(tree->topLevelItem(0)->text(3), "4e-9 m³");
}

// A view of the drawing is taken by the mouse, moved on by the keyboard, put back.
TEST_F(HandOffs, ViewsAreMovedOnTheSheet) {
    open_study_of("nest.plume", R"({"plume": 1, "title": "Nest box", "page": [
        {"step": "lattice.block", "result": "corners", "slots": {
          "columns": 1, "rows": 1, "layers": 1, "width": "2 m", "depth": "1 m", "height": "1 m"}},
        {"step": "body.cells", "result": "boxes", "slots": {"points": "corners"}}],
      "handoff": [
        {"step": "handoff.drawing", "result": "sheet", "slots": {
          "results": {"results": ["boxes"]}, "views": "in plan, section looking north",
          "size": "scale", "scale": 50}},
        {"step": "handoff.exact", "result": "solids", "slots": {"results": {"results": ["boxes"]}}}]})");
    show_hand_off();
    driver.click(child("hand-off-the-sheet"));
    ASSERT_TRUE(Driver::until([&] { return text_of_label("sheet-about").contains("2 views of 1 result"); }))
        << text_of_label("sheet-about").toStdString();
    auto* view = qobject_cast<app::SheetView*>(child("sheet-view"));
    ASSERT_NE(view, nullptr);
    const auto left_of = [&](const char* name) { return view->place_of(name)->left(); };
    const double before = left_of("in plan"), other = left_of("section looking north");
    const QPoint from = view->mapToGlobal(view->place_of("in plan")->center().toPoint());
    driver.drag(from, from - QPoint(40, 30));
    const ItemId sheet = study().step("sheet")->id;
    ASSERT_TRUE(Driver::until([&] { return !is_sheet_in_rows(study(), sheet); }));
    ASSERT_TRUE(Driver::until([&] { return std::abs(left_of("in plan") - (before - 40)) < 2; }))
        << left_of("in plan") - before;
    EXPECT_NEAR(left_of("section looking north"), other, 1);
    const auto places = [&] { return std::get<Lines>(study().step("sheet")->slots.at("places")).text; };
    const std::string dragged = places();
    EXPECT_TRUE(dragged.starts_with("in plan at ")) << dragged;
    // A millimetre further, in the sentence and on the sheet.
    driver.key("Left");
    ASSERT_TRUE(Driver::until([&] { return places() != dragged; }));
    EXPECT_EQ((*sheet_places_from(places()))[0].x, (*sheet_places_from(dragged))[0].x - 1);
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return places() == dragged; }));
    driver.click(child("sheet-in-rows"));
    ASSERT_TRUE(Driver::until([&] { return is_sheet_in_rows(study(), sheet); }));
    ASSERT_TRUE(Driver::until([&] { return std::abs(left_of("in plan") - before) < 1; }));
    // Another sentence in hand gives no drawing.
    document().attention().select(study().step("solids")->id);
    ASSERT_TRUE(Driver::until(
        [&] { return text_of_label("sheet-nothing").contains("Take a sentence that gives a drawing"); }));
    EXPECT_FALSE(view->isVisible());
}

// The view of the model is kept under a name, looked from again, moved and renamed.
TEST_F(HandOffs, CamerasAreKeptUnderNames) {
    build_canopy();
    computed();
    const auto keep = [&](const QString& name) {
        driver.click(child("cameras"));
        choose("Keep this view as a camera …");
        ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
        driver.type(name);
        driver.key("Return");
        ASSERT_TRUE(Driver::until([&] { return study().camera(name.toStdString()) != nullptr; }));
    };
    keep("perches");
    const Camera kept = study().camera("perches")->camera;
    const QPoint middle = view().mapToGlobal(view().rect().center());
    driver.drag(middle, middle + QPoint(120, 40));
    ASSERT_TRUE(
        Driver::until([&] { return std::abs(view().camera().azimuth_rad - kept.azimuth_rad) > 0.1; }));
    driver.click(child("cameras"));
    choose("perches");
    ASSERT_TRUE(Driver::until([&] { return view().camera() == kept; }));
    driver.drag(middle, middle + QPoint(-80, 0));
    driver.click(child("cameras"));
    choose("Put ‘perches’ here");
    ASSERT_TRUE(Driver::until([&] { return !(study().camera("perches")->camera == kept); }));
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return study().camera("perches")->camera == kept; }));
    driver.click(child("cameras"));
    choose("Rename ‘perches’ …");
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.key("ctrl+a");
    driver.type("two perches");
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return study().camera("two perches") != nullptr; }));
    driver.key("ctrl+6");
    choose("Remove ‘two perches’");
    ASSERT_TRUE(Driver::until([&] { return study().cameras.empty(); }));
}

// A picture is seen while it is drawn; it takes the view of the model; clay is another picture.
TEST_F(HandOffs, ThePictureIsSeenAsItIsDrawn) {
    open_study_of("nest.plume", R"({"plume": 1, "title": "Nest box", "page": [
        {"step": "lattice.block", "result": "corners", "slots": {
          "columns": 1, "rows": 1, "layers": 1, "width": "2 m", "depth": "1 m", "height": "1 m"}},
        {"step": "body.cells", "result": "boxes", "slots": {"points": "corners"}}],
      "handoff": [
        {"step": "handoff.picture", "result": "picture", "slots": {
          "results": {"results": ["boxes"]}, "width": 640, "height": 400, "light": "sun"}},
        {"step": "handoff.exact", "result": "solids", "slots": {"results": {"results": ["boxes"]}}}]})");
    show_hand_off();
    const QPoint middle = view().mapToGlobal(view().rect().center());
    driver.drag(middle, middle + QPoint(120, 40));
    driver.click(child("hand-off-the-picture"));
    ASSERT_TRUE(Driver::until([&] { return text_of_label("picture-about").contains("· drawn"); }))
        << text_of_label("picture-about").toStdString();
    EXPECT_TRUE(text_of_label("picture-about").contains("640 × 400 pixels in the file"));
    const QImage before = child("picture-view")->grab().toImage();
    driver.click(child("picture-as-model"));
    ASSERT_TRUE(Driver::until([&] { return study().camera("view 1") != nullptr; }));
    EXPECT_NEAR(study().camera("view 1")->camera.azimuth_rad, view().camera().azimuth_rad, 1e-9);
    ASSERT_TRUE(Driver::until([&] {
        return text_of_label("picture-about").contains("· drawn") &&
               child("picture-view")->grab().toImage() != before;
    }));
}

// A sheet is milled: what the rehearsal says, playing it, another sentence in hand.
TEST_F(HandOffs, TheMillIsPlayed) {
    open_study_of("sheet.plume",
                  R"({"plume": 1, "title": "Sheet", "units": {"length": "mm", "angle": "°"}, "page": [
        {"step": "lattice.rectangular", "result": "corners", "slots": {
          "columns": 2, "rows": 2, "width": "200 mm", "depth": "120 mm"}},
        {"step": "skin", "result": "form", "slots": {"points": "corners"}}],
      "handoff": [
        {"step": "handoff.milling", "result": "mill", "slots": {
          "results": {"results": ["form"]}, "thickness": "20 mm", "cutter": "flat", "diameter": "20 mm",
          "apart": "15 mm"}},
        {"step": "handoff.exact", "result": "solids", "slots": {"results": {"results": ["form"]}}}]})");
    show_hand_off();
    driver.click(child("hand-off-rehearsal"));
    ASSERT_TRUE(Driver::until([&] {
        return text_of_label("rehearsal-summary").contains("within 0 mm of the form");
    })) << text_of_label("rehearsal-summary").toStdString();
    EXPECT_TRUE(text_of_label("rehearsal-details").contains("cut too deep nowhere"));
    // It stands at its end; played, it begins anew, and can be stopped.
    const auto* slider = qobject_cast<QSlider*>(child("rehearsal-slider"));
    ASSERT_NE(slider, nullptr);
    EXPECT_EQ(slider->value(), slider->maximum());
    Driver::settle(500);  // what is said of it pushes the player up
    // Where it stands it is drawn finely, and quickly while it is played.
    const auto* view = window->findChild<app::RehearsalView*>();
    ASSERT_NE(view, nullptr);
    const auto corners = [&] { return view->scene().front().drawable->vertices.size(); };
    ASSERT_TRUE(Driver::until([&] { return corners() > 200'000; })) << corners();
    driver.click(child("rehearsal-play"));
    ASSERT_TRUE(
        Driver::until([&] { return slider->value() > 0 && slider->value() < slider->maximum() / 2; }));
    EXPECT_LT(corners(), 50'000);
    driver.click(child("rehearsal-play"));
    ASSERT_TRUE(Driver::until([&] { return corners() > 200'000; })) << corners();
    const int stopped = slider->value();
    Driver::settle(400);
    EXPECT_EQ(slider->value(), stopped);
    EXPECT_TRUE(text_of_label("rehearsal-time").contains("line"))
        << text_of_label("rehearsal-time").toStdString();
    // By the keyboard.
    driver.click(child("rehearsal-slider"));
    driver.key("End");
    ASSERT_TRUE(Driver::until([&] { return slider->value() == slider->maximum(); }));
    document().attention().select(study().step("solids")->id);
    ASSERT_TRUE(Driver::until(
        [&] { return text_of_label("rehearsal-instead").contains("Take a sentence that mills"); }));
    EXPECT_FALSE(child("rehearsal-slider") && child("rehearsal-slider")->isVisible());
}

// A line is cut flat: what the rehearsal says, another width, and playing it.
TEST_F(HandOffs, SheetsAreCutAndPlayed) {
    open_study_of("ring.plume",
                  R"({"plume": 1, "title": "Ring", "units": {"length": "mm", "angle": "°"}, "page": [
        {"step": "outline.shape", "result": "rim", "slots": {"width": "200 mm", "depth": "120 mm"}}],
      "handoff": [
        {"step": "handoff.cutting", "result": "cut", "slots": {"results": {"results": ["rim"]}}}]})");
    show_hand_off();
    driver.click(child("hand-off-rehearsal"));
    ASSERT_TRUE(Driver::until([&] { return text_of_label("rehearsal-summary").contains("as drawn"); }))
        << text_of_label("rehearsal-summary").toStdString()
        << text_of_label("rehearsal-instead").toStdString();
    EXPECT_TRUE(text_of_label("rehearsal-details").contains("begun 1 time"));
    const auto* slider = qobject_cast<QSlider*>(child("rehearsal-slider"));
    ASSERT_NE(slider, nullptr);
    EXPECT_EQ(slider->value(), slider->maximum());
    driver.click(child("rehearsal-slider"));
    driver.key("Home");
    ASSERT_TRUE(Driver::until([&] { return slider->value() == 0; }));
    EXPECT_TRUE(text_of_label("rehearsal-time").contains("line"))
        << text_of_label("rehearsal-time").toStdString();
}

TEST_F(HandOffs, AStudyWithoutAFileIsToBeSavedFirst) {
    build_canopy();
    driver.key("ctrl+shift+2");
    ASSERT_TRUE(Driver::until([&] { return text_of_label("hand-off-left-over").contains("Save it first"); }));
    EXPECT_FALSE(write_button()->isEnabled());
    // A sentence in hand says so where it is looked at closer.
    driver.click(child("hand-off-rehearsal"));
    ASSERT_TRUE(
        Driver::until([&] { return text_of_label("rehearsal-instead").contains("Take a sentence"); }));
    continue_with("mill a relief");
    ASSERT_TRUE(Driver::until([&] { return text_of_label("rehearsal-instead").contains("Save it first"); }))
        << text_of_label("rehearsal-instead").toStdString();
}

TEST_F(HandOffs, TheFolderIsChosenInThePage) {
    open_boxes();
    show_hand_off();
    driver.click(child("hand-off-folder"));
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.key("ctrl+a");
    driver.type("for others/{study}");
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return study().hand_off_folder == "for others/{study}"; }));
    ASSERT_TRUE(Driver::until([&] { return says("Write 2 files"); }));
    driver.click(write_button());
    ASSERT_TRUE(Driver::until([&] { return says("Nothing to write"); }));
    EXPECT_TRUE(QFile::exists(file("for others/nest-boxes/nest-boxes.ifc")));
}

}  // namespace
}  // namespace plume::test
