// Studies that move: controls and handles keyed where they stand, keys dragged in the strip, moments played,
// scrubbed and kept.

#include <QApplication>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>

#include "app/sheet/control_row.hpp"
#include "app/time/time_lanes.hpp"
#include "app/time/time_strip.hpp"
#include "core/study/moving.hpp"
#include "folders.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Time : public WindowTest {
protected:
    // A row of 3 points, as wide as the control says, and the perches, one of which can be taken hold of.
    void begin_row(std::vector<ControlKey> keys = {}) {
        continue_with("rectangular");
        continue_with("attractors");
        computed();
        const ItemId row = study().step("lattice")->id;
        Edited made = add_control(study(), {"span", 6, 0, 20, 0, "m", "", {}, std::move(keys)});
        made = set_slot(**made, row, "width", NumberText{"span"});
        document().apply(made, "a control");
        computed();
    }
    // A cloth hangs from four posts, for so many seconds; one of its moments is kept.
    void open_awning(const char* seconds) {
        QFile made(file("awning.plume"));
        ASSERT_TRUE(made.open(QIODevice::WriteOnly));
        made.write(QByteArray(R"({"plume": 1, "time": {"seconds": )") + seconds +
                   R"(, "rate": 30}, "page": [
          {"step": "lattice.rectangular", "result": "weave", "show": {"visible": false},
           "slots": {"columns": 10, "rows": 8, "width": "3 m", "depth": "2.4 m"}},
          {"step": "skin", "result": "cloth", "show": {"visible": false}, "slots": {"points": {"result": "weave"}, "surface": "flat"}},
          {"step": "attractors.points", "result": "posts", "slots": {"places": [
            {"name": "one", "x": "-1.5 m", "y": "-1.2 m", "z": "0 m"}, {"name": "two", "x": "1.5 m", "y": "-1.2 m", "z": "0 m"},
            {"name": "three", "x": "1.5 m", "y": "1.2 m", "z": "0 m"}, {"name": "four", "x": "-1.5 m", "y": "1.2 m", "z": "0 m"}]}},
          {"step": "forces.hold", "result": "hung", "show": {"visible": false},
           "slots": {"thing": {"result": "cloth"}, "at": "named", "addresses": "0 10 98 88", "led": "onto", "leads": {"result": "posts"}}},
          {"step": "sheet.drape", "result": "awning", "slots": {"sheet": {"result": "hung"}, "lengths": "of", "rest": {"result": "cloth"}}},
          {"step": "time.keep", "result": "kept", "show": {"visible": false}, "slots": {"thing": {"result": "awning"}, "seconds": 1.5}}]})");
        made.close();
        reopen(file("awning.plume"));
        computed();
    }
    // Where a post of it is now.
    Vec3 post(std::size_t at) {
        const Step& step = *study().step("posts");
        return place_handles(study(), *document().kind_of(step), step, {}, document().playing().seconds())[at]
            .position;
    }
    TimeLanes& lanes() { return *dynamic_cast<TimeLanes*>(child("time-lanes")); }
    QPoint on_lane(int lane, double seconds) {
        return lanes().mapToGlobal(lanes().position_of(lane, seconds));
    }
    void go_to(double seconds) {
        Driver::settle(400);  // lanes may be coming
        driver.click(lanes().mapToGlobal(QPoint(lanes().position_of(0, seconds).x(), 6)));
        ASSERT_NEAR(document().playing().seconds(), seconds, 0.05);
        computed();
    }
    QWidget* slider() { return child("control-slider"); }
    void slide_to(double share) {
        const double room = slider()->width() - 16;
        driver.click(
            slider()->mapToGlobal(QPoint(8 + static_cast<int>(room * share), slider()->height() / 2)));
        Driver::settle();
        computed();
    }
    const std::vector<ControlKey>& keys() { return study().control("span")->keys; }
    double width_of(const char* name) {
        const Box box = lattice_of(*document().results().shown(name)->value)->bounds();
        return box.high.x - box.low.x;
    }
};

