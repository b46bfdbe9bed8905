// Values of slots in other forms than expected: read where they can only mean one thing, refused on their
// step otherwise; and the nets below a step.

#include "core/study/slots/slot_form.hpp"

#include "core/exchange/study_file.hpp"
#include "core/formula/expression.hpp"
#include "core/formula/functions.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/steps/formula_support.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::error_of;
using test::value_of;

// The outcome of a study whose one lattice has these slots, as a file holds them.
Evaluation lattice_with(const std::string& slots) {
    const auto study =
        study_from_text(R"({"plume": 1, "controls": [{"name": "h", "value": 3, "most": 9}], "page": [
        {"step": "lattice.rectangular", "result": "ground", "slots": {)" +
                        slots + "}}]}");
    EXPECT_TRUE(study) << slots;
    return test::run(std::make_shared<const Study>(in_form(**study, standard_catalogue())));
}

TEST(SlotForm, EveryReasonableFormOfANumberIsRead) {
    const struct {
        const char* slots;
        std::size_t columns;
        double width;
    } cases[] = {
        {R"("columns": "= 4")", 5, 36},    {R"("columns": 4)", 5, 36},     {R"("columns": "4")", 5, 36},
        {R"("columns": "h + 1")", 5, 36},  {R"("width": "h * 2")", 25, 6}, {R"("width": "12")", 25, 12},
        {R"("width": "1200 cm")", 25, 12}, {R"("width": 12.5)", 25, 12.5},
    };
    for (const auto& c : cases) {
        const Evaluation evaluation = lattice_with(c.slots);
        ASSERT_EQ(evaluation.problem_count(), 0U) << c.slots;
        const Value value = value_of(evaluation, "ground");
        EXPECT_EQ(std::get<PointLattice>(value).counts()[0], c.columns) << c.slots;
        EXPECT_NEAR(std::get<PointLattice>(value).bounds().size().x, c.width, 1e-12) << c.slots;
    }
}

TEST(SlotForm, AllElseIsAnErrorThatNamesSlotAndValue) {
    const struct {
        const char *slots, *place, *said;
    } cases[] = {
        {R"("columns": null)", "Bays along i", "‘null’"},
        {R"("columns": true)", "Bays along i", "‘true’"},
        {R"("columns": {"later": [1]})", "Bays along i", R"(‘{"later":[1]}’)"},
        {R"("columns": [])", "Bays along i", "a list of places"},
        {R"("columns": {"result": "h"})", "Bays along i", "the result ‘h’"},
        {R"("columns": {"formula": ["1"]})", "Bays along i", "a formula"},
        {R"("plane": 3)", "Plane", "‘3’"},
        {R"("plane": {"file": "a.png"})", "Plane", "the file ‘a.png’"},
        {R"("sizing": {"text": ["over"]})", "Sizing", "lines of text"},
    };
    for (const auto& c : cases) {
        const Error error = error_of(lattice_with(c.slots), "ground");
        EXPECT_EQ(error.code, ErrorCode::wrong_form) << c.slots;
        EXPECT_EQ(error.where, c.place) << c.slots;
        EXPECT_NE(error.message.find(c.said), std::string::npos) << error.message;
        EXPECT_FALSE(error.mend.empty());
    }
    EXPECT_EQ(error_of(lattice_with(R"("plane": "sideways")"), "ground").code, ErrorCode::bad_number);
}

TEST(SlotForm, PlainTextIsAReadingAFormulaRowsOrAnAddress) {
    const auto study = study_from_text(R"({"plume": 1, "page": [
      {"step": "points.typed", "result": "a", "slots": {"rows": "x, y\n1, 2\n3, 4", "arrangement": "row"}},
      {"step": "points.move_formula", "result": "b", "slots": {"points": "a", "formula": "to_z = x"}},
      {"step": "points.move_formula", "result": "c", "slots": {"points": "a", "formula": {"formula": "to_z = x"}}},
      {"step": "points.keep_addresses", "result": "d", "slots": {"points": "a", "addresses": 1}}]})");
    ASSERT_TRUE(study);
    const Study read = in_form(**study, standard_catalogue());
    EXPECT_EQ(std::get<Lines>(read.step("a")->slots.at("rows")).text, "x, y\n1, 2\n3, 4");
    const Evaluation evaluation = test::run(std::make_shared<const Study>(read));
    ASSERT_EQ(evaluation.problem_count(), 0U);
    for (const char* name : {"a", "b", "c"}) {
        const Value value = value_of(evaluation, name);
        EXPECT_EQ(lattice_of(value)->point_count(), 2U) << name;
        EXPECT_EQ(lattice_of(value)->point(1).z, name[0] == 'a' ? 0 : 3) << name;
    }
    const Value kept = value_of(evaluation, "d");
    EXPECT_EQ(lattice_of(kept)->point_count(), 1U);
}

