// Steps that stand as one: the same results as one by one, whatever is open, in any units; taken apart again.

#include "core/study/step_group.hpp"

#include "core/exchange/study_file.hpp"
#include "core/study/edits/group_steps.hpp"
#include "core/study/sentence.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// A lattice, raised in rings of points nearer to its middle, and rods on it: three steps that can stand as
// one.
StudyMaker hills() {
    StudyMaker maker;
    maker.control("bays", 6).control("swell", 2, "m");
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "bays").number("ground", "rows", "4");
    maker.add("field.formula", "height");
    maker.set("height", "points", ResultName{"ground"}).formula("height", "swell * sin(x / 2 m)");
    maker.add("points.push", "raised");
    maker.set("raised", "points", ResultName{"ground"}).set("raised", "amount", ResultName{"height"});
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"raised"});
    return maker;
}
ItemIds ids(const Study& study, std::initializer_list<const char*> names) {
    ItemIds items;
    for (const char* name : names)
        items.insert(study.step(name)->id);
    return items;
}
std::vector<OpenSlot> proposed(const Study& study, const ItemIds& items,
                               std::initializer_list<const char*> keys) {
    std::vector<OpenSlot> open;
    for (const char* key : keys)
        for (const Openable& one : openable_slots(study, standard_catalogue(), items))
            if (one.open.key == key) open.push_back(one.open);
    EXPECT_EQ(open.size(), keys.size());
    return open;
}
Result<Added> grouped(const Study& study, const ItemIds& items, std::initializer_list<const char*> keys,
                      std::string sentence = {}) {
    const auto open = proposed(study, items, keys);
    auto group = group_of_steps(study, standard_catalogue(), items, open);
    if (!group) return group.error();
    group->title = "Raise a hill";
    group->sentence = sentence.empty() ? proposed_sentence(group->title, group->open) : sentence;
    return with_group(study, standard_catalogue(), items, *std::move(group));
}
StudyPointer made(const Result<Added>& added) {
    EXPECT_TRUE(added) << sentence(added.error());
    return added->study;
}
Column heights(const Evaluation& evaluation, const char* name) {
    const Outcome* outcome = evaluation.outcome(name);
    EXPECT_TRUE(outcome && outcome->value) << (outcome && outcome->error ? sentence(*outcome->error) : name);
    return lattice_of(*outcome->value)->z();
}
void expect_same(const Column& a, const Column& b) {
    ASSERT_EQ(a.size(), b.size());
    for (std::size_t at = 0; at < a.size(); ++at)
        ASSERT_EQ(a[at], b[at]) << at;
}
Error group_error(const Study& study, const ItemIds& items, std::initializer_list<const char*> keys,
                  const std::string& sentence = {}) {
    const auto added = grouped(study, items, keys, sentence);
    EXPECT_FALSE(added);
    return added ? Error{} : added.error();
}

TEST(StepGroup, ComesToTheSameAsItsStepsOneByOne) {
    const StudyMaker maker = hills();
    const Evaluation one_by_one = test::run(maker.study);
    const ItemIds items = ids(*maker.study, {"ground", "height", "raised"});
    const StudyPointer study = made(grouped(*maker.study, items, {"bays", "swell"}));
    ASSERT_EQ(study->items.size(), 2U);
    const Step& step = *study->step("raised");
    EXPECT_EQ(sentence_text(*standard_catalogue().find(step), step),
              "Raise a hill: bays bays, swell swell (3 steps).");
    const Evaluation as_one = test::run(study);
    EXPECT_EQ(as_one.problem_count(), 0U);
    expect_same(heights(one_by_one, "raised"), heights(as_one, "raised"));
    // The controls go on driving it.
    const auto moved = set_control_value(*study, "bays", 9);
    EXPECT_EQ(lattice_of(*test::run(*moved).outcome("raised")->value)->counts()[0], 10U);
}

