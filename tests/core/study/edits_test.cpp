#include "core/study/edits/edits.hpp"

#include <cmath>

#include "core/formula/expression.hpp"
#include "core/study/edits/excerpt.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::canopy;
using test::StudyMaker;

ItemId id_of(const StudyMaker& maker, const char* name) {
    return maker.study->step(name)->id;
}

TEST(Edits, NewStepsReadTheNearestResultThatFits) {
    const StudyMaker maker = canopy();
    const Step& pushed = *maker.study->step("pushed");
    EXPECT_EQ(std::get<ResultName>(pushed.slots.at("points")).name, "lattice");
    EXPECT_EQ(std::get<ResultName>(pushed.slots.at("amount")).name, "rise");
    EXPECT_EQ(std::get<ResultName>(maker.study->step("roof")->slots.at("points")).name, "pushed");
    const StepKind& skin = *standard_catalogue().find("skin");
    const Added preferring =
        *add_step(*maker.study, standard_catalogue(), skin, maker.study->items.size(), "lattice");
    EXPECT_EQ(std::get<ResultName>(preferring.study->step(preferring.id)->slots.at("points")).name,
              "lattice");
    const Added first = *add_step(*maker.study, standard_catalogue(), skin, 0);
    EXPECT_EQ(std::get<ResultName>(first.study->step(first.id)->slots.at("points")).name, "")
        << "nothing stands above";
}

TEST(Edits, WhatIsMovedKeepsItsKindWhenResultsAreChosen) {
    Study study;
    const auto add = [&](const char* key) {
        const StepKind& kind = *standard_catalogue().find(key);
        const auto added = add_step(study, standard_catalogue(), kind, study.items.size(), "");
        study = *added->study;
        return *study.step(added->id);
    };
    add("curve.drawn");
    const Step wall = add("surface.extrude"), outline = add("outline.shape");
    const Step moved = add("thing.move");
    ASSERT_EQ(std::get<ResultName>(moved.slots.at("thing")).name, outline.name);
    // Moved curves are curves: the surface is the wall, and what was moved cuts it.
    const Step trimmed = add("surface.trim");
    EXPECT_EQ(std::get<ResultName>(trimmed.slots.at("surface")).name, wall.name);
    EXPECT_EQ(std::get<ResultName>(trimmed.slots.at("curve")).name, moved.name);
    EXPECT_FALSE(study.step(wall.name)->show.visible);
    EXPECT_TRUE(study.step(moved.name)->show.visible);
}

TEST(Edits, ANewStepHidesWhatItIsMadeFrom) {
    const StudyMaker maker = canopy();
    for (const char* hidden : {"lattice", "reach", "rise", "pushed"})
        EXPECT_FALSE(maker.study->step(hidden)->show.visible) << hidden;
    for (const char* seen : {"perches", "roof"})
        EXPECT_TRUE(maker.study->step(seen)->show.visible) << seen;
}

TEST(Edits, WhatAResultIsSetBesideStaysSeen) {
    for (const char* beside : {"curve.comb", "curve.offset", "outline.offset"}) {
        Study study;
        ItemId drawn = 0;
        for (const char* kind : {"curve.drawn", beside}) {
            const auto added =
                add_step(study, standard_catalogue(), *standard_catalogue().find(kind), study.items.size());
            ASSERT_TRUE(added);
            study = *added->study;
            if (drawn == 0) drawn = added->id;
        }
        EXPECT_TRUE(study.step(drawn)->show.visible) << beside;
    }
}

TEST(Edits, TheOldStudyIsNeverTouched) {
    const StudyMaker maker = canopy();
    const Study before = *maker.study;
    (void)set_slot(*maker.study, id_of(maker, "lattice"), "columns", NumberText{"5"});
    (void)rename_step(*maker.study, id_of(maker, "lattice"), "ground");
    (void)remove_items(*maker.study, {id_of(maker, "roof")}, true);
    EXPECT_TRUE(same(before, *maker.study));
}

