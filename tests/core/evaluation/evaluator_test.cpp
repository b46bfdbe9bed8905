#include <cmath>
#include <map>

#include "core/exchange/study_file.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::canopy;
using test::error_of;
using test::run;
using test::StudyMaker;
using test::value_of;

TEST(Evaluator, TheCanopyFromItsPresets) {
    const Evaluation evaluation = run(canopy().study);
    const auto lattice = std::get<PointLattice>(value_of(evaluation, "lattice"));
    EXPECT_EQ(lattice.counts()[0], 25U);
    EXPECT_EQ(lattice.point(0), (Vec3{-18, -12, 0}));
    EXPECT_EQ(lattice.point(lattice.address_count() - 1), (Vec3{18, 12, 0}));
    const auto rise = std::get<FieldOnPoints>(value_of(evaluation, "rise"));
    EXPECT_EQ(rise.field().dimension, a_length);
    const auto pushed = std::get<PointLattice>(value_of(evaluation, "pushed"));
    EXPECT_DOUBLE_EQ(pushed.bounds().high.z, 3.2);
    EXPECT_EQ(pushed.bounds().low.z, 0);
    EXPECT_EQ(kind_of(value_of(evaluation, "roof")), Kind::surface);
    EXPECT_EQ(evaluation.problem_count(), 0U);
}

// The whole chain against an independent calculation, point by point.
TEST(Evaluator, TheCanopyAgreesWithAPlainCalculation) {
    StudyMaker maker = canopy();
    maker.word("reach", "response", "half_sine")
        .number("reach", "reach", "14 m")
        .number("pushed", "factor", "0.65");
    const auto pushed = std::get<PointLattice>(value_of(run(maker.study), "pushed"));
    std::vector<double> raw;
    for (int j = 0; j < 17; ++j)
        for (int i = 0; i < 25; ++i) {
            const double x = -18 + 1.5 * i, y = -12 + 1.5 * j;
            const double d = std::min(std::hypot(x + 6, y + 3), std::hypot(x - 7, y - 4));
            raw.push_back(0.5 - 0.5 * std::cos(std::acos(-1.0) * std::min(d / 14, 1.0)));
        }
    const auto [low, high] = std::ranges::minmax(raw);
    for (std::size_t index = 0; index < raw.size(); ++index)
        EXPECT_NEAR(pushed.z()[index], (raw[index] - low) / (high - low) * 3.2 * 0.65, 1e-13);
}

TEST(Evaluator, LatticePlanesOriginsAndSpacing) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "a");
    maker.number("a", "columns", "4")
        .number("a", "rows", "2")
        .word("a", "sizing", "spaced")
        .number("a", "pitch_u", "2 m")
        .number("a", "pitch_v", "50 cm")
        .word("a", "origin", "corner");
    const auto last = [&](const char* plane) {
        maker.word("a", "plane", plane);
        const auto lattice = std::get<PointLattice>(value_of(run(maker.study), "a"));
        return lattice.point(lattice.address_count() - 1);
    };
    EXPECT_EQ(last("xy"), (Vec3{8, 1, 0}));
    EXPECT_EQ(last("xz"), (Vec3{8, 0, 1}));
    EXPECT_EQ(last("yz"), (Vec3{0, 8, 1}));
}

TEST(Evaluator, BadNumbersNameTheirSlotAndMend) {
    const struct {
        const char *slot, *text;
        ErrorCode code;
    } cases[] = {{"columns", "0", ErrorCode::out_of_range},    {"columns", "-3", ErrorCode::out_of_range},
                 {"columns", "2.5", ErrorCode::bad_number},    {"columns", "1e10", ErrorCode::out_of_range},
                 {"columns", "", ErrorCode::syntax},           {"columns", "3 m", ErrorCode::unit_mismatch},
                 {"columns", "bayz", ErrorCode::unknown_name}, {"width", "0", ErrorCode::out_of_range},
                 {"width", "-1 m", ErrorCode::out_of_range},   {"width", "30°", ErrorCode::unit_mismatch},
                 {"width", "sqrt(-1)", ErrorCode::not_finite}, {"width", "1e200", ErrorCode::out_of_range},
                 {"width", "1/0", ErrorCode::division_by_zero}};
    for (const auto& c : cases) {
        StudyMaker maker = canopy();
        maker.number("lattice", c.slot, c.text);
        const Evaluation evaluation = run(maker.study);
        const Error& error = error_of(evaluation, "lattice");
        EXPECT_EQ(error.code, c.code) << c.slot << " = " << c.text << ": " << sentence(error);
        EXPECT_EQ(error.where, standard_catalogue().find("lattice.rectangular")->slot(c.slot)->label);
        EXPECT_FALSE(error.mend.empty());
        EXPECT_TRUE(evaluation.outcome("perches")->value) << "what does not read it still runs";
        EXPECT_EQ(evaluation.outcome("roof")->state, StepState::blocked);
        EXPECT_EQ(evaluation.problem_count(), 1U) << "blocked steps are not counted again";
    }
}

