#include "core/study/edits/change_text.hpp"

#include "core/study/edits/edits.hpp"
#include "core/study/edits/history.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

std::string told(const Study& before, const Study& after) {
    return change_text(before, after, standard_catalogue(), "the label");
}

TEST(ChangeText, TellsWhatOneEditDid) {
    test::StudyMaker maker = test::canopy();
    maker.control("swell", 3.2, "m");
    const Study study = *maker.study;
    const ItemId lattice = study.step("lattice")->id;
    EXPECT_EQ(told(study, **set_control_value(study, "swell", 4)), "swell 3.2 m to 4 m");
    EXPECT_EQ(told(study, **set_slot(study, lattice, "columns", NumberText{"12"})),
              "lattice: bays along i 24 to 12");
    EXPECT_EQ(told(study, **set_slot(study, lattice, "sizing", WordKey{"spaced"})),
              "lattice: sizing over to spaced");
    EXPECT_EQ(told(study, **rename_step(study, lattice, "deck")), "lattice is called deck");
    EXPECT_EQ(told(study, **remove_items(study, {study.step("roof")->id}, true)), "roof removed");
    const auto added = add_step(study, standard_catalogue(), *standard_catalogue().find("thing.move"),
                                study.items.size(), "roof");
    EXPECT_EQ(told(study, *added->study), "Move roof by 0 m, 0 m, 3 m.");
    EXPECT_EQ(told(study, *add_heading(study, 0, "Ground").study), "Heading Ground");
    Show hidden = study.step("roof")->show;
    hidden.visible = !hidden.visible;
    EXPECT_EQ(told(study, **set_show(study, study.step("roof")->id, hidden)),
              hidden.visible ? "roof shown" : "roof hidden");
}

TEST(ChangeText, OfMoreThanOneThingItsLabelIsTold) {
    test::StudyMaker maker = test::canopy();
    maker.control("swell", 3.2, "m").control("lift", 1, "m");
    const Study study = *maker.study;
    const Study both = **set_control_value(**set_control_value(study, "swell", 4), "lift", 2);
    EXPECT_EQ(told(study, both), "the label");
    EXPECT_EQ(told(study, study), "the label");
    const ItemId lattice = study.step("lattice")->id;
    const Study two_slots =
        **set_slot(**set_slot(study, lattice, "columns", NumberText{"12"}), lattice, "rows", NumberText{"3"});
    EXPECT_EQ(told(study, two_slots), "the label");
    // Long texts are not repeated.
    test::StudyMaker typed;
    typed.add("points.typed", "row");
    const Study before = *typed.study;
    typed.set("row", "rows", Lines{"1, 2, 3\n4, 5, 6"});
    EXPECT_EQ(told(before, *typed.study), "row: rows 4 lines to 2 lines");
}

TEST(History, GoesToAnyOfItsStates) {
    test::StudyMaker maker;
    History history(maker.study);
    std::vector<StudyPointer> states{maker.study};
    for (const char* name : {"a1", "b1", "c1"}) {
        maker.add("lattice.rectangular", name);
        history.commit(maker.study, name);
        states.push_back(maker.study);
    }
    ASSERT_EQ(history.entries().size(), 4U);
    EXPECT_EQ(history.at(), 3U);
    for (const std::size_t entry : {1U, 3U, 0U, 2U}) {
        history.go_to(entry);
        EXPECT_EQ(history.current(), states[entry]);
    }
    EXPECT_TRUE(history.can_redo());
    history.go_to(9);
    EXPECT_EQ(history.at(), 2U);
    // What follows is taken back by another edit.
    maker.add("lattice.rectangular", "d1");
    history.commit(maker.study, "d1");
    EXPECT_EQ(history.entries().size(), 4U);
}

}  // namespace
}  // namespace plume