TEST_F(Time, AControlIsKeyedWhereItStandsPlayedAndAMomentKept) {
    begin_row();
    EXPECT_EQ(child("time-strip"), nullptr) << "nothing moves";
    driver.key("ctrl+t");
    ASSERT_TRUE(Driver::until([&] { return child("time-strip") != nullptr; }));
    EXPECT_FALSE(dynamic_cast<QToolButton*>(child("time-key"))->isEnabled());
    driver.click(slider());
    driver.key("k");
    ASSERT_TRUE(Driver::until([&] { return keys().size() == 1; }));
    computed();
    EXPECT_NEAR(keys()[0].value, 10, 0.2) << "the middle of its range";
    ASSERT_TRUE(Driver::until([&] { return lanes().lane_count() == 2; }))
        << "what follows time, and its keys";
    go_to(4);
    slide_to(1);
    ASSERT_EQ(keys().size(), 2U) << "a control with keys is keyed where it is changed";
    EXPECT_NEAR(keys()[1].seconds, 4, 0.05);
    EXPECT_NEAR(width_of("lattice"), 20, 0.3);
    go_to(2);
    EXPECT_NEAR(width_of("lattice"), (keys()[0].value + keys()[1].value) / 2, 0.2);
    // Played from there on: each frame is seen and kept.
    const std::size_t from = document().playing().frame();
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() > from + 5; }));
    driver.click(child("time-play"));
    ASSERT_FALSE(document().playing().plays());
    computed();
    const auto kept = document().results().kept_frames(study().step("lattice")->id);
    for (std::size_t frame = from; frame <= from + 5; ++frame)
        EXPECT_NE(std::ranges::find(kept, frame), kept.end()) << frame;
    // The moment kept for what follows.
    go_to(4);
    driver.click(window->sheet().step_block(study().step("lattice")->id));
    ASSERT_TRUE(Driver::until([&] { return child("time-keep") != nullptr; }));
    driver.click(child("time-keep"));
    ASSERT_TRUE(Driver::until([&] { return study().step("kept") != nullptr; }));
    computed();
    EXPECT_EQ(slot_text_of("kept", "seconds"),
              QString::number(document().playing().seconds(), 'g', 9).toStdString());
    const double wide = width_of("kept");
    go_to(0);
    EXPECT_LT(width_of("lattice"), wide - 5);
    EXPECT_DOUBLE_EQ(width_of("kept"), wide);
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Time, KeysAreDraggedCopiedAndRemovedInTheStrip) {
    begin_row();
    driver.key("ctrl+t");
    driver.click(slider());
    driver.key("k");
    ASSERT_TRUE(Driver::until([&] { return child("time-lanes") && lanes().lane_count() == 2; }));
    go_to(3);
    slide_to(0.9);
    ASSERT_EQ(keys().size(), 2U);
    const double second = keys()[1].value;
    driver.drag(on_lane(1, keys()[1].seconds), on_lane(1, 5));
    Driver::settle();
    ASSERT_EQ(keys().size(), 2U);
    EXPECT_NEAR(keys()[1].seconds, 5, 0.05);
    EXPECT_EQ(keys()[1].value, second);
    driver.key("ctrl+z");
    Driver::settle();
    EXPECT_NEAR(keys()[1].seconds, 3, 0.05) << "one step of undoing";
    driver.with_ctrl([&] { driver.drag(on_lane(1, keys()[1].seconds), on_lane(1, 4.5)); });
    Driver::settle();
    ASSERT_EQ(keys().size(), 3U);
    EXPECT_EQ(keys()[2].value, second);
    // Another way to go on, by the menu.
    driver.click(on_lane(1, keys()[0].seconds), 3);
    choose("evenly");
    ASSERT_TRUE(Driver::until([&] { return keys()[0].easing == Easing::straight; }));
    driver.click(on_lane(1, keys()[1].seconds));
    driver.key("Delete");
    ASSERT_TRUE(Driver::until([&] { return keys().size() == 2; }));
    EXPECT_NEAR(keys()[1].seconds, 4.5, 0.05);
    // From frame to frame and from key to key.
    driver.key("Home");
    driver.key("Right");
    EXPECT_TRUE(Driver::until([&] { return document().playing().frame() == 1; }));
    driver.key("ctrl+Right");
    EXPECT_TRUE(
        Driver::until([&] { return std::abs(document().playing().seconds() - keys()[1].seconds) < 1e-9; }));
    driver.key("space");
    EXPECT_TRUE(Driver::until([&] { return document().playing().plays(); }));
    driver.key("space");
    EXPECT_TRUE(Driver::until([&] { return !document().playing().plays(); }));
}