TEST(Evaluator, AttractorOnAPointAndFarAway) {
    StudyMaker maker = canopy();
    maker.set("perches", "places",
              Places{{"on a point", "0", "0", "0", "1"}, {"far", "1e11", "0", "0", "1"}});
    for (const char* response :
         {"distance", "straight", "half_sine", "smooth_step", "inverse", "inverse_square", "bell"})
        for (const char* combination : {"nearest", "average", "sum", "product"}) {
            maker.word("reach", "response", response).word("reach", "combination", combination);
            const Evaluation evaluation = run(maker.study);
            const auto field = std::get<FieldOnPoints>(value_of(evaluation, "reach"));
            for (const double value : field.field().values.span())
                ASSERT_TRUE(std::isfinite(value)) << response << " " << combination;
        }
}

TEST(Evaluator, AttractorAtInfinityAndNoAttractor) {
    StudyMaker maker = canopy();
    maker.set("perches", "places", Places{{"lost", "1e999", "0", "0", "1"}});
    EXPECT_EQ(error_of(run(maker.study), "perches").code, ErrorCode::bad_number);
    maker.set("perches", "places", Places{{"lost", "1e300", "0", "0", "1"}});
    const Error error = error_of(run(maker.study), "perches");
    EXPECT_EQ(error.code, ErrorCode::out_of_range);
    EXPECT_EQ(error.where, "x of ‘lost’");
    maker.set("perches", "places", Places{{"light", "0", "0", "0", "0"}});
    EXPECT_EQ(error_of(run(maker.study), "perches").where, "‘light’");
    maker.set("perches", "places", Places{});
    EXPECT_EQ(error_of(run(maker.study), "perches").code, ErrorCode::empty_input);
}

TEST(Evaluator, OneBayIsTheSmallestSkin) {
    StudyMaker maker = canopy();
    maker.number("lattice", "columns", "1").number("lattice", "rows", "1");
    EXPECT_EQ(run(maker.study).problem_count(), 0U);
}

TEST(Evaluator, ReferencesThatCannotBeRead) {
    StudyMaker maker = canopy();
    const auto code = [&](const char* name) {
        maker.set("pushed", "points", ResultName{name});
        return error_of(run(maker.study), "pushed").code;
    };
    EXPECT_EQ(code(""), ErrorCode::missing_input);
    EXPECT_EQ(code("nothing"), ErrorCode::missing_input);
    EXPECT_EQ(code("roof"), ErrorCode::reads_below);
    EXPECT_EQ(code("pushed"), ErrorCode::reads_below) << "a step cannot read itself";
    EXPECT_EQ(code("perches"), ErrorCode::wrong_kind);
}

// Two steps that read one another can only come from a file edited by hand.
TEST(Evaluator, ACycleInAFileIsAnErrorOnItsSteps) {
    std::string text = study_to_text(*canopy().study);
    const std::string reads_lattice = "\"points\": {\"result\": \"lattice\"}";
    const std::size_t at = text.find(reads_lattice, text.find("field.distance"));
    text.replace(at, reads_lattice.size(), "\"points\": {\"result\": \"pushed\"}");
    const Evaluation evaluation = run(*study_from_text(text));
    EXPECT_EQ(error_of(evaluation, "reach").code, ErrorCode::reads_below);
    EXPECT_EQ(evaluation.outcome("pushed")->state, StepState::blocked);
    EXPECT_TRUE(evaluation.outcome("lattice")->value);
}

TEST(Evaluator, UnlikeArrangementsAreExplained) {
    StudyMaker maker = canopy();
    maker.add("lattice.rectangular", "other");
    maker.number("other", "columns", "3");
    maker.add("points.push", "wrong");
    maker.set("wrong", "points", ResultName{"other"}).set("wrong", "amount", ResultName{"rise"});
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(error_of(evaluation, "wrong").code, ErrorCode::unlike_arrangement);
    EXPECT_NE(sentence(error_of(evaluation, "wrong")).find("25 × 17"), std::string::npos);
}

TEST(Evaluator, MutedStepsPassOnWhatTheyRead) {
    StudyMaker maker = canopy();
    maker.study = *set_muted(*maker.study, maker.study->step("pushed")->id, true);
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(evaluation.outcome("pushed")->state, StepState::muted);
    EXPECT_EQ(std::get<PointLattice>(value_of(evaluation, "pushed")).bounds().high.z, 0);
    EXPECT_TRUE(evaluation.outcome("roof")->value);
    maker.study = *set_muted(*maker.study, maker.study->step("lattice")->id, true);
    EXPECT_EQ(error_of(run(maker.study), "reach").code, ErrorCode::input_muted);
}