TEST(Edits, UnchangedItemsAreShared) {
    const StudyMaker maker = canopy();
    const StudyPointer changed = *set_slot(*maker.study, id_of(maker, "roof"), "surface", WordKey{"flat"});
    for (std::size_t at = 0; at < 5; ++at)
        EXPECT_EQ(std::get<StepPointer>(changed->items[at]), std::get<StepPointer>(maker.study->items[at]));
    EXPECT_NE(std::get<StepPointer>(changed->items[5]), std::get<StepPointer>(maker.study->items[5]));
}

TEST(Edits, RenamingFollowsEveryReading) {
    StudyMaker maker = canopy();
    Show show;
    show.colour_by = "rise";
    maker.study = *set_show(*maker.study, id_of(maker, "roof"), show);
    const StudyPointer renamed = *rename_step(*maker.study, id_of(maker, "rise"), "lift");
    EXPECT_EQ(std::get<ResultName>(renamed->step("pushed")->slots.at("amount")).name, "lift");
    EXPECT_EQ(renamed->step("roof")->show.colour_by, "lift");
    EXPECT_EQ(test::run(renamed).problem_count(), 0U);
}

TEST(Edits, AnEqualsSignBeforeAnExpressionIsNoPartOfIt) {
    const StudyMaker maker = canopy();
    const Study& before = *maker.study;
    const ItemId ground = id_of(maker, "lattice"), perches = id_of(maker, "perches");
    for (const char* typed : {"= 12", "=12", " = 12", "12"}) {
        const Edited edited = set_slot(before, ground, "columns", NumberText{typed});
        ASSERT_TRUE(edited);
        EXPECT_EQ((*edited)->step("lattice")->slots.at("columns"), SlotValue(NumberText{"12"})) << typed;
    }
    const Edited edited =
        set_slot(before, perches, "places", Places{{"a", "= 1 m", "=2 m", "3 m", "= 2 + 1", {}}});
    ASSERT_TRUE(edited);
    EXPECT_EQ((*edited)->step("perches")->slots.at("places"),
              SlotValue(Places{{"a", "1 m", "2 m", "3 m", "2 + 1", {}}}));
    EXPECT_EQ(without_equals("="), "");
    EXPECT_EQ(without_equals("a = 3"), "a = 3");
}

TEST(Edits, NamesThatClashOrAreNoneAreRefused) {
    StudyMaker maker = canopy();
    maker.control("swell", 3, "m");
    EXPECT_EQ(rename_step(*maker.study, id_of(maker, "rise"), "lattice").error().code, ErrorCode::name_clash);
    EXPECT_EQ(rename_step(*maker.study, id_of(maker, "rise"), "swell").error().code, ErrorCode::name_clash);
    EXPECT_EQ(rename_step(*maker.study, id_of(maker, "rise"), "2 much").error().code, ErrorCode::bad_name);
    EXPECT_EQ(add_control(*maker.study, proposed_control("swell", 1, "", false)).error().code,
              ErrorCode::name_clash);
    EXPECT_EQ(add_control(*maker.study, proposed_control("lattice", 1, "", false)).error().code,
              ErrorCode::name_clash);
    EXPECT_EQ(add_control(*maker.study, proposed_control("sin", 1, "", false)).error().code,
              ErrorCode::bad_name);
    EXPECT_TRUE(rename_step(*maker.study, id_of(maker, "rise"), "rise")) << "its own name is free";
    EXPECT_EQ(free_name(*maker.study, "rise"), "rise_2");
}

TEST(Edits, RemovalNamesTheReaders) {
    const StudyMaker maker = canopy();
    const Edited refused = remove_items(*maker.study, {id_of(maker, "lattice")}, false);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::still_read);
    EXPECT_NE(refused.error().message.find("‘reach’ and ‘pushed’"), std::string::npos)
        << refused.error().message;
    EXPECT_TRUE(remove_items(*maker.study, {id_of(maker, "lattice")}, true));
    EXPECT_TRUE(remove_items(*maker.study, {id_of(maker, "roof")}, false)) << "nobody reads it";
    EXPECT_EQ(remove_items(*maker.study, {12345}, true).error().code, ErrorCode::unknown_name);
}