// What was recorded stands a key a frame: it is taken hold of as one, a stretch of it is chosen by dragging
// with Shift, and it can be made fewer.
TEST_F(Time, AStretchOfKeysIsChosenMovedTakenAwayAndMadeFewer) {
    constexpr int first = 30, last = 120;
    std::vector<ControlKey> recorded;
    for (int frame = first; frame <= last; ++frame)
        recorded.push_back({frame / 30.0, 5 + std::abs(frame - 75) / 10.0, Easing::straight});
    begin_row(recorded);
    ASSERT_TRUE(Driver::until([&] { return child("time-lanes") && lanes().lane_count() == 2; }));
    Driver::settle(400);
    const auto seconds = [&](std::size_t at) { return keys()[at].seconds; };
    driver.drag(on_lane(1, 2), on_lane(1, 3));
    computed();
    ASSERT_EQ(keys().size(), recorded.size());
    EXPECT_NEAR(seconds(0), 2, 0.05) << "all of them went along";
    EXPECT_NEAR(keys().back().seconds - seconds(0), 3, 1e-9);
    EXPECT_EQ(keys()[0].value, recorded[0].value);
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return keys() == recorded; })) << "one step back";
    // A stretch of it.
    driver.with_shift([&] { driver.drag(on_lane(1, 2), on_lane(1, 3)); });
    EXPECT_EQ(document().playing().frame(), 0U) << "no moment is gone to";
    driver.key("Delete");
    ASSERT_TRUE(Driver::until([&] { return keys().size() < recorded.size(); }));
    computed();
    EXPECT_NEAR(static_cast<double>(recorded.size() - keys().size()), 31, 1);
    for (const ControlKey& key : keys())
        EXPECT_TRUE(key.seconds < 2.04 || key.seconds > 2.96) << key.seconds;
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return keys() == recorded; }));
    // Down and up again evenly: three keys are the same.
    driver.click(on_lane(1, 2), 3);
    choose("Thin out to 3 keys");
    ASSERT_TRUE(Driver::until([&] { return keys().size() == 3; }));
    computed();
    EXPECT_EQ(keys()[1], recorded[75 - first]);
    for (const ControlKey& key : recorded)
        EXPECT_NEAR(value_at(*study().control("span"), key.seconds), key.value, 1e-9);
    driver.key("ctrl+a");
    driver.drag(on_lane(1, keys()[1].seconds), on_lane(1, keys()[1].seconds + 1));
    ASSERT_TRUE(Driver::until([&] { return std::abs(keys()[1].seconds - 3.5) < 0.05; }));
    EXPECT_NEAR(keys()[0].seconds, 2, 0.05) << "all that are chosen";
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Time, AHandleIsKeyedAndDraggedAtAnotherMoment) {
    begin_row();
    driver.key("ctrl+t");
    ASSERT_TRUE(Driver::until([&] { return child("time-strip") != nullptr; }));
    Driver::settle(200);
    const auto place = [&] {
        return std::get<plume::Places>(study().step("attractors")->slots.at("places"))[0];
    };
    const auto handle = [&] {
        const Step& step = *study().step("attractors");
        return place_handles(study(), *document().kind_of(step), step, {}, document().playing().seconds())[0];
    };
    const Vec3 before = handle().position;
    driver.click(on_screen(before));
    driver.key("k");
    ASSERT_TRUE(Driver::until([&] { return !place().keys.empty(); }));
    computed();
    ASSERT_TRUE(Driver::until([&] { return child("time-lanes") && lanes().lane_count() == 2; }));
    go_to(6);
    const QPoint at = on_screen(handle().position);
    driver.drag(at, at + QPoint(60, 20));
    computed();
    ASSERT_EQ(place().keys.size(), 2U);
    EXPECT_GT(length(handle().position - before), 0.5);
    go_to(0);
    EXPECT_EQ(handle().position, before);
    EXPECT_NE(slot_text_of("attractors", "places").find(" moves"), std::string::npos);
    // Its numbers are those of the moment; what is typed there is its key.
    go_to(6);
    driver.click(part("attractors", "places"));
    ASSERT_TRUE(Driver::until([&] { return child("place-0-3") != nullptr; }));
    auto* z = dynamic_cast<QLineEdit*>(child("place-0-3"));
    driver.click(z);
    driver.key("ctrl+a");
    driver.type("7 m");
    driver.key("Return");
    computed();
    ASSERT_EQ(place().keys.size(), 2U);
    EXPECT_EQ(place().keys[1].z, "7 m");
    EXPECT_DOUBLE_EQ(handle().position.z, 7);
}