TEST(SlotForm, ReferencesAndFormulasAsPlainText) {
    for (const StepKind& kind : standard_catalogue().kinds())
        for (const SlotSpec& slot : kind.slots) {
            const Result<SlotValue> read = in_form(slot, WordKey{"a"});
            switch (slot.type) {
                case SlotType::reference:
                    ASSERT_TRUE(read);
                    EXPECT_EQ(std::get<ResultName>(*read).name, "a");
                    break;
                case SlotType::formula:
                    ASSERT_TRUE(read);
                    EXPECT_EQ(std::get<FormulaText>(*read).text, "a");
                    break;
                case SlotType::places:
                case SlotType::group:
                    ASSERT_FALSE(read);
                    EXPECT_EQ(read.error().code, ErrorCode::wrong_form);
                    break;
                default:
                    EXPECT_TRUE(read) << kind.key << ' ' << slot.key;
            }
        }
}

// Whatever stands in a slot, of every kind: in the slot's own form, or refused at it. Never a preset in its
// place.
TEST(SlotForm, NoSlotOfAnyKindReplacesWhatItCannotRead) {
    const std::vector<SlotValue> odd{
        NumberText{"3.25"},           WordKey{"a word"}, ResultName{"r"},   Places{{"p", "0", "0", "0", "1"}},
        FormulaText{"z = 1", {}, {}}, Lines{"rows"},     FileName{"a.csv"}, OddValue{"null"}};
    for (const StepKind& kind : standard_catalogue().kinds())
        for (const SlotSpec& slot : kind.slots)
            for (const SlotValue& value : odd) {
                Step step;
                step.kind = kind.key;
                step.slots[slot.key] = value;
                const Result<SlotValue> read = read_slot(slot, step);
                if (!read) {
                    EXPECT_EQ(read.error().code, ErrorCode::wrong_form);
                    EXPECT_EQ(read.error().where, slot.label);
                    EXPECT_TRUE(slot_error(kind, step)) << kind.key << ' ' << slot.key;
                    continue;
                }
                EXPECT_EQ(read->index(), slot.preset_value().index()) << kind.key << ' ' << slot.key;
                EXPECT_NE(*read, slot.preset_value()) << kind.key << ' ' << slot.key;
            }
}

TEST(SlotForm, UnknownKeysAreKeptAndNamed) {
    const std::string text = R"({"plume": 1, "season": "wet", "page": [
      {"step": "lattice.rectangular", "result": "ground", "tint": 5, "show": {"glow": 1},
       "slots": {"colums": "= 4", "rows": "= 3"}},
      {"step": "attractors.points", "result": "perches",
       "slots": {"places": [{"name": "p", "x": 5, "y": "= 2 m", "height": 3}]}}]})";
    const auto study = study_from_text(text);
    ASSERT_TRUE(study) << sentence(study.error());
    EXPECT_EQ(unknown_parts(**study).size(), 1U);
    EXPECT_NE(unknown_parts(**study).front().find("‘season’"), std::string::npos);
    const Evaluation evaluation = test::run(*study);
    EXPECT_EQ(evaluation.problem_count(), 0U);
    std::string said;
    for (const Remark& remark : evaluation.outcome("ground")->remarks)
        said += remark.text + '\n';
    EXPECT_NE(said.find("‘colums’ is no part of this step; did you mean ‘columns’?"), std::string::npos)
        << said;
    EXPECT_NE(said.find("‘tint’"), std::string::npos) << said;
    EXPECT_NE(said.find("‘glow’"), std::string::npos) << said;
    ASSERT_EQ(evaluation.outcome("perches")->remarks.size(), 1U);
    EXPECT_NE(evaluation.outcome("perches")->remarks.front().text.find("‘height’"), std::string::npos);
    const Vec3 at = std::get<Attractors>(value_of(evaluation, "perches")).items().front().position;
    EXPECT_EQ(at.x, 5);
    EXPECT_EQ(at.y, 2);
    const std::string saved = study_to_text(**study);
    for (const char* kept :
         {"\"season\": \"wet\"", "\"tint\": 5", "\"glow\": 1", "\"colums\": \"= 4\"", "\"height\": 3"})
        EXPECT_NE(saved.find(kept), std::string::npos) << kept << '\n' << saved;
    EXPECT_TRUE(same(**study, **study_from_text(saved)));
}

TEST(SlotForm, ValuesOfOddFormsSurviveSaving) {
    const auto study = study_from_text(R"({"plume": 1, "page": [{"step": "lattice.rectangular", "result": "g",
        "slots": {"columns": {"later": [1, {"x": 2}]}, "rows": null}}]})");
    ASSERT_TRUE(study);
    const std::string saved = study_to_text(**study);
    EXPECT_NE(saved.find("\"later\""), std::string::npos) << saved;
    EXPECT_NE(saved.find("\"rows\": null"), std::string::npos) << saved;
    EXPECT_TRUE(same(**study, **study_from_text(saved)));
}

