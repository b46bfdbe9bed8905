// The job the application is for, from an empty study with mouse and keyboard only.

#include <QLabel>
#include <QToolButton>

#include "core/exchange/study_file.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Canopy : public WindowTest {};

TEST_F(Canopy, IsBuiltFromAnEmptyStudyByTyping) {
    EXPECT_TRUE(study().items.empty());
    build_canopy();
    ASSERT_EQ(study().items.size(), 6U);
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_EQ(slot_text_of("surface", "points"), "pushed") << "each step reads the one before";
    EXPECT_EQ(slot_text_of("pushed", "amount"), "ranged");
    EXPECT_NEAR(top_of("surface"), 3.2, 0.1);
    type_into("ranged", "high_length", "2.5 m");
    EXPECT_NEAR(top_of("surface"), 2.5, 0.1);
    type_into("lattice", "columns", "12 * 2 - 4");
    EXPECT_EQ(document().results().shown("lattice")->value
                  ? lattice_of(*document().results().shown("lattice")->value)->counts()[0]
                  : 0,
              21U);
}

TEST_F(Canopy, FollowsADraggedPerch) {
    build_canopy();
    // A response that falls away from the attractor makes a hill at it.
    driver.click(part("reach", "response"));
    ASSERT_TRUE(Driver::until([&] { return child("response-bell") != nullptr; }));
    driver.click(child("response-bell"));
    driver.key("Escape");
    computed();
    const auto hill_near = [&](Vec3 place) {
        const auto lattice = std::get<PointLattice>(*document().results().shown("pushed")->value);
        double highest = 0;
        for (std::size_t index = 0; index < lattice.address_count(); ++index) {
            const Vec3 p = lattice.point(index);
            if (std::hypot(p.x - place.x, p.y - place.y) < 2) highest = std::max(highest, p.z);
        }
        return highest;
    };
    const Vec3 from{-6, -3, 0}, to{-12, 6, 0};
    EXPECT_LT(hill_near(to), 1);
    const Box before = document().results().shown("surface")->drawable->bounds;
    driver.move_to(on_screen(from));
    driver.press();
    const QPoint goal = on_screen(to);
    for (int step = 1; step <= 10; ++step)
        driver.move_to(on_screen(from) + (goal - on_screen(from)) * step / 10);
    EXPECT_TRUE(Driver::until([&] { return hill_near(to) > 2; }))
        << "the form follows while the button is still down";
    driver.release();
    computed();
    EXPECT_GT(hill_near(to), 2.5);
    EXPECT_LT(hill_near(from), 1.5);
    const Box after = document().results().shown("surface")->drawable->bounds;
    EXPECT_FALSE(before.low == after.low && before.high == after.high);
    EXPECT_EQ(document().undo_label(), "drag");
    driver.key("ctrl+z");
    computed();
    EXPECT_LT(hill_near(to), 1) << "one undo takes the whole drag back";
}

TEST_F(Canopy, UndoesToEmptyAndRedoes) {
    build_canopy();
    type_into("lattice", "rows", "7");
    const StudyPointer whole = document().snapshot();
    for (int n = 0; n < 7; ++n)
        driver.key("ctrl+z");
    EXPECT_TRUE(study().items.empty());
    EXPECT_FALSE(document().can_undo());
    for (int n = 0; n < 7; ++n)
        driver.key("ctrl+shift+z");
    EXPECT_TRUE(same(study(), *whole));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Canopy, AStepJustAddedIsTakenBackAtOnce) {
    continue_with("rectangular");
    EXPECT_EQ(study().items.size(), 1U);
    driver.key("ctrl+z");
    EXPECT_TRUE(study().items.empty());
}

TEST_F(Canopy, ScrubsANumberInItsSentence) {
    build_canopy();
    const QWidget* number = part("ranged", "high_length");
    const QPoint middle = number->mapToGlobal(number->rect().center());
    driver.drag(middle, middle + QPoint(100, 0), 10);
    computed();
    EXPECT_EQ(slot_text_of("ranged", "high_length"), "4.2 m") << "a hundred pixels at 0.01 m";
    EXPECT_NEAR(top_of("surface"), 4.2, 0.15);
    EXPECT_TRUE(document().can_undo());
    driver.key("ctrl+z");
    EXPECT_EQ(slot_text_of("ranged", "high_length"), "3.2 m") << "a drag is one edit";
}

