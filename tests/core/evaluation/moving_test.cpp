// Studies whose controls, places and cameras have keys; moments that a step keeps; what moves.

#include "core/study/moving.hpp"

#include "core/evaluation/recipe.hpp"
#include "core/exchange/study_file.hpp"
#include "core/study/edits/edit_keys.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

StudyPointer read(const std::string& page, const std::string& head = {}) {
    const auto study = study_from_text(R"({"plume": 1, )" + head + R"("page": [)" + page + "]}");
    EXPECT_TRUE(study) << sentence(study.error());
    return std::make_shared<const Study>(in_form(**study, standard_catalogue()));
}

const std::string swell = R"("controls": [{"name": "swell", "least": 0, "most": 10, "unit": "m", "keys": [
  {"at": 0, "value": 1, "easing": "straight"}, {"at": 2, "value": 5}]}], )";
const std::string ground =
    R"({"step": "lattice.rectangular", "result": "ground", "slots": {"columns": 2, "rows": 1, "width": "2 m"}})";

// ground, wide (its width is the control), risen (its height is time), and two that keep them at 1 s.
StudyPointer moving_study() {
    return read(ground + R"(,
      {"step": "lattice.rectangular", "result": "wide", "slots": {"columns": 2, "rows": 1, "width": "= swell"}},
      {"step": "points.move_formula", "result": "risen", "slots": {"points": {"result": "wide"}, "formula": "to_z = 1 m * time"}},
      {"step": "time.keep", "result": "kept", "slots": {"thing": {"result": "risen"}, "seconds": 1}},
      {"step": "field.formula", "result": "span", "slots": {"points": {"result": "kept"}, "formula": "x"}})",
                swell);
}

class Moving : public testing::Test {
protected:
    Evaluation at(const StudyPointer& study, double seconds) {
        EvaluationPlan plan;
        plan.catalogue = &standard_catalogue();
        plan.store = &store_;
        plan.moment = moment_at(study->time, seconds);
        return evaluate(study, plan, plume::Run());
    }
    static double width_of(const Evaluation& evaluation, const char* name) {
        const Box box = lattice_of(test::value_of(evaluation, name))->bounds();
        return box.high.x - box.low.x;
    }
    ResultStore store_{100'000'000};
};

TEST_F(Moving, ControlsWithKeysAreReadAsTheyAreThen) {
    const StudyPointer study = moving_study();
    EXPECT_DOUBLE_EQ(width_of(at(study, 0), "wide"), 1);
    EXPECT_DOUBLE_EQ(width_of(at(study, 1), "wide"), 3);
    EXPECT_DOUBLE_EQ(width_of(at(study, 9), "wide"), 5);
    EXPECT_EQ(at(study, 1).moment.frame, 30U);
    EXPECT_TRUE(at(study, 1).outcome("ground")->from_cache);
}

TEST_F(Moving, PlacesWithKeysMoveWhatReadsThem) {
    const StudyPointer study =
        read(R"({"step": "attractors.points", "result": "perches", "slots": {"places": [
        {"name": "heron", "x": "0", "y": "0", "z": "0", "keys": [
          {"at": 0, "x": "1 m", "easing": "straight"}, {"at": 4, "x": "9 m", "z": "4 m"}]}]}},)" +
             ground +
             R"(, {"step": "field.distance", "result": "near", "slots": {
        "points": {"result": "ground"}, "attractors": {"result": "perches"}}})");
    const auto heron = [&](double seconds) {
        const Evaluation evaluation = at(study, seconds);
        EXPECT_TRUE(evaluation.outcome("near")->value);
        return std::get<Attractors>(test::value_of(evaluation, "perches")).items()[0].position;
    };
    EXPECT_EQ(heron(0), (Vec3{1, 0, 0}));
    EXPECT_EQ(heron(1), (Vec3{3, 0, 1}));
    EXPECT_EQ(heron(60), (Vec3{9, 0, 4}));
    EXPECT_NE(at(study, 0).outcome("near")->key, at(study, 1).outcome("near")->key);
}