TEST(Evaluator, UnknownKindsAndClashingNamesStayLocal) {
    StudyMaker maker = canopy();
    auto spoiled = std::make_shared<Study>(*maker.study);
    Step strange = *maker.study->step("perches");
    strange.kind = "from.the.future";
    spoiled->items[1] = std::make_shared<const Step>(strange);
    Step twin = *maker.study->step("pushed");
    twin.id = 99;
    spoiled->items.emplace_back(std::make_shared<const Step>(twin));
    const Evaluation evaluation = run(spoiled);
    EXPECT_EQ(error_of(evaluation, "perches").code, ErrorCode::unknown_step_kind);
    EXPECT_EQ(evaluation.outcome(ItemId{99})->error->code, ErrorCode::name_clash);
    EXPECT_TRUE(evaluation.outcome("lattice")->value);
}

TEST(Evaluator, FortyThousandByFortyThousandIsAskedAboutNotAttempted) {
    StudyMaker maker = canopy();
    maker.number("lattice", "columns", "40000").number("lattice", "rows", "40000");
    Budget budget;
    budget.machine_bytes = 1e12;
    const Evaluation evaluation = run(maker.study, budget);
    EXPECT_EQ(evaluation.outcome("lattice")->state, StepState::asks);
    EXPECT_EQ(error_of(evaluation, "lattice").code, ErrorCode::over_budget);
    EXPECT_NE(error_of(evaluation, "lattice").message.find("38.4 GB"), std::string::npos)
        << error_of(evaluation, "lattice").message;
    budget.machine_bytes = 24e9;
    EXPECT_EQ(error_of(run(maker.study, budget), "lattice").code, ErrorCode::out_of_memory);
}

TEST(Evaluator, PermissionLetsAStepThrough) {
    Budget budget;
    budget.bytes = 100;
    StudyMaker maker;
    maker.add("lattice.rectangular", "lattice");
    const Evaluation asking = run(maker.study, budget);
    ASSERT_EQ(asking.outcome("lattice")->state, StepState::asks);
    budget.permitted.insert(asking.outcome("lattice")->key);
    EXPECT_EQ(run(maker.study, budget).outcome("lattice")->state, StepState::done);
    maker.number("lattice", "rows", "17");
    EXPECT_EQ(run(maker.study, budget).outcome("lattice")->state, StepState::asks)
        << "permission is for that very step";
}