TEST(StepGroup, NumbersOfSingleStepsAndResultsFromOutsideAreLeftOpen) {
    const StudyMaker maker = hills();
    const ItemIds items = ids(*maker.study, {"height", "raised"});
    StudyPointer study = made(grouped(*maker.study, items, {"ground", "swell"}));
    expect_same(heights(test::run(maker.study), "raised"), heights(test::run(study), "raised"));
    const ItemIds whole = ids(*maker.study, {"ground", "height", "raised"});
    study = made(grouped(*maker.study, whole, {"rows", "width"}));
    EXPECT_TRUE(study->control("bays")) << "what was not left open is as it was: no longer read from outside";
    EXPECT_TRUE(users_of_control(*study, "bays").empty());
    expect_same(heights(test::run(maker.study), "raised"), heights(test::run(study), "raised"));
    const auto wider = set_slot(*study, study->step("raised")->id, "rows", NumberText{"7"});
    EXPECT_EQ(lattice_of(*test::run(*wider).outcome("raised")->value)->counts()[1], 8U);
    const auto wrong = set_slot(*study, study->step("raised")->id, "rows", NumberText{"0"});
    const Error error = test::error_of(test::run(*wrong), "raised");
    EXPECT_EQ(error.slot, "rows") << sentence(error);
}

TEST(StepGroup, IsKeptInAFileAndInAnExcerpt) {
    const StudyMaker maker = hills();
    const StudyPointer study =
        made(grouped(*maker.study, ids(*maker.study, {"ground", "height", "raised"}), {"bays", "width"}));
    const auto read = study_from_text(study_to_text(*study));
    ASSERT_TRUE(read) << sentence(read.error());
    EXPECT_EQ(std::get<GroupedSteps>(study->step("raised")->slots.at("steps")),
              std::get<GroupedSteps>((*read)->step("raised")->slots.at("steps")));
    EXPECT_EQ(study_to_text(**read), study_to_text(*study));
    expect_same(heights(test::run(study), "raised"), heights(test::run(*read), "raised"));
}

TEST(StepGroup, CountsItsOwnUnitsInAStudyOfOthers) {
    const StudyMaker maker = hills();
    const StudyPointer study = made(
        grouped(*maker.study, ids(*maker.study, {"ground", "height", "raised"}), {"bays", "width", "swell"}));
    const StudyPointer there =
        with_units(*study, standard_catalogue(), {LengthUnit::millimetre, AngleUnit::radian});
    const Column in_metres = heights(test::run(study), "raised"),
                 in_millimetres = heights(test::run(there), "raised");
    ASSERT_EQ(in_metres.size(), in_millimetres.size());
    for (std::size_t at = 0; at < in_metres.size(); ++at)
        EXPECT_NEAR(in_metres[at] * 1000, in_millimetres[at], 1e-6);
}

TEST(StepGroup, IsTakenApartAsItWas) {
    const StudyMaker maker = hills();
    for (const auto& keys : std::initializer_list<std::initializer_list<const char*>>{
             {"bays", "swell"}, {"rows"}, {"bays", "rows", "width", "swell"}}) {
        const StudyPointer study =
            made(grouped(*maker.study, ids(*maker.study, {"ground", "height", "raised"}), keys));
        const auto apart = taken_apart(*study, standard_catalogue(), study->step("raised")->id);
        ASSERT_TRUE(apart) << sentence(apart.error());
        ASSERT_EQ(apart->items.size(), 3U);
        EXPECT_EQ(apart->study->items.size(), 4U);
        const Evaluation evaluation = test::run(apart->study);
        EXPECT_EQ(evaluation.problem_count(), 0U);
        expect_same(heights(test::run(maker.study), "raised"), heights(evaluation, "raised"));
    }
}