TEST(Edits, MovingKeepsWhatIsReadAbove) {
    const StudyMaker maker = canopy();
    const Edited refused = move_items(*maker.study, {id_of(maker, "pushed")}, 0);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::reads_below);
    const StudyPointer moved = *move_items(*maker.study, {id_of(maker, "perches")}, 0);
    EXPECT_EQ(step_of(moved->items[0])->name, "perches");
    EXPECT_EQ(moved->items.size(), maker.study->items.size());
    EXPECT_EQ(step_of((*move_items(*moved, {id_of(maker, "perches")}, 2))->items[1])->name, "perches");
}

TEST(Edits, DuplicatesGetTheirOwnNames) {
    const StudyMaker maker = canopy();
    const std::size_t below = *maker.study->position(id_of(maker, "pushed")) + 1;
    const Pasted twin =
        *pasted(*maker.study, standard_catalogue(), *excerpt_of(*maker.study, {id_of(maker, "pushed")}),
                below, PastedControls::shared);
    EXPECT_EQ(twin.study->step(twin.items[0])->name, "pushed_2");
    EXPECT_EQ(*twin.study->position(twin.items[0]), below);
    EXPECT_EQ(test::run(twin.study).problem_count(), 0U);
}

TEST(Edits, HeadingsAreAddedChangedAndDuplicated) {
    const StudyMaker maker = canopy();
    const Added added = add_heading(*maker.study, 0, "Ground");
    Heading heading = *heading_of(added.study->items[0]);
    heading.note = "where it stands";
    heading.folded = true;
    const StudyPointer changed = *set_heading(*added.study, added.id, heading);
    const Pasted twin =
        *pasted(*changed, standard_catalogue(), *excerpt_of(*changed, {added.id}), 1, PastedControls::shared);
    EXPECT_EQ(heading_of(twin.study->items[1])->note, "where it stands");
    EXPECT_NE(heading_of(twin.study->items[1])->id, added.id);
    EXPECT_FALSE(set_heading(*maker.study, id_of(maker, "roof"), heading)) << "a step is no heading";
}

TEST(Edits, ControlsFollowTheirNewName) {
    StudyMaker maker = canopy();
    maker.control("swell", 3.2, "m");
    maker.number("rise", "high_length", "swell * 0.5")
        .set("perches", "places", Places{{"a", "swell", "0", "0", "1"}});
    Control control = *maker.study->control("swell");
    control.name = "lift";
    const StudyPointer renamed = *set_control(*maker.study, "swell", control);
    EXPECT_EQ(std::get<NumberText>(renamed->step("rise")->slots.at("high_length")).text, "lift * 0.5");
    EXPECT_EQ(std::get<Places>(renamed->step("perches")->slots.at("places"))[0].x, "lift");
    EXPECT_EQ(users_of_control(*renamed, "lift"), (std::vector<std::string>{"perches", "rise"}));
    EXPECT_EQ(remove_control(*renamed, "lift", false).error().code, ErrorCode::still_read);
    EXPECT_TRUE(remove_control(*renamed, "lift", true));
}

TEST(Edits, ControlsThatMakeNoSenseAreRefused) {
    const StudyMaker maker = canopy();
    const auto code = [&](const std::function<void(Control&)>& spoil) {
        Control control = proposed_control("c", 1, "", false);
        spoil(control);
        const Edited edited = add_control(*maker.study, control);
        return edited ? ErrorCode::number_of_codes : edited.error().code;
    };
    EXPECT_EQ(code([](Control&) {}), ErrorCode::number_of_codes);
    EXPECT_EQ(code([](Control& c) { c.value = NAN; }), ErrorCode::not_finite);
    EXPECT_EQ(code([](Control& c) { c.least = c.most; }), ErrorCode::out_of_range);
    EXPECT_EQ(code([](Control& c) { c.step = -1; }), ErrorCode::out_of_range);
    EXPECT_EQ(code([](Control& c) { c.unit = "furlong"; }), ErrorCode::unit_mismatch);
}

