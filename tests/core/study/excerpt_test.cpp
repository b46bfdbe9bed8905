// Items cut out of a study and pasted into it or another.

#include "core/study/edits/excerpt.hpp"

#include "core/exchange/study_file.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// A curve by a formula with numbers of its own, divided, and a lattice that reads none of it.
StudyMaker bow() {
    StudyMaker maker;
    maker.control("span", 8, "m").control("sag", 2, "m").control("other", 1);
    maker.add("lattice.rectangular", "ground");
    maker.add("curve.formula", "bow");
    maker.number("bow", "from", "0").number("bow", "to", "1");
    maker.formula("bow", "x = span * t\ny = 0 m\nz = sag * t * (1 - t)");
    maker.add("lattice.along_curve", "marks");
    maker.add("number.statistic", "unread");
    maker.add("field.formula", "height");
    maker.set("height", "points", ResultName{"marks"}).formula("height", "z");
    return maker;
}
ItemIds ids(const StudyMaker& maker, std::initializer_list<const char*> names) {
    ItemIds items;
    for (const char* name : names)
        items.insert(maker.study->step(name)->id);
    return items;
}
std::string formula_of(const Study& study, const std::string& name) {
    return std::get<FormulaText>(study.step(name)->slots.at("formula")).text;
}
std::string reads(const Study& study, const std::string& name, const char* slot) {
    return std::get<ResultName>(study.step(name)->slots.at(slot)).name;
}
Pasted paste(const Study& into, const Study& excerpt, PastedControls controls, std::size_t at = 1000) {
    const auto result = pasted(into, standard_catalogue(), excerpt, at, controls);
    EXPECT_TRUE(result) << sentence(result.error());
    return *result;
}

TEST(Excerpt, HoldsTheItemsAndTheControlsTheyUse) {
    const StudyMaker maker = bow();
    const StudyPointer excerpt = excerpt_of(*maker.study, ids(maker, {"marks", "bow"}));
    ASSERT_EQ(excerpt->items.size(), 2U);
    EXPECT_EQ(step_of(excerpt->items[0])->name, "bow") << "in the order of the page";
    ASSERT_EQ(excerpt->controls.size(), 2U);
    EXPECT_TRUE(excerpt->control("span") && excerpt->control("sag"));
    // The clipboard holds text that is a study.
    const auto read = study_from_text(study_to_text(*excerpt));
    ASSERT_TRUE(read);
    EXPECT_EQ(test::run(*read).problem_count(), 0U);
    EXPECT_EQ(excerpt_of(*maker.study, {}, {"other"})->controls.size(), 1U);
}

TEST(Excerpt, ASecondCurveLikeTheFirstSharesItsControlsOrHasItsOwn) {
    const StudyMaker maker = bow();
    const StudyPointer excerpt = excerpt_of(*maker.study, ids(maker, {"bow", "marks", "height"}));
    const Pasted shared = paste(*maker.study, *excerpt, PastedControls::shared);
    ASSERT_EQ(shared.items.size(), 3U);
    EXPECT_TRUE(shared.controls.empty());
    EXPECT_EQ(reads(*shared.study, "marks_2", "curve"), "bow_2") << "readings inside follow";
    EXPECT_EQ(reads(*shared.study, "height_2", "points"), "marks_2");
    EXPECT_EQ(formula_of(*shared.study, "bow_2"), formula_of(*shared.study, "bow"));
    EXPECT_EQ(test::run(shared.study).problem_count(), test::run(maker.study).problem_count());

    const Pasted own = paste(*maker.study, *excerpt, PastedControls::own);
    EXPECT_EQ(own.controls, (std::vector<std::string>{"span_2", "sag_2"}));
    EXPECT_EQ(formula_of(*own.study, "bow_2"), "x = span_2 * t\ny = 0 m\nz = sag_2 * t * (1 - t)");
    EXPECT_EQ(formula_of(*own.study, "bow"), "x = span * t\ny = 0 m\nz = sag * t * (1 - t)");
    const Evaluation evaluation = test::run(*set_control_value(*own.study, "span_2", 20));
    EXPECT_NEAR(lattice_of(test::value_of(evaluation, "marks_2"))->bounds().high.x, 20, 1e-9);
    EXPECT_NEAR(lattice_of(test::value_of(evaluation, "marks"))->bounds().high.x, 8, 1e-9);
}

TEST(Excerpt, WhatItReadsFromOutsideIsReadByName) {
    const StudyMaker maker = bow();
    const StudyPointer excerpt = excerpt_of(*maker.study, ids(maker, {"marks"}));
    const Pasted beside = paste(*maker.study, *excerpt, PastedControls::shared);
    EXPECT_EQ(reads(*beside.study, "marks_2", "curve"), "bow");
    StudyMaker empty;
    const Pasted elsewhere = paste(*empty.study, *excerpt, PastedControls::shared);
    const Error missing = test::error_of(test::run(elsewhere.study), "marks");
    EXPECT_EQ(missing.code, ErrorCode::missing_input);
    EXPECT_EQ(missing.where, "‘bow’");
}

