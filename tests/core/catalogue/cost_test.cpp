// What steps are said to cost, against what they do. Memory is counted where it is handed out, so this is a
// program of its own.

#include <gtest/gtest.h>

#include <atomic>
#include <cstdlib>
#include <fstream>
#include <new>

#include "core/base/large_memory.hpp"
#include "core/catalogue/every_kind.hpp"
#include "core/study/sentence.hpp"

namespace {

std::atomic<std::size_t> held{0}, peak{0};

// Every block begins with its size.
constexpr std::size_t head = 64;

void* counted(std::size_t bytes) {
    auto* block = static_cast<std::size_t*>(std::aligned_alloc(head, (bytes + 2 * head - 1) / head * head));
    if (!block) throw std::bad_alloc();
    *block = bytes;
    const std::size_t now = held += bytes;
    for (std::size_t most = peak; now > most && !peak.compare_exchange_weak(most, now);) {
    }
    return reinterpret_cast<char*>(block) + head;
}

void uncounted(void* place) noexcept {
    if (!place) return;
    auto* block = reinterpret_cast<std::size_t*>(static_cast<char*>(place) - head);
    held -= *block;
    std::free(block);
}

}  // namespace

void* operator new(std::size_t bytes) {
    return counted(bytes);
}
void* operator new[](std::size_t bytes) {
    return counted(bytes);
}
void operator delete(void* place) noexcept {
    uncounted(place);
}
void operator delete[](void* place) noexcept {
    uncounted(place);
}
void operator delete(void* place, std::size_t) noexcept {
    uncounted(place);
}
void operator delete[](void* place, std::size_t) noexcept {
    uncounted(place);
}

namespace plume {

void* allocate_large(std::size_t bytes) {
    return counted(bytes);
}
void free_large(void* block) noexcept {
    uncounted(block);
}

namespace {

using test::StudyMaker;

// Counts and lengths with which kinds that do not grow with what they read make much.
using Texts = std::vector<std::pair<const char*, const char*>>;
const std::map<std::string, Texts>& larger() {
    static const std::map<std::string, Texts> larger{
        {"lattice.rectangular", {{"columns", "300"}, {"rows", "300"}}},
        {"lattice.triangular", {{"columns", "300"}, {"rows", "300"}}},
        {"lattice.hexagonal", {{"columns", "200"}, {"rows", "200"}}},
        {"lattice.polar", {{"rings", "300"}, {"spokes", "300"}}},
        {"lattice.tower", {{"floors", "400"}, {"bays", "400"}}},
        {"lattice.block", {{"columns", "50"}, {"rows", "50"}, {"layers", "40"}}},
        {"lattice.scatter", {{"spacing", "40 mm"}}},
        {"lattice.along_curve", {{"bays", "90000"}}},
        {"lattice.on_surface", {{"columns", "300"}, {"rows", "300"}}},
        {"surface.measure", {{"columns", "300"}, {"rows", "300"}}},
        {"placement.on_curve", {{"bays", "20000"}}},
        {"numbers.list", {{"count", "100000"}}},
        {"lattice.formula", {{"count_1", "300"}, {"count_2", "300"}}},
        {"curve.formula", {{"tolerance", "1e-8 m"}}},
        {"curve.even", {{"bays", "20000"}}},
        {"surface.even", {{"columns", "150"}, {"rows", "120"}}},
        {"curve.comb", {{"teeth", "20000"}}},
        {"curve.blend", {{"between", "20000"}}},
        {"mesh.tube", {{"tolerance", "1 mm"}}},
        {"thing.repeat", {{"count", "8"}}},
    };
    return larger;
}

// Rounds take time and no memory.
const std::map<std::string, Texts>& shorter() {
    static const std::map<std::string, Texts> shorter{{"forces.apart", {{"rounds", "4"}}},
                                                      {"forces.lines", {{"rounds", "40"}}},
                                                      {"forces.smallest", {{"rounds", "2"}}},
                                                      {"mesh.even_edges", {{"rounds", "2"}}}};
    return shorter;
}

void enlarge_and_shorten(StudyMaker& maker, const StepKind& kind) {
    for (const auto* texts : {&larger(), &shorter()}) {
        const auto found = texts->find(kind.key);
        if (found == texts->end()) continue;
        for (const auto& [slot, text] : found->second) {
            EXPECT_TRUE(kind.slot(slot)) << kind.key << " has no " << slot;
            maker.number("subject", slot, text);
        }
    }
}

// All kinds, this one in the place of its own.
Catalogue standard_with(const StepKind& kind) {
    std::vector<StepKind> kinds(standard_catalogue().kinds().begin(), standard_catalogue().kinds().end());
    *std::ranges::find(kinds, kind.key, &StepKind::key) = kind;
    return Catalogue(std::move(kinds));
}

// The subject of the study, with every other step there already.
class Cost : public testing::Test {
protected:
    Cost() : base_(test::ground(260, 240)) {}
    StudyMaker with(const StepKind& kind) {
        StudyMaker maker = test::with_subject(base_, kind);
        enlarge_and_shorten(maker, kind);
        return maker;
    }