TEST_F(Time, TheTimeOfTheStudyIsSetAndTyped) {
    begin_row();
    driver.key("ctrl+t");
    ASSERT_TRUE(Driver::until([&] { return child("time-length") != nullptr; }));
    driver.click(child("time-length"));
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.key("ctrl+a");
    driver.type("2.5");
    driver.key("Tab");
    driver.type("0");
    driver.key("Return");
    Driver::settle();
    EXPECT_EQ(study().time, Timeline()) << "no frames a second are refused";
    driver.key("ctrl+a");
    driver.type("10");
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return study().time == Timeline{2.5, 10}; }));
    driver.click(child("time-moment"));
    ASSERT_TRUE(Driver::until([&] { return child("popup") != nullptr; }));
    driver.key("ctrl+a");
    driver.type("1.5");
    driver.key("Return");
    EXPECT_TRUE(Driver::until([&] { return document().playing().frame() == 15; }));
    driver.key("ctrl+z");
    EXPECT_TRUE(Driver::until([&] { return study().time == Timeline(); }));
}

TEST_F(Time, AFilmIsWrittenFromTheMenu) {
    begin_row();
    type_into("lattice", "depth", "1 m + time * 1 m");
    computed();
    const QString path = file("row.png");
    QString remark, hindrance;
    in_dialog([&] {
        auto* line = qobject_cast<QLineEdit*>(child("film-file"));
        if (!line) return;
        Driver hand;
        child("film-into")->setFocus();
        hand.key("Home");
        hand.key("Down");
        const auto fill = [&](const char* field, const char* text) {
            hand.click(child(field));
            hand.key("ctrl+a");
            hand.type(text);
        };
        fill("film-from", "2");
        fill("film-to", "1");
        Driver::settle();
        hindrance = qobject_cast<QLabel*>(child("film-note"))->text();
        fill("film-to", "2.1");
        fill("film-width", "40");
        fill("film-height", "24");
        remark = qobject_cast<QLabel*>(child("film-note"))->text();
        line->setText(path);
        hand.click(child("film-write"));
    });
    driver.key("alt+s");
    driver.key("f");
    ASSERT_TRUE(Driver::until([&] { return QFile::exists(path); })) << remark.toStdString();
    EXPECT_EQ(remark, "4 frames");
    EXPECT_NE(hindrance.indexOf("ends before it begins"), -1) << hindrance.toStdString();
    QFile written(path);
    ASSERT_TRUE(written.open(QIODevice::ReadOnly));
    EXPECT_EQ(written.readAll().count("fcTL"), 4);
}