TEST(Excerpt, NamesNeverCatchWhatWasMeantForAnother) {
    // ‘a’ is pasted where an ‘a’ is; the free name a_2 is what the excerpt reads from outside.
    StudyMaker source;
    source.add("lattice.rectangular", "a_2");
    source.add("lattice.triangular", "a");
    source.add("thing.join", "both");
    source.set("both", "first", ResultName{"a"}).set("both", "second", ResultName{"a_2"});
    StudyMaker target;
    target.add("lattice.polar", "a");
    const StudyPointer excerpt = excerpt_of(*source.study, ids(source, {"a", "both"}));
    const Pasted made = paste(*target.study, *excerpt, PastedControls::shared);
    EXPECT_EQ(reads(*made.study, "both", "first"), "a_3");
    EXPECT_EQ(reads(*made.study, "both", "second"), "a_2") << "which is not there, and said to be missing";
    EXPECT_FALSE(made.study->step("a_2"));
}

TEST(Excerpt, NumbersOfTheStudyFollowIntoExpressions) {
    StudyMaker maker;
    maker.add("numbers.list", "list");
    maker.add("number.statistic", "top");
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "round(top) + 1");
    const Pasted made =
        paste(*maker.study, *excerpt_of(*maker.study, ids(maker, {"top", "ground"})), PastedControls::shared);
    EXPECT_EQ(std::get<NumberText>(made.study->step("ground_2")->slots.at("columns")).text,
              "round(top_2) + 1");
}

TEST(Excerpt, HeadingsUnitsPlacesAndWhatIsUnknownComeAlong) {
    StudyMaker maker = bow();
    const Added heading = add_heading(*maker.study, 0, "Bows");
    ItemIds items = ids(maker, {"bow"});
    items.insert(heading.id);
    const StudyPointer excerpt = excerpt_of(*heading.study, items);
    StudyMaker target;
    target.add("lattice.rectangular", "first");
    target.add("lattice.rectangular", "last");
    target.study = with_units(*target.study, standard_catalogue(), {LengthUnit::foot, AngleUnit::degree});
    const Pasted made = paste(*target.study, *excerpt, PastedControls::shared, 1);
    ASSERT_EQ(made.study->items.size(), 4U);
    EXPECT_EQ(heading_of(made.study->items[1])->title, "Bows");
    EXPECT_EQ(step_of(made.study->items[2])->name, "bow");
    EXPECT_EQ(id_of(made.study->items[1]), made.items[0]);
    EXPECT_NE(made.items[0], heading.id) << "numbers of its own";
    EXPECT_NE(made.items[1], target.study->step("last")->id);
    EXPECT_EQ(made.controls.size(), 2U);
    const auto parts = study_from_text(
        R"({"plume": 1, "page": [{"step": "later.kind", "result": "a", "slots": {"b": {"c": 1}}, "future": 7}]})");
    ASSERT_TRUE(parts);
    const Pasted unknown = paste(*target.study, **parts, PastedControls::shared);
    EXPECT_EQ(unknown.study->step("a")->unknown.at("future"), "7");
    EXPECT_TRUE(std::holds_alternative<OddValue>(unknown.study->step("a")->slots.at("b")));
}

TEST(Excerpt, ControlsOfOtherKindsOrNamesOfResultsGetTheirOwn) {
    StudyMaker source;
    source.control("h", 2, "m").control("roof", 3);
    source.add("lattice.rectangular", "pad");
    source.number("pad", "width", "h * roof");
    StudyMaker target;
    target.control("h", 30, "°");
    target.add("lattice.rectangular", "roof");
    const Pasted made =
        paste(*target.study, *excerpt_of(*source.study, ids(source, {"pad"})), PastedControls::shared);
    EXPECT_EQ(made.controls, (std::vector<std::string>{"h_2", "roof_2"}));
    EXPECT_EQ(std::get<NumberText>(made.study->step("pad")->slots.at("width")).text, "h_2 * roof_2");
    EXPECT_EQ(test::run(made.study).problem_count(), 0U);
}

TEST(Excerpt, AnEmptyOneIsRefusedAndSeveralAreRemovedAndMovedTogether) {
    const StudyMaker maker = bow();
    EXPECT_EQ(pasted(*maker.study, standard_catalogue(), Study(), 0, PastedControls::own).error().code,
              ErrorCode::empty_input);
    EXPECT_EQ(remove_items(*maker.study, ids(maker, {"bow", "marks"}), false).error().code,
              ErrorCode::still_read);
    const Edited removed = remove_items(*maker.study, ids(maker, {"bow", "marks", "height"}), false);
    ASSERT_TRUE(removed) << "they read each other only";
    EXPECT_EQ((*removed)->items.size(), 2U);
    const Edited moved = move_items(*maker.study, ids(maker, {"bow", "marks"}), 0);
    ASSERT_TRUE(moved);
    EXPECT_EQ(step_of((*moved)->items[0])->name, "bow");
    EXPECT_EQ(step_of((*moved)->items[1])->name, "marks");
    EXPECT_EQ(step_of((*moved)->items[2])->name, "ground");
    EXPECT_EQ(move_items(*maker.study, ids(maker, {"marks", "height"}), 0).error().code,
              ErrorCode::reads_below);
}

}  // namespace
}  // namespace plume