    StudyMaker base_;
};

class CostOfKinds : public Cost, public testing::WithParamInterface<std::string> {};

// Of every kind: what its making takes at its peak beyond what was there is what its estimate says, within a
// factor of four either way, once it is more than a megabyte.
TEST_P(CostOfKinds, IsAsEstimated) {
    ResultStore cache(2'000'000'000);
    std::size_t large = 0;
    for (const StepKind& kind : test::kinds_of(GetParam())) {
        if (test::reads_file(kind)) continue;  // their files are made in the tests of assets
        if (!kind.offered) continue;           // made of other steps, each of which has its estimate
        const StudyPointer study = test::upstream_of_subject(*with(kind).study);
        // As it is made for the first time: some keep what they put together for the next.
        double needed = 0;
        StepKind measured = kind;
        measured.make = [&](const Inputs& in, const plume::Run& run) {
            const std::size_t before = held;
            peak = before;
            Result<Value> made = kind.make(in, run);
            needed = static_cast<double>(peak - before);
            return made;
        };
        const Catalogue catalogue = standard_with(measured);
        EvaluationPlan plan;
        plan.catalogue = &catalogue;
        plan.store = &cache;
        const Evaluation evaluation = evaluate(study, plan, plume::Run());
        const Outcome& outcome = *evaluation.outcome("subject");
        ASSERT_EQ(outcome.state, StepState::done)
            << kind.key << ": " << (outcome.error ? sentence(*outcome.error) : std::string());
        const auto& inputs = outcome.inputs;
        ASSERT_TRUE(inputs) << kind.key;
        const Estimate estimate = kind.estimate ? kind.estimate(*inputs) : Estimate{};
        EXPECT_TRUE(needed >= 1e6 || !larger().contains(kind.key)) << kind.key << " makes little";
        if (needed < 1e6) continue;
        ++large;
        EXPECT_GE(estimate.bytes * 4, needed)
            << kind.key << " takes " << needed << ", is said to take " << estimate.bytes;
        EXPECT_LE(estimate.bytes, needed * 4)
            << kind.key << " takes " << needed << ", is said to take " << estimate.bytes;
    }
    static const std::map<std::string, std::size_t> least{{"lattice", 10}, {"curve", 15}, {"frame", 10}};
    if (const auto found = least.find(GetParam()); found != least.end()) {
        EXPECT_GE(large, found->second);
    }
}

INSTANTIATE_TEST_SUITE_P(Every, CostOfKinds, testing::ValuesIn(test::families()), test::family_name);

// What could be reached unasked: each asks or refuses before it is tried.
TEST_F(Cost, WhatWouldExhaustTheMachineIsAskedAboutFirst) {
    const struct {
        const char *kind, *slot, *text;
    } cases[] = {{"lattice.rectangular", "columns", "1e9"}, {"lattice.along_curve", "bays", "1e9"},
                 {"placement.on_curve", "bays", "1e8"},     {"thing.repeat", "count", "1e6"},
                 {"numbers.list", "count", "1e9"},          {"lattice.on_surface", "columns", "1e8"},
                 {"surface.measure", "columns", "1e8"}};
    ResultStore cache(2'000'000'000);
    for (const auto& c : cases) {
        StudyMaker maker = with(*standard_catalogue().find(c.kind));
        maker.number("subject", c.slot, c.text);
        const Outcome outcome = test::outcome_of_subject(maker.study, cache);
        EXPECT_FALSE(outcome.value) << c.kind;
        ASSERT_TRUE(outcome.error) << c.kind;
        EXPECT_TRUE(outcome.error->code == ErrorCode::over_budget ||
                    outcome.error->code == ErrorCode::out_of_memory)
            << c.kind << ": " << sentence(*outcome.error);
        EXPECT_FALSE(outcome.error->mend.empty());
    }
}

// Thirty steps that are small each are not small together.
TEST_F(Cost, TheWholeStudyHasABudgetToo) {
    StudyMaker maker;
    for (int number = 0; number < 30; ++number) {
        const std::string name = "l" + std::to_string(number);
        maker.add("lattice.rectangular", name);
        maker.number(name, "columns", "999").number(name, "rows", std::to_string(900 + number));
    }
    Budget budget;
    budget.together_bytes = 200e6;  // a lattice is about 22 MB
    const Evaluation evaluation = test::run(maker.study, budget);
    std::size_t done = 0, asking = 0;
    for (const auto& [id, outcome] : evaluation.outcomes) {
        done += outcome.state == StepState::done ? 1 : 0;
        asking += outcome.state == StepState::asks ? 1 : 0;
        if (outcome.state == StepState::asks) {
            EXPECT_NE(outcome.error->message.find("hold"), std::string::npos) << outcome.error->message;
            budget.permitted.insert(outcome.key);
        }
    }
    EXPECT_GE(done, 7U);
    EXPECT_LE(done, 9U);
    EXPECT_EQ(done + asking, 30U);
    EXPECT_EQ(test::run(maker.study, budget).problem_count(), 0U) << "what is allowed is computed";
    Budget machine;
    machine.machine_bytes = 300e6;
    EXPECT_GT(test::run(maker.study, machine).problem_count(), 10U);
}

// Renaming a result that does not bear its name makes nothing anew, neither it nor what reads it.
TEST_F(Cost, RenamingComputesOnlyWhatBearsTheName) {
    ResultStore cache(2'000'000'000);
    (void)test::run(base_.study, {}, &cache);
    const auto fresh_after = [&](const char* name) {
        const Edited renamed = rename_step(*base_.study, base_.study->step(name)->id, "other");
        std::size_t fresh = 0;
        for (const auto& [id, outcome] : test::run(*renamed, {}, &cache).outcomes)
            fresh += outcome.from_cache ? 0 : 1;
        return fresh;
    };
    EXPECT_EQ(fresh_after("ground"), 0U);
    EXPECT_EQ(fresh_after("hills"), 0U);
    EXPECT_EQ(fresh_after("roof"), 0U);
    EXPECT_GT(fresh_after("reach"), 0U) << "the field goes by this name";
    for (const StepKind& kind : standard_catalogue().kinds()) {
        const bool numbers = std::ranges::any_of(kind.results, [](Kind result) {
            return result == Kind::field || result == Kind::directions || result == Kind::frame ||
                   result == Kind::mesh;
        });
        EXPECT_TRUE(numbers || !kind.bears_name) << kind.key;
    }
}

// Distances and tolerances as large as the form, which met every point with every other.
TEST_F(Cost, HugeTolerancesAreNoWorkAtAll) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "700").number("ground", "rows", "700");
    maker.add("points.unique", "one");
    maker.number("one", "tolerance", "1000 m");
    maker.add("points.keep_near", "near");
    maker.set("near", "points", ResultName{"ground"}).set("near", "things", ResultName{"ground"});
    maker.number("near", "distance", "1000 m").word("near", "side", "closer");
    const Evaluation evaluation = test::run(maker.study);
    ASSERT_EQ(evaluation.problem_count(), 0U);
    EXPECT_EQ(lattice_of(test::value_of(evaluation, "one"))->point_count(), 1U);
    EXPECT_EQ(lattice_of(test::value_of(evaluation, "near"))->point_count(), 701U * 701U);
}

}  // namespace
}  // namespace plume