TEST_F(Canopy, AnErrorStandsOnItsStepAndTheLastGoodFormStays) {
    build_canopy();
    type_into("lattice", "columns", "2.5");
    const Step* step = study().step("lattice");
    const auto* error = window->sheet().step_block(step->id)->findChild<QLabel*>("step-error");
    ASSERT_TRUE(error && error->isVisible());
    EXPECT_TRUE(error->text().contains("has to be a whole number, and is 2.5"))
        << error->text().toStdString();
    EXPECT_TRUE(document().results().shown("surface")->stale);
    EXPECT_TRUE(document().results().shown("surface")->drawable) << "still drawn";
    EXPECT_FALSE(document().results().shown("attractors")->stale) << "what does not depend on it is computed";
    type_into("lattice", "columns", "20");
    EXPECT_FALSE(document().results().shown("surface")->stale);
    EXPECT_FALSE(error->isVisible());
}

TEST_F(Canopy, TheMendOfAnErrorLeadsToItsPlace) {
    build_canopy();
    type_into("lattice", "columns", "2.5");
    const auto follow_mend = [&](const char* result) {
        auto* error = window->sheet().step_block(study().step(result)->id)->findChild<QLabel*>("step-error");
        scroll_to(error);
        error->setFocus(Qt::TabFocusReason);
        driver.key("Tab");  // to the link inside the sentence
        driver.key("Return");
    };
    follow_mend("reach");
    EXPECT_EQ(document().attention().selected(), study().step("lattice")->id)
        << "a waiting step leads to the one it waits for";
    follow_mend("lattice");
    ASSERT_TRUE(Driver::until([&] { return child("inline-editor") != nullptr; }))
        << "a wrong number opens for typing";
    driver.type("18");
    driver.key("Return");
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Canopy, LongWorkShowsProgressAndIsCancelled) {
    build_canopy();
    // Large enough to last, small enough for its memory.
    driver.click(part("surface", "surface"));
    choose("flat facets");
    computed();
    driver.click(part("lattice", "columns"));
    driver.type("4000");
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return !document().results().behind(); }));
    driver.click(part("lattice", "rows"));
    driver.type("5000");
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return child("cancel") != nullptr; })) << "no way to cancel is shown";
    EXPECT_NE(child("progress"), nullptr);
    driver.click(child("cancel"));
    ASSERT_TRUE(Driver::until([&] { return !document().results().progress().busy; }));
    Driver::settle(100);
    EXPECT_TRUE(document().results().behind());
    EXPECT_TRUE(document().results().shown("surface")->drawable) << "the last good form stays";
}

TEST_F(Canopy, AnEnormousLatticeAsksFirst) {
    continue_with("rectangular");
    type_into("lattice", "columns", "20000");
    type_into("lattice", "rows", "5000");
    const Shown* shown = document().results().shown("lattice");
    ASSERT_NE(shown, nullptr);
    EXPECT_EQ(shown->state, StepState::asks) << (shown->error ? sentence(*shown->error) : "");
    const auto* error =
        window->sheet().step_block(study().step("lattice")->id)->findChild<QLabel*>("step-error");
    EXPECT_TRUE(error->text().contains("2.4 GB")) << error->text().toStdString();
    EXPECT_TRUE(error->text().contains("Compute it all the same"));
}

TEST_F(Canopy, OnDemandWaitsForF5) {
    build_canopy();
    driver.click(child("live"));
    EXPECT_FALSE(document().results().live());
    driver.click(part("ranged", "high_length"));
    driver.type("1 m");
    driver.key("Return");
    Driver::settle(200);
    EXPECT_TRUE(document().results().behind());
    EXPECT_NEAR(top_of("surface"), 3.2, 0.1);
    driver.key("F5");
    computed();
    EXPECT_NEAR(top_of("surface"), 1, 0.1);
}

}  // namespace
}  // namespace plume::test