// A day at 24 frames a second.
TEST_F(Time, AFilmOfVeryManyFramesIsAskedAbout) {
    QFile made(file("day.plume"));
    ASSERT_TRUE(made.open(QIODevice::WriteOnly));
    made.write(R"({"plume": 1, "time": {"seconds": 86400, "rate": 24}, "page": [
        {"step": "lattice.rectangular", "result": "row", "slots": {"columns": "= floor(time) + 1"}}]})");
    made.close();
    reopen(file("day.plume"));
    computed();
    EXPECT_TRUE(window->windowTitle().startsWith("day"))
        << "a study without a title has the name of its file";
    QString asked, meant;
    bool writable_at_first = true, writable = false, asked_of_few = true;
    in_dialog([&] {
        Driver hand;
        const auto note = [&] { return qobject_cast<QLabel*>(child("film-note"))->text(); };
        if (!child("film-many")) return;
        child("film-into")->setFocus();
        hand.key("Home");
        hand.key("Down");
        Driver::settle();
        asked = note();
        writable_at_first = child("film-write")->isEnabled();
        hand.click(child("film-many")->mapToGlobal(QPoint(8, child("film-many")->height() / 2)));
        Driver::settle();
        meant = note();
        writable = child("film-write")->isEnabled();
        hand.click(child("film-to"));
        hand.key("ctrl+a");
        hand.type("2");
        Driver::settle();
        asked_of_few = child("film-many") != nullptr;
        hand.key("Escape");
    });
    driver.key("alt+s");
    driver.key("f");
    ASSERT_TRUE(Driver::until([&] { return !asked.isEmpty() && !QApplication::activeModalWidget(); }));
    EXPECT_TRUE(asked.contains("073")) << asked.toStdString();
    EXPECT_TRUE(asked.contains("if so many are meant")) << asked.toStdString();
    EXPECT_FALSE(writable_at_first);
    EXPECT_TRUE(meant.endsWith(" frames")) << meant.toStdString();
    EXPECT_TRUE(writable);
    EXPECT_FALSE(asked_of_few);
}

// The strip comes and goes with the study, and takes room from the model; the form is framed all the same.
TEST_F(Time, AnotherStudyIsFramedWhereTheStripComesAndGoes) {
    EXPECT_EQ(child("time-strip"), nullptr) << "nothing moves in an empty study";
    const QString demo(demo_folder);
    for (const char* name : {"/crest.plume", "/ferry-awning.plume", "/net-roof.plume"}) {
        ASSERT_TRUE(window->open_file(demo + name));
        computed();
        Driver::settle(300);
        EXPECT_EQ(child("time-strip") != nullptr, moves(study(), document().catalogue())) << name;
        Box all;
        for (const Item& item : study().items)
            if (const Step* step = step_of(item); step && step->show.visible)
                if (const Shown* shown = document().results().shown(step->id); shown && shown->drawable)
                    all.include(shown->bounds);
        EXPECT_TRUE(view().camera().sees(all, static_cast<double>(view().width()) / view().height())) << name;
        EXPECT_GT(all.diagonal(), 0.3 * view().camera().view_height()) << name << " fills the view";
    }
}

// An expression that reads time is enough for the strip, and an edit while it plays is taken over.
TEST_F(Time, WhatReadsTimeIsPlayedWhileItIsEdited) {
    begin_row();
    type_into("lattice", "depth", "1 m + time * 1 m");
    ASSERT_TRUE(Driver::until([&] { return child("time-strip") != nullptr; }));
    computed();
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() > 3; }));
    slide_to(0.2);
    ASSERT_TRUE(Driver::until([&] { return width_of("lattice") < 6; }));
    EXPECT_TRUE(document().playing().plays()) << "a control without keys may be changed meanwhile";
    const std::size_t now = document().playing().frame();
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() > now; }));
    driver.click(child("time-play"));
    computed();
    const Box box = lattice_of(*document().results().shown("lattice")->value)->bounds();
    EXPECT_NEAR(box.high.y - box.low.y, 1 + document().playing().seconds(), 1e-9);
    driver.key("ctrl+t");
    EXPECT_TRUE(Driver::until([&] { return child("time-strip") == nullptr; })) << "put away though it moves";
    ASSERT_GT(document().playing().frame(), 0U);
    driver.key("ctrl+shift+2");
    EXPECT_TRUE(Driver::until([&] { return document().playing().frame() == 0; }))
        << "what leaves is of the first";
}