TEST(Edits, PromotionMakesAControlThatChangesNothing) {
    const StudyMaker maker = canopy();
    const StepKind& kind = *standard_catalogue().find("lattice.rectangular");
    const StudyPointer promoted = *promote(*maker.study, kind, id_of(maker, "lattice"), "width", "span");
    const Control& control = *promoted->control("span");
    EXPECT_EQ(control.value, 36);
    EXPECT_EQ(control.unit, "m");
    EXPECT_GT(control.most, 36);
    EXPECT_EQ(std::get<NumberText>(promoted->step("lattice")->slots.at("width")).text, "span");
    EXPECT_EQ(std::get<PointLattice>(test::value_of(test::run(promoted), "lattice")).bounds().high.x, 18);
    EXPECT_EQ(promote(*promoted, kind, id_of(maker, "lattice"), "width", "again").error().code,
              ErrorCode::bad_number)
        << "an expression";
    EXPECT_EQ(promote(*maker.study, kind, id_of(maker, "lattice"), "plane", "p").error().code,
              ErrorCode::unknown_slot);
    EXPECT_EQ(promote(*maker.study, kind, id_of(maker, "lattice"), "width", "perches").error().code,
              ErrorCode::name_clash);
}

TEST(Edits, ProposedRangesSuitTheValue) {
    const struct {
        double value;
        bool whole;
        double least, most;
    } cases[] = {{24, true, 1, 50},    {3.2, false, 0, 10}, {36, false, 0, 100}, {0.65, false, 0, 2},
                 {-5, false, -10, 10}, {0, false, 0, 1},    {1, true, 1, 2}};
    for (const auto& c : cases) {
        const Control control = proposed_control("c", c.value, "", c.whole);
        EXPECT_DOUBLE_EQ(control.least, c.least) << c.value;
        EXPECT_DOUBLE_EQ(control.most, c.most) << c.value;
        EXPECT_LE(control.least, c.value);
        EXPECT_GE(control.most, c.value);
    }
}

TEST(Edits, OtherUnitsKeepTheForm) {
    StudyMaker maker = canopy();
    maker.control("n", 12);
    maker.number("lattice", "width", "36")
        .number("lattice", "depth", "n * 2")
        .number("lattice", "columns", "n");
    const auto before = std::get<PointLattice>(test::value_of(test::run(maker.study), "pushed")).bounds();
    const StudyPointer feet =
        with_units(*maker.study, standard_catalogue(), {LengthUnit::foot, AngleUnit::degree});
    const auto after = std::get<PointLattice>(test::value_of(test::run(feet), "pushed")).bounds();
    for (const auto& [a, b] : {std::pair(before.high.x, after.high.x),
                               {before.high.y, after.high.y},
                               {before.high.z, after.high.z}})
        EXPECT_NEAR(a, b * 0.3048, 1e-9);
    EXPECT_EQ(std::get<NumberText>(feet->step("lattice")->slots.at("columns")).text, "n")
        << "a count has no unit";
}

TEST(Edits, DraggedPlacesKeepTheirUnitAndExpressions) {
    StudyMaker maker = canopy();
    maker.control("c", 2, "m");
    maker.set("perches", "places", Places{{"a", "100 cm", "c", "0 m", "1"}, {"b", "c", "c", "c", "1"}});
    const auto moved = [&](std::size_t index, Vec3 to) {
        return move_place(*maker.study, standard_catalogue(), id_of(maker, "perches"), "places", index, to);
    };
    const Place place = std::get<Places>((*moved(0, {2.5, 7, 0}))->step("perches")->slots.at("places"))[0];
    EXPECT_EQ(place.x, "250 cm");
    EXPECT_EQ(place.y, "c") << "what follows an expression stays";
    EXPECT_EQ(place.z, "0 m");
    EXPECT_EQ(moved(1, {9, 9, 9}).error().code, ErrorCode::input_failed);
    EXPECT_EQ(moved(0, {NAN, 0, 0}).error().code, ErrorCode::not_finite);
    EXPECT_FALSE(moved(7, {0, 0, 0}));
}

}  // namespace
}  // namespace plume