TEST_F(Moving, AMomentIsKeptWhateverMomentIsLookedAt) {
    const StudyPointer study = moving_study();
    for (const double seconds : {0.0, 1.0, 5.0}) {
        const Evaluation evaluation = at(study, seconds);
        EXPECT_EQ(evaluation.problem_count(), 0U);
        EXPECT_DOUBLE_EQ(width_of(evaluation, "kept"), 3);
        EXPECT_DOUBLE_EQ(lattice_of(test::value_of(evaluation, "kept"))->point(0).z, 1);
        EXPECT_DOUBLE_EQ(width_of(evaluation, "span"), 3);
    }
    EXPECT_EQ(at(study, 0).outcome("kept")->key, at(study, 1).outcome("risen")->key);
    EXPECT_TRUE(at(study, 4).outcome("span")->from_cache) << "it stands still";
    // In another session, from the file, without anything kept.
    ResultStore empty(100'000'000);
    const auto again = study_from_text(study_to_text(*study));
    const Evaluation anew = test::run(*again, {}, &empty);
    EXPECT_EQ(anew.outcome("kept")->key, at(study, 0).outcome("kept")->key);
}

TEST_F(Moving, AKeptMomentCanItselfMove) {
    StudyPointer study = moving_study();
    study = *set_slot(*study, study->step("kept")->id, "seconds", NumberText{"time / 2"});
    EXPECT_DOUBLE_EQ(width_of(at(study, 2), "kept"), 3);
    EXPECT_DOUBLE_EQ(width_of(at(study, 4), "kept"), 5);
    EXPECT_TRUE(moving_steps(*study, standard_catalogue()).contains(study->step("span")->id));
}

TEST_F(Moving, WhatMovesIsToldFromWhatStands) {
    const StudyPointer study = moving_study();
    const std::set<ItemId> moving = moving_steps(*study, standard_catalogue());
    EXPECT_EQ(moving, (std::set<ItemId>{study->step("wide")->id, study->step("risen")->id}));
    EXPECT_TRUE(follows_time(*study, standard_catalogue(), *study->step("risen")));
    EXPECT_FALSE(follows_time(*study, standard_catalogue(), *study->step("kept")));
    EXPECT_TRUE(moves(*study, standard_catalogue()));
    EXPECT_FALSE(moves(*read(ground), standard_catalogue()));
    // A control called time is a control.
    const StudyPointer own =
        read(R"({"step": "lattice.rectangular", "result": "wide", "slots": {"width": "= time"}})",
             R"("controls": [{"name": "time", "value": 2, "least": 0, "most": 9, "unit": "m"}], )");
    EXPECT_FALSE(moves(*own, standard_catalogue()));
    EXPECT_DOUBLE_EQ(width_of(at(own, 3), "wide"), 2);
}

TEST_F(Moving, WhoseMomentWouldBeKept) {
    StudyPointer study = moving_study();
    const auto kept = [&](const char* in_hand) {
        const Step* selected = study->step(in_hand);
        const Step* step = moment_to_keep(*study, standard_catalogue(), selected ? selected->id : 0);
        return step ? step->name : "";
    };
    EXPECT_EQ(kept("wide"), "wide");
    EXPECT_EQ(kept("ground"), "risen") << "it stands: the last that moves";
    EXPECT_EQ(kept("kept"), "risen");
    EXPECT_EQ(kept(""), "risen");
    Show hidden = study->step("risen")->show;
    hidden.visible = false;
    study = *set_show(*study, study->step("risen")->id, hidden);
    EXPECT_EQ(kept("ground"), "wide") << "the last that is seen to";
    EXPECT_EQ(kept("risen"), "risen") << "unless it is in hand";
    study = *set_muted(*study, study->step("wide")->id, true);
    EXPECT_EQ(kept("ground"), "");
    study = read(ground);
    EXPECT_EQ(kept("ground"), "");
}

TEST_F(Moving, WhatIsSeenOfAHiddenStepIsKept) {
    StudyPointer study = read(ground + R"(,
      {"step": "points.move_formula", "result": "risen", "slots": {"points": {"result": "ground"}, "formula": "to_z = 1 m * time"}},
      {"step": "skin", "result": "cloth", "slots": {"points": {"result": "risen"}}},
      {"step": "lattice.rectangular", "result": "wide", "slots": {"columns": "= 2 * time"}})");
    const auto kept = [&](const char* in_hand) {
        return moment_to_keep(*study, standard_catalogue(), study->step(in_hand)->id)->name;
    };
    const auto hide = [&](const char* name) {
        Show hidden;
        hidden.visible = false;
        study = *set_show(*study, study->step(name)->id, hidden);
    };
    EXPECT_EQ(kept("risen"), "risen");
    hide("risen");
    EXPECT_EQ(kept("risen"), "cloth");
    EXPECT_EQ(kept("ground"), "wide");
    hide("cloth");
    EXPECT_EQ(kept("risen"), "risen");
}