// A number of a sentence that is a control with keys is scrubbed at the moment that is looked at.
TEST_F(Time, AKeyedControlIsScrubbedInASentenceWhereItIsSeen) {
    begin_row();
    driver.key("ctrl+t");
    ASSERT_TRUE(Driver::until([&] { return child("time-strip") != nullptr; }));
    driver.click(slider());
    driver.key("k");
    ASSERT_TRUE(Driver::until([&] { return keys().size() == 1; }));
    computed();
    ASSERT_TRUE(Driver::until([&] { return lanes().lane_count() == 2; }));
    const double first = keys()[0].value;
    go_to(4);
    QWidget* width = part("lattice", "width");
    const QPoint at = width->mapToGlobal(width->rect().center());
    driver.drag(at, at + QPoint(20, 0));
    computed();
    ASSERT_EQ(keys().size(), 2U);
    EXPECT_EQ(keys()[0].value, first);
    EXPECT_NEAR(keys()[1].seconds, 4, 0.05);
    EXPECT_NE(keys()[1].value, first);
}

// A cloth that hangs from four posts is dragged by one of them while it falls.
TEST_F(Time, AHandleIsDraggedWhileASheetHangsFromIt) {
    open_awning("60");
    const auto corner = [&] {
        return std::get<Mesh>(*document().results().shown("awning")->value).vertex(0);
    };
    const auto says = [&](const char* words) {
        const auto& remarks = document().results().shown("awning")->remarks;
        return std::ranges::any_of(
            remarks, [&](const Remark& remark) { return remark.text.find(words) != std::string::npos; });
    };
    const auto frame = [&] { return document().playing().frame(); };
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return frame() > 15; }));
    const std::size_t before = frame();
    const Vec3 was = post(0);
    const QPoint from = on_screen(was);
    driver.drag(from, from + QPoint(25, 15));
    ASSERT_GT(length(post(0) - was), 0.05);
    ASSERT_TRUE(document().playing().plays());
    ASSERT_TRUE(Driver::until([&] { return frame() > before + 10 && length(corner() - post(0)) < 1e-6; }))
        << "it follows, and goes on falling";
    EXPECT_TRUE(says("it goes on from how it was before a change"));
    driver.click(child("time-play"));
    computed();
    // While time stands it is seen to follow, too.
    const std::size_t stood = frame();
    const QPoint at = on_screen(post(0));
    driver.drag(at, at + QPoint(-20, 0));
    computed();
    EXPECT_EQ(frame(), stood);
    EXPECT_GT(length(corner() - was), 0.01);
    // Keyed here, taken back to the first moment, it is what the study says.
    driver.key("k");
    computed();
    EXPECT_EQ(std::get<plume::Places>(study().step("posts")->slots.at("places"))[0].keys.size(), 1U);
    driver.click(lanes().mapToGlobal(QPoint(lanes().position_of(0, 0).x(), 6)));
    ASSERT_TRUE(Driver::until([&] { return frame() == 0; }));
    computed();
    EXPECT_FALSE(says("it goes on from how it was before a change"));
    EXPECT_EQ(document().results().problem_count(), 0U);
}

// While it plays, and while a moment near its end is made behind what is seen.
TEST_F(Time, AStudyIsClosedWhileItRuns) {
    open_awning("60");
    driver.click(part("kept", "seconds"));
    ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }));
    driver.type("59");
    driver.key("Return");
    driver.key("ctrl+s");
    ASSERT_TRUE(Driver::until([&] { return document().saved(); }));
    const auto is_made = [&] {
        return document().results().behind() || document().results().progress().busy;
    };
    // By another study.
    ASSERT_TRUE(is_made()) << "59 s of it take longer than to save";
    driver.key("ctrl+n");
    ASSERT_TRUE(Driver::until([&] { return study().items.empty(); }));
    computed();
    EXPECT_EQ(child("time-strip"), nullptr);
    EXPECT_EQ(document().results().problem_count(), 0U);
    // And with the window, while it plays.
    ASSERT_TRUE(window->open_file(file("awning.plume")));
    ASSERT_TRUE(Driver::until([&] { return child("time-play") != nullptr; }));
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return document().playing().frame() > 5; }));
    driver.key("ctrl+q");
    ASSERT_TRUE(Driver::until([&] { return !window->isVisible(); }));
    reopen(file("awning.plume"));
    EXPECT_EQ(document().playing().frame(), 0U);
    EXPECT_EQ(std::get<NumberText>(study().step("kept")->slots.at("seconds")).text, "59")
        << "nothing is lost";
}