TEST(StepGroup, TakenApartWhereItsNamesAreTaken) {
    const StudyMaker maker = hills();
    const StudyPointer study =
        made(grouped(*maker.study, ids(*maker.study, {"height", "raised"}), {"ground", "swell"}));
    // Twice the same step in one study, the second on what the first made, with a number and an expression.
    Step second = *study->step("raised");
    auto more = add_step(*study, standard_catalogue(), second, study->items.size(), "raised");
    ASSERT_TRUE(more) << sentence(more.error());
    const Step& added = *more->study->step(more->id);
    EXPECT_EQ(added.name, "raised_2");
    EXPECT_EQ(std::get<ResultName>(added.slots.at("ground")).name, "raised");
    const auto driven = set_slot(*more->study, more->id, "swell", NumberText{"swell / 4"});
    const Column before = heights(test::run(*driven), "raised_2");
    const auto apart = taken_apart(**driven, standard_catalogue(), more->id);
    ASSERT_TRUE(apart) << sentence(apart.error());
    const Evaluation evaluation = test::run(apart->study);
    EXPECT_EQ(evaluation.problem_count(), 0U);
    const Column after = heights(evaluation, "raised_2");
    ASSERT_EQ(before.size(), after.size());
    for (std::size_t at = 0; at < before.size(); ++at)
        EXPECT_NEAR(before[at], after[at], 1e-12);
}

TEST(StepGroup, StandsInAGroup) {
    const StudyMaker maker = hills();
    const StudyPointer inner =
        made(grouped(*maker.study, ids(*maker.study, {"height", "raised"}), {"ground", "swell"}));
    const StudyPointer outer = made(grouped(*inner, ids(*inner, {"ground", "raised"}), {"bays", "swell"}));
    ASSERT_EQ(outer->items.size(), 2U);
    expect_same(heights(test::run(maker.study), "raised"), heights(test::run(outer), "raised"));
    const auto read = study_from_text(study_to_text(*outer));
    ASSERT_TRUE(read) << sentence(read.error());
    expect_same(heights(test::run(maker.study), "raised"), heights(test::run(*read), "raised"));
}

TEST(StepGroup, StandInGroupsNoDeeperThanAFileMay) {
    StudyPointer study = hills().study;
    for (std::size_t depth = 1; depth <= deepest_group; ++depth) {
        study = made(grouped(*study, ids(*study, {"raised"}), {"ground", "height"}));
        const auto read = study_from_text(study_to_text(*study));
        ASSERT_TRUE(read) << depth << sentence(read.error());
        EXPECT_EQ(test::run(*read).problem_count(), 0U);
    }
    const Error error = group_error(*study, ids(*study, {"raised"}), {"ground", "height"});
    EXPECT_EQ(error.code, ErrorCode::too_deep) << sentence(error);
}

TEST(StepGroup, KeepsWhatIsInsideOneByOne) {
    const StudyMaker maker = hills();
    StudyPointer study =
        made(grouped(*maker.study, ids(*maker.study, {"ground", "height", "raised"}), {"bays", "swell"}));
    ResultStore store(100'000'000);
    const Evaluation first = test::run(study, {}, &store);
    EXPECT_TRUE(test::run(study, {}, &store).outcome("raised")->from_cache);
    // The steps by themselves are found there, too.
    const Evaluation apart = test::run(maker.study, {}, &store);
    for (const char* name : {"ground", "height", "raised"})
        EXPECT_TRUE(apart.outcome(name)->from_cache) << name;
}

TEST(StepGroup, AsksForWhatIsInside) {
    StudyMaker maker = hills();
    maker.number("ground", "rows", "400").number("ground", "columns", "400");
    const ItemIds items = ids(*maker.study, {"ground", "height", "raised"});
    const StudyPointer study = made(grouped(*maker.study, items, {"swell"}));
    Budget budget;
    budget.bytes = 100'000;
    const Evaluation asking = test::run(study, budget);
    ASSERT_EQ(asking.outcome("raised")->state, StepState::asks);
    // As often as there are steps to ask about.
    for (int asked = 0; asked < 3; ++asked)
        budget.permitted.insert(test::run(study, budget).outcome("raised")->key);
    EXPECT_EQ(test::run(study, budget).outcome("raised")->state, StepState::done);
}