TEST(SlotForm, AKeyThatStandsTwiceIsAnErrorOfItsStepUntilItIsSetAnew) {
    const auto study = study_from_text(R"({"plume": 1, "page": [
      {"step": "lattice.rectangular", "result": "ground", "slots": {"columns": "= 4", "columns": "= 5"}},
      {"step": "lattice.rectangular", "result": "other", "slots": {}}]})");
    ASSERT_TRUE(study);
    const Error error = error_of(test::run(*study), "ground");
    EXPECT_EQ(error.where, "‘columns’");
    EXPECT_NE(error.message.find("twice"), std::string::npos);
    EXPECT_EQ(test::run(*study).problem_count(), 1U);
    EXPECT_NE(study_to_text(**study).find("= 5"), std::string::npos);  // nothing is lost
    const Edited mended = set_slot(**study, (*study)->step("ground")->id, "columns", NumberText{"7"});
    ASSERT_TRUE(mended);
    EXPECT_EQ(std::get<PointLattice>(value_of(test::run(*mended), "ground")).counts()[0], 8U);
    // Where no step can say it the study is not opened.
    const auto twice = study_from_text(R"({"plume": 1, "title": "a", "title": "b"})");
    EXPECT_EQ(twice.error().code, ErrorCode::file_damaged);
    EXPECT_NE(sentence(twice.error()).find("‘title’ twice"), std::string::npos) << sentence(twice.error());
}

TEST(SlotForm, ResultNamesThatCannotBeReadAreErrorsOfTheirSteps) {
    for (const char* name : {"x", "field", "e", "m", "a b", "", "count_i", "sin"}) {
        const auto study = study_from_text(R"({"plume": 1, "page": [
          {"step": "lattice.rectangular", "result": ")" +
                                           std::string(name) + R"("},
          {"step": "lattice.rectangular", "result": "good"}]})");
        ASSERT_TRUE(study) << name;
        const Evaluation evaluation = test::run(*study);
        EXPECT_EQ(error_of(evaluation, name).code, ErrorCode::bad_name) << name;
        EXPECT_EQ(error_of(evaluation, name).mend, "Rename this result.");
        EXPECT_EQ(evaluation.outcome("good")->state, StepState::done);
        EXPECT_FALSE(rename_step(**study, (*study)->step("good")->id, name)) << name;
    }
}

TEST(SlotForm, NoPresetResultNameIsOneThatCannotBeRead) {
    for (const StepKind& kind : standard_catalogue().kinds())
        EXPECT_TRUE(check_result_name(kind.result_name)) << kind.key;
}

// The names kept free are those that formulas on points do read by themselves.
TEST(SlotForm, NamesOfPointPartsAreThoseThatFormulasRead) {
    for (const FormulaInput& input : site_on_lattice(test::grid(2, 2)).inputs)
        EXPECT_TRUE(is_point_part(input.name)) << input.name;
}

TEST(SlotForm, VersionsAreWholeNumbers) {
    for (const char* version : {"1.5", "1e30", "-1", "0", "\"1\"", "null"}) {
        const auto study = study_from_text(std::string("{\"plume\": ") + version + "}");
        ASSERT_FALSE(study) << version;
        EXPECT_NE(sentence(study.error()), "") << version;
    }
    EXPECT_EQ(study_from_text(R"({"plume": 1e30})").error().code, ErrorCode::file_newer);
    EXPECT_NE(sentence(study_from_text(R"({"plume": 1.5})").error()).find("1.5"), std::string::npos);
}

// A step that waits names the step that has the error, however far above it stands.
TEST(Words, AWaitingStepNamesTheCause) {
    test::StudyMaker maker = test::canopy();
    maker.number("lattice", "columns", "2.5");
    const Evaluation evaluation = test::run(maker.study);
    EXPECT_EQ(sentence(error_of(evaluation, "roof")),
              "‘lattice’ has an error, and ‘pushed’ waits for it. Mend that step first.");
    EXPECT_EQ(sentence(error_of(evaluation, "reach")),
              "‘lattice’ has no result to read. Mend that step first.");
    EXPECT_EQ(evaluation.outcome("roof")->cause, maker.study->step("lattice")->id);
}

TEST(Words, AnUnknownWordIsAnsweredWithTheWords) {
    const Error error = error_of(lattice_with(R"("plane": "sideways")"), "ground");
    EXPECT_EQ(error.mend, "Choose xy, xz, yz or placed.");
}