// What is dragged while it plays and is recorded moves there again, and was where it was before.
TEST_F(Time, WhatIsMovedWhileItPlaysIsRecorded) {
    open_awning("1.5");
    const auto keys = [&] {
        return std::get<plume::Places>(study().step("posts")->slots.at("places"))[0].keys;
    };
    const auto frame = [&] { return document().playing().frame(); };
    const Vec3 was = post(0);
    const QPoint from = on_screen(was);
    driver.click(child("time-record"));
    ASSERT_TRUE(document().playing().records());
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return frame() > 8; }));
    const std::size_t begun = frame();
    // Nothing of what is seen on the way is other than what will be had again.
    std::size_t problems = 0;
    bool hangs_on_changes = false;
    const auto watched =
        QObject::connect(&document().results(), &app::Results::pictures_changed, &document(), [&] {
            const app::Shown& awning = *document().results().shown("awning");
            problems += document().results().problem_count() + (awning.error ? 1 : 0);
            hangs_on_changes = hangs_on_changes || awning.hangs_on_changes;
        });
    driver.drag(from, from + QPoint(30, 10));
    ASSERT_TRUE(Driver::until([&] { return !document().playing().plays(); })) << "it stops at its end";
    computed();
    QObject::disconnect(watched);
    EXPECT_EQ(problems, 0U);
    EXPECT_FALSE(hangs_on_changes);
    const Vec3 led = post(0);
    EXPECT_GT(length(led - was), 0.05);
    ASSERT_GE(keys().size(), 2U);
    EXPECT_GE(keys().front().seconds, static_cast<double>(begun - 1) / 30 - 1e-9);
    const std::size_t many = keys().size();
    EXPECT_GT(many, 4U) << "time goes on while it is dragged";
    for (const PlaceKey& key : keys())
        EXPECT_EQ(key.easing, Easing::straight) << "from frame to frame evenly";
    const Mesh seen = std::get<Mesh>(*document().results().shown("awning")->value);
    EvaluationPlan plan = document().results().plan();
    plan.store = nullptr;
    const Evaluation again = evaluate(document().snapshot(), plan, plume::Run());
    const Mesh from_beginning = std::get<Mesh>(*again.outcome("awning")->value);
    for (std::size_t vertex = 0; vertex < seen.vertex_count(); ++vertex)
        ASSERT_EQ(seen.vertex(vertex), from_beginning.vertex(vertex)) << vertex;
    // What is made of its last moment was left for afterwards.
    const Mesh kept = std::get<Mesh>(*document().results().shown("kept")->value);
    for (std::size_t vertex = 0; vertex < seen.vertex_count(); ++vertex)
        ASSERT_EQ(seen.vertex(vertex), kept.vertex(vertex)) << vertex;
    // Once more from the beginning, not touched: the same.
    driver.click(lanes().mapToGlobal(QPoint(lanes().position_of(0, 0).x(), 6)));
    ASSERT_TRUE(Driver::until([&] { return frame() == 0; }));
    computed();
    EXPECT_EQ(post(0), was) << "what was before is as it was";
    driver.click(child("time-play"));
    ASSERT_TRUE(Driver::until([&] { return frame() == study().time.last_frame(); }));
    computed();
    EXPECT_EQ(post(0), led);
    EXPECT_NEAR(length(std::get<Mesh>(*document().results().shown("awning")->value).vertex(0) - led), 0,
                1e-6);
    EXPECT_EQ(keys().size(), many);
    // A stroke is one step back.
    driver.key("ctrl+z");
    computed();
    EXPECT_TRUE(keys().empty());
    EXPECT_EQ(document().results().problem_count(), 0U);
}

}  // namespace
}  // namespace plume::test