TEST_F(Moving, AFormulasOwnLineMayBeCalledTime) {
    const StudyPointer study = read(ground + R"(, {"step": "field.formula", "result": "late", "slots": {
      "points": {"result": "ground"}, "formula": {"formula": ["time = 3", "late = time * 2"]}}})");
    const Evaluation evaluation = at(study, 1);
    ASSERT_TRUE(evaluation.outcome("late")->value) << sentence(*evaluation.outcome("late")->error);
    const auto field = std::get<FieldOnPoints>(test::value_of(evaluation, "late"));
    EXPECT_EQ(field.field().values[0], 6);
}

TEST_F(Moving, ErrorsOfAnotherMomentAreToldWithIt) {
    StudyPointer study = moving_study();
    study = *set_slot(*study, study->step("wide")->id, "width", NumberText{"2 m / (time - 1)"});
    const Evaluation evaluation = at(study, 0);
    EXPECT_FALSE(evaluation.outcome("wide")->value) << "negative";
    const Error error = test::error_of(evaluation, "kept");
    EXPECT_NE(error.where.find("‘risen’ at 1 s"), std::string::npos) << sentence(error);
    EXPECT_EQ(error.slot, "thing");
    EXPECT_EQ(evaluation.outcome("kept")->cause, study->step("kept")->id);
    // And the other way round: broken now, kept while it was well.
    study = *set_slot(*study, study->step("kept")->id, "seconds", NumberText{"2"});
    EXPECT_FALSE(at(study, 0).outcome("risen")->value);
    EXPECT_DOUBLE_EQ(width_of(at(study, 0), "kept"), 2);
    for (const char* wrong : {"-1", "1e9", "1 m", "no_such"}) {
        study = *set_slot(*study, study->step("kept")->id, "seconds", NumberText{wrong});
        EXPECT_EQ(test::error_of(at(study, 0), "kept").slot, "seconds") << wrong;
    }
    study = *set_slot(*study, study->step("kept")->id, "thing", ResultName{"nobody"});
    study = *set_slot(*study, study->step("kept")->id, "seconds", NumberText{"2"});
    EXPECT_EQ(test::error_of(at(study, 0), "kept").code, ErrorCode::missing_input);
}

TEST_F(Moving, TheStoreKnowsWhichMomentsItKeeps) {
    const StudyPointer study = moving_study();
    for (const std::size_t frame : {3, 0, 7})
        (void)at(study, static_cast<double>(frame) / 30);
    const auto kept = [&](const char* name) {
        return store_.kept_frames(chain_of(recipes_of(*study).at(study->step(name)->id), 30));
    };
    EXPECT_EQ(kept("risen"), (std::vector<std::size_t>{0, 3, 7, 30})) << "the last one for what keeps it";
    EXPECT_TRUE(kept("ground").empty()) << "it does not move";
    const StudyPointer other = *set_control_value(*study, "swell", 4, 2);
    EXPECT_TRUE(store_.kept_frames(chain_of(recipes_of(*other).at(other->step("risen")->id), 30)).empty());
    ResultStore narrow(1);
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.store = &narrow;
    (void)evaluate(study, plan, plume::Run());
    EXPECT_TRUE(narrow.kept_frames(chain_of(recipes_of(*study).at(study->step("risen")->id), 30)).empty());
}

TEST_F(Moving, BudgetsAreAskedForWhateverTheMoment) {
    StudyPointer study = moving_study();
    study = *set_slot(*study, study->step("wide")->id, "columns", NumberText{"1 + 100000 * floor(time)"});
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.budget.bytes = 1e5;
    plan.moment = moment_at(study->time, 0);
    const Evaluation evaluation = evaluate(study, plan, plume::Run());
    EXPECT_TRUE(evaluation.outcome("risen")->value);
    EXPECT_EQ(evaluation.outcome("kept")->state, StepState::asks);
    plan.budget.permitted.insert(evaluation.outcome("kept")->key);
    EXPECT_TRUE(evaluate(study, plan, plume::Run()).outcome("kept")->value ||
                evaluate(study, plan, plume::Run()).outcome("kept")->state == StepState::asks);
}

TEST_F(Moving, CancelledWhileAMomentIsMade) {
    const StudyPointer study = moving_study();
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    const plume::Run run;
    plan.before_step = [&](const Step& step, std::size_t, std::size_t) {
        if (step.name == "kept") run.cancel();
    };
    EXPECT_TRUE(evaluate(study, plan, run).cancelled);
}

}  // namespace
}  // namespace plume