TEST(StepGroup, ThatGivesANumberIsReadByItsName) {
    StudyMaker maker = hills();
    maker.add("number.statistic", "crest");
    maker.set("crest", "field", ResultName{"height"}).word("crest", "statistic", "most");
    maker.add("lattice.rectangular", "plaza");
    maker.number("plaza", "width", "crest * 3").number("plaza", "columns", "1");
    const Evaluation one_by_one = test::run(maker.study);
    const double wide = lattice_of(*one_by_one.outcome("plaza")->value)->x()[1];
    ASSERT_GT(wide, 0.1);
    // The crest of a ground of its own, so that nothing of it is read from outside.
    StudyMaker alone = hills();
    alone.study = *remove_items(*alone.study, ids(*alone.study, {"raised", "skin"}), true);
    alone.add("number.statistic", "crest");
    alone.set("crest", "field", ResultName{"height"}).word("crest", "statistic", "most");
    alone.add("lattice.rectangular", "plaza");
    alone.number("plaza", "width", "crest * 3").number("plaza", "columns", "1");
    StudyPointer study =
        made(grouped(*alone.study, ids(*alone.study, {"ground", "height", "crest"}), {"swell"}));
    EXPECT_TRUE(gives_number(*study->step("crest")));
    EXPECT_EQ(lattice_of(*test::run(study).outcome("plaza")->value)->x()[1], wide);
    const auto higher = set_control_value(*study, "swell", 4);
    EXPECT_NEAR(lattice_of(*test::run(*higher).outcome("plaza")->value)->x()[1], 2 * wide, 1e-12);
    const auto renamed = rename_step(*study, study->step("crest")->id, "peak");
    ASSERT_TRUE(renamed) << sentence(renamed.error());
    EXPECT_EQ(lattice_of(*test::run(*renamed).outcome("plaza")->value)->x()[1], wide);
}

TEST(StepGroup, NumbersOfPointsAreCalledLikeIt) {
    StudyMaker maker = hills();
    maker.study = *remove_items(*maker.study, ids(*maker.study, {"raised", "skin"}), true);
    StudyPointer study = made(grouped(*maker.study, ids(*maker.study, {"ground", "height"}), {"swell"}));
    const auto name_in = [](const StudyPointer& of, const char* result) {
        const Evaluation evaluation = test::run(of);
        return std::get<FieldOnPoints>(*evaluation.outcome(result)->value).name;
    };
    EXPECT_EQ(name_in(study, "height"), "height");
    const ItemId id = study->step("height")->id;
    EXPECT_EQ(name_in(*rename_step(*study, id, "rise"), "rise"), "rise");
    // That is a name inside.
    EXPECT_EQ(name_in(*rename_step(*study, id, "ground"), "ground"), "height");
}

TEST(StepGroup, TakenApartIsMadeAgainAsItWas) {
    const StudyMaker maker = hills();
    const ItemIds items = ids(*maker.study, {"height", "raised"});
    const auto& catalogue = standard_catalogue();
    auto group = group_of_steps(*maker.study, catalogue, items, {{"ground", {}, {}}, {"swell", {}, {}}});
    group->title = "Raise a hill";
    group->sentence = "Raise {ground} by {swell}";
    group->help = "As hills are.";
    History history(maker.study);
    EXPECT_FALSE(former_group(history, catalogue, items)) << "they never stood as one";
    const StudyPointer as_one = with_group(*maker.study, catalogue, items, *group)->study;
    history.commit(as_one, "one step");
    // Renamed outside, and driven by another control by now.
    history.commit(*rename_step(*as_one, as_one->step("ground")->id, "terrain"), "name");
    const StudyPointer renamed = history.current();
    const auto apart = taken_apart(*renamed, catalogue, renamed->step("raised")->id);
    ASSERT_TRUE(apart) << sentence(apart.error());
    history.commit(apart->study, "apart");
    const ItemIds inside(apart->items.begin(), apart->items.end());
    const auto former = former_group(history, catalogue, inside);
    ASSERT_TRUE(former);
    EXPECT_EQ(former->title, "Raise a hill");
    EXPECT_EQ(former->help, "As hills are.");
    EXPECT_EQ(former->sentence, "Raise {terrain} by {swell}");
    ASSERT_EQ(former->open.size(), 2U);
    auto again = group_of_steps(*history.current(), catalogue, inside, former->open);
    ASSERT_TRUE(again) << sentence(again.error());
    again->title = former->title;
    again->sentence = former->sentence;
    const auto added = with_group(*history.current(), catalogue, inside, *again);
    ASSERT_TRUE(added) << sentence(added.error());
    expect_same(heights(test::run(renamed), "raised"), heights(test::run(added->study), "raised"));
    // While it stands there still, other steps of these names never stood as one.
    history.undo();
    EXPECT_FALSE(former_group(history, catalogue, ids(*history.current(), {"terrain"})));
}