TEST(Evaluator, CacheGivesTheSameValueAndNamesWhatChanged) {
    ResultStore cache(1'000'000'000);
    StudyMaker maker = canopy();
    const Evaluation first = run(maker.study, {}, &cache);
    const Evaluation again = run(maker.study, {}, &cache);
    for (const auto& [id, outcome] : again.outcomes) {
        EXPECT_TRUE(outcome.from_cache);
        EXPECT_EQ(outcome.value, first.outcome(id)->value);
    }
    maker.number("rise", "high_length", "2 m");
    const Evaluation changed = run(maker.study, {}, &cache);
    for (const char* same : {"lattice", "perches", "reach"})
        EXPECT_TRUE(changed.outcome(same)->from_cache) << same;
    for (const char* other : {"rise", "pushed", "roof"})
        EXPECT_FALSE(changed.outcome(other)->from_cache) << other;
}

// What is written differently but comes to the same is the same result.
TEST(Evaluator, KeysFollowTheContentNotTheText) {
    ResultStore cache(1'000'000'000);
    StudyMaker maker = canopy();
    maker.control("wide", 36, "m");
    run(maker.study, {}, &cache);
    maker.number("lattice", "width", "wide * 1");
    EXPECT_TRUE(run(maker.study, {}, &cache).outcome("lattice")->from_cache);
    maker.number("lattice", "pitch_u", "99 m");
    EXPECT_TRUE(run(maker.study, {}, &cache).outcome("lattice")->from_cache)
        << "a slot the sentence does not show";
}

TEST(Evaluator, CachedAndFreshAgree) {
    ResultStore cache(1'000'000'000);
    StudyMaker maker = canopy();
    for (int round = 0; round < 5; ++round) {
        maker.number("reach", "response", "x")
            .word("reach", "response", round % 2 == 0 ? "bell" : "straight");
        maker.number("pushed", "factor", std::to_string(round));
        const auto cached = std::get<PointLattice>(value_of(run(maker.study, {}, &cache), "pushed"));
        const auto fresh = std::get<PointLattice>(value_of(run(maker.study), "pushed"));
        for (std::size_t index = 0; index < fresh.address_count(); ++index)
            ASSERT_EQ(cached.point(index), fresh.point(index));
    }
}

TEST(Evaluator, CancelledInTheMiddleKeepsWhatWasDone) {
    const plume::Run run;
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.before_step = [&](const Step& step, std::size_t, std::size_t) {
        if (step.name == "rise") run.cancel();
    };
    const Evaluation evaluation = evaluate(canopy().study, plan, run);
    EXPECT_TRUE(evaluation.cancelled);
    EXPECT_TRUE(evaluation.outcome("reach")->value);
    EXPECT_EQ(evaluation.outcome("rise")->state, StepState::cancelled);
    EXPECT_EQ(evaluation.outcome("roof")->state, StepState::cancelled);
}

TEST(Evaluator, WorkThatWasStoppedIsAboutNoSlot) {
    const StudyMaker maker = canopy();
    std::vector<StepKind> kinds(standard_catalogue().kinds().begin(), standard_catalogue().kinds().end());
    StepKind& kind = *std::ranges::find(kinds, maker.study->step("rise")->kind, &StepKind::key);
    const std::string read = kind.slots.front().key;
    for (const std::string& slot : {std::string(), read}) {
        kind.make = [&](const Inputs&, const plume::Run& run) -> Result<Value> {
            run.cancel();
            return about_slot(cancelled_error(), slot);
        };
        const Catalogue catalogue(kinds);
        EvaluationPlan plan;
        plan.catalogue = &catalogue;
        const Evaluation evaluation = evaluate(maker.study, plan, plume::Run());
        ASSERT_TRUE(evaluation.outcome("rise")->error);
        EXPECT_EQ(sentence(*evaluation.outcome("rise")->error), sentence(cancelled_error()));
        EXPECT_EQ(evaluation.outcome("rise")->error->slot, "");
    }
}

TEST(Evaluator, ControlsAreReadInTheirUnits) {
    StudyMaker maker = canopy();
    maker.control("swell", 250, "cm");
    maker.number("rise", "high_length", "swell");
    EXPECT_DOUBLE_EQ(std::get<PointLattice>(value_of(run(maker.study), "pushed")).bounds().high.z, 2.5);
    maker.number("lattice", "columns", "swell");
    EXPECT_EQ(error_of(run(maker.study), "lattice").code, ErrorCode::unit_mismatch);
}

TEST(Evaluator, PushAlongNormalsOfAnUprightLattice) {
    StudyMaker maker = canopy();
    maker.word("lattice", "plane", "xz").word("pushed", "direction", "normal");
    const auto pushed = std::get<PointLattice>(value_of(run(maker.study), "pushed"));
    EXPECT_NEAR(pushed.bounds().low.y, -3.2, 1e-12) << "x cross z points along -y";
}

// Whatever a reference accepts, the step answers: a result or an error with a mend, of every kind of value.
TEST(Evaluator, EveryStepTakesEveryKindItAccepts) {
    StudyMaker sources = canopy();
    sources.add("curve.formula", "curves");
    sources.add("mesh.tube", "tube");
    sources.add("directions.attractors", "flow");
    sources.add("placement.frame", "placement");
    sources.add("outline.shape", "outline");
    sources.add("body.extrude", "blocks");
    sources.set("blocks", "curve", ResultName{"outline"});
    sources.add("frame.lattice", "net");
    const std::map<Kind, std::string> of_kind{{Kind::points, "lattice"},     {Kind::field, "rise"},
                                              {Kind::attractors, "perches"}, {Kind::mesh, "tube"},
                                              {Kind::surface, "roof"},       {Kind::curves, "curves"},
                                              {Kind::directions, "flow"},    {Kind::placements, "placement"},
                                              {Kind::bodies, "blocks"},      {Kind::frame, "net"}};
    int tried = 0;
    for (const StepKind& kind : standard_catalogue().kinds())
        for (const SlotSpec& slot : kind.slots) {
            if (slot.type != SlotType::reference) continue;
            for (const Kind accepted : slot.accepts) {
                StudyMaker maker = sources;
                maker.add(kind.key, "tried");
                maker.set("tried", slot.key, ResultName{of_kind.at(accepted)});
                const Evaluation evaluation = run(maker.study);
                const Outcome& outcome = *evaluation.outcome("tried");
                EXPECT_TRUE(outcome.value || !outcome.error->mend.empty()) << kind.key << " " << slot.key;
                ++tried;
            }
        }
    EXPECT_GT(tried, 15);
}

}  // namespace
}  // namespace plume