TEST(Words, KindsStandWithTheirArticle) {
    test::StudyMaker maker = test::canopy();
    maker.add("skin", "again");
    maker.set("again", "points", ResultName{"roof"});
    EXPECT_EQ(error_of(test::run(maker.study), "again").message, "holds a surface");
}

TEST(Words, OnePointAndOneBay) {
    EXPECT_EQ(arrangement_text(test::grid(1, 1)), "1 × 1 point");
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {2, 1, 1};
    parts.x = parts.y = parts.z = Doubles{0, 1};
    EXPECT_EQ(arrangement_text(*PointLattice::make(parts)), "2 points, 1 bay");
}

// A step that throws, and one that looks into a result that was refused.
TEST(Guarded, NothingThatAStepThrowsLeavesIt) {
    StepKind throws;
    throws.key = "test.throws";
    throws.sentence = "Throw.";
    throws.results = {Kind::points};
    StepKind refused = throws, lost = throws, estimating = throws;
    throws.make = [](const Inputs&, const plume::Run&) -> Result<Value> {
        throw std::runtime_error("a library's");
    };
    refused.key = "test.refused";
    refused.make = [](const Inputs&, const plume::Run&) -> Result<Value> {
        return Value(std::get<Mesh>(Value(Quantity{1, plain_number})));
    };
    lost.key = "test.lost";
    lost.make = [](const Inputs&, const plume::Run&) -> Result<Value> { throw std::bad_alloc(); };
    estimating.key = "test.estimating";
    estimating.estimate = [](const Inputs&) -> Estimate { throw std::length_error("too long"); };
    estimating.make = lost.make;
    const Catalogue catalogue({throws, refused, lost, estimating});
    Study study;
    for (const StepKind& kind : catalogue.kinds()) {
        Step step;
        step.id = study.next_id++;
        step.kind = kind.key;
        step.name = kind.key.substr(5);
        study.items.emplace_back(std::make_shared<const Step>(step));
    }
    EvaluationPlan plan;
    plan.catalogue = &catalogue;
    const Evaluation evaluation = evaluate(std::make_shared<const Study>(study), plan, plume::Run());
    EXPECT_EQ(error_of(evaluation, "throws").code, ErrorCode::broke_off);
    EXPECT_NE(error_of(evaluation, "throws").message.find("a library's"), std::string::npos);
    EXPECT_EQ(error_of(evaluation, "refused").code, ErrorCode::broke_off);
    EXPECT_EQ(error_of(evaluation, "lost").code, ErrorCode::out_of_memory);
    EXPECT_EQ(error_of(evaluation, "estimating").code, ErrorCode::broke_off);
}

TEST(Guarded, WhatIsScaledOutOfReachIsRefusedByItsStep) {
    test::StudyMaker maker;
    maker.add("points.typed", "ends");
    maker.set("ends", "rows", Lines{"0, 0, 0\n1e140, 0, 0"}).word("ends", "arrangement", "row");
    maker.add("curve.join", "line");
    std::string last = "line";
    for (int round = 0; round < 15; ++round) {
        const std::string name = "s" + std::to_string(round);
        maker.add("thing.scale", name);
        maker.set(name, "thing", ResultName{last}).number(name, "factor", "1e12");
        last = name;
    }
    const Evaluation evaluation = test::run(maker.study);
    EXPECT_EQ(evaluation.outcome("s0")->state, StepState::done);
    EXPECT_EQ(evaluation.outcome("s12")->state, StepState::done);
    EXPECT_FALSE(evaluation.outcome(last)->value);
    std::size_t failed = 0;
    for (const auto& [id, outcome] : evaluation.outcomes)
        if (outcome.state == StepState::failed) {
            ++failed;
            EXPECT_EQ(outcome.error->code, ErrorCode::broken_invariant);
            EXPECT_NE(outcome.error->message.find("not finite"), std::string::npos);
        }
    EXPECT_EQ(failed, 1U);
}

// Every kind of value moved out of reach: refused or done, never thrown.
TEST(Guarded, EveryKindOfValueIsRefusedOrMovedOutOfReach) {
    const Affine far = scaled_about({}, {1e308, 1e308, 1e308});
    test::StudyMaker maker = test::canopy();
    maker.add("curve.join", "lines");
    maker.add("placement.on_lattice", "placements");
    const Evaluation evaluation = test::run(maker.study);
    std::size_t seen = 0;
    for (const auto& [id, outcome] : evaluation.outcomes) {
        if (!outcome.value) continue;
        ++seen;
        const Result<Value> moved = transformed(*outcome.value, composed(far, far));
        EXPECT_TRUE(moved || !moved.error().message.empty());
    }
    EXPECT_GE(seen, 7U);
}

}  // namespace
}  // namespace plume