TEST(StepGroup, ErrorsInsideSayWhere) {
    StudyMaker maker = hills();
    maker.formula("height", "swell * sin(x / 2 m) + nothing");
    const StudyPointer study =
        made(grouped(*maker.study, ids(*maker.study, {"ground", "height", "raised"}), {"bays"}));
    const Error error = test::error_of(test::run(study), "raised");
    EXPECT_EQ(error.slot, group_slot_key);
    EXPECT_NE(sentence(error).find("‘height’ inside"), std::string::npos) << sentence(error);
    EXPECT_NE(sentence(error).find("nothing"), std::string::npos) << sentence(error);
}

TEST(StepGroup, RefusesWhatCannotStandAsOne) {
    StudyMaker maker = hills();
    const Study& study = *maker.study;
    EXPECT_EQ(group_error(study, {}, {}).code, ErrorCode::empty_input);
    EXPECT_EQ(group_error(study, ids(study, {"ground", "raised"}), {"bays"}).code, ErrorCode::reads_below)
        << "height reads the ground and stands between";
    EXPECT_EQ(group_error(study, ids(study, {"height", "raised"}), {}).code, ErrorCode::missing_input)
        << "the ground is neither inside nor open";
    const ItemIds all = ids(study, {"ground", "height", "raised"});
    EXPECT_EQ(group_error(study, all, {"bays"}, "Raise a hill").code, ErrorCode::syntax);
    EXPECT_EQ(group_error(study, all, {"bays"}, "Raise {bays} {more}").code, ErrorCode::syntax);
    EXPECT_EQ(group_error(study, all, {"bays"}, "Raise {bays} [how=a|b]").code, ErrorCode::syntax);
    maker.add("skin", "other");
    maker.set("other", "points", ResultName{"ground"});
    const Error error = group_error(*maker.study, all, {"bays"});
    EXPECT_EQ(error.code, ErrorCode::still_read) << sentence(error);
}

TEST(StepGroup, ThatIsBrokenIsKeptAndSaysWhy) {
    const StudyMaker maker = hills();
    const StudyPointer study =
        made(grouped(*maker.study, ids(*maker.study, {"ground", "height", "raised"}), {"bays", "width"}));
    const std::string text = study_to_text(*study);
    const std::pair<std::string, std::string> changes[] = {
        {R"("result": "raised",)", R"("result": "gone",)"},
        {R"("of": "ground")", R"("of": "gone")"},
        {R"("step": "points.push")", R"("step": "points.unheard")"},
        {R"("key": "width")", R"("key": "2 wide")"},
        {R"("title": "Raise a hill")", R"("titel": "Raise a hill")"},
        {R"("steps": {)", R"("steps": 7, "was": {)"}};
    for (const auto& [from, to] : changes) {
        std::string broken = text;
        const std::size_t at = broken.rfind(from);
        ASSERT_NE(at, std::string::npos) << from << "\n" << text;
        broken.replace(at, from.size(), to);
        const auto read = study_from_text(broken);
        ASSERT_TRUE(read) << sentence(read.error());
        const Evaluation evaluation = test::run(*read);
        const Error error = test::error_of(evaluation, "raised");
        EXPECT_FALSE(error.message.empty()) << to;
        EXPECT_FALSE(error.mend.empty()) << to;
        EXPECT_EQ(study_to_text(**study_from_text(study_to_text(**read))), study_to_text(**read));
    }
}

}  // namespace
}  // namespace plume
