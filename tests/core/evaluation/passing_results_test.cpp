// What is let go of while a number is dragged, and what is not.

#include "core/evaluation/passing_results.hpp"

#include <gtest/gtest.h>

#include "core/steps/catalogue.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

// A lattice and what is pushed from it; columns and rows of bays.
StudyPointer pushed_lattice(const std::string& bays, const std::string& to_z) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", bays).number("ground", "rows", bays);
    maker.add("points.move_formula", "risen");
    maker.formula("risen", "to_z = " + to_z);
    return maker.study;
}

class Passing : public testing::Test {
protected:
    // As if making took so long.
    Evaluation made(const StudyPointer& study, double seconds = 0.01) {
        Evaluation evaluation = run(study, {}, &store);
        for (auto& [id, outcome] : evaluation.outcomes)
            outcome.seconds = seconds;
        return evaluation;
    }
    bool keeps(const Evaluation& evaluation, const char* name) {
        return store.find(evaluation.outcome(name)->key).value != nullptr;
    }

    ResultStore store{500'000'000};
    PassingResults passing{standard_catalogue(), store};
};

constexpr const char* large = "299";

TEST_F(Passing, WhatIsLargeGoesOnceTheNextIsThere) {
    const Evaluation first = made(pushed_lattice(large, "1 m"));
    passing.see(first, true);
    EXPECT_TRUE(keeps(first, "risen")) << "it is seen until then";
    const Evaluation second = made(pushed_lattice(large, "2 m"));
    passing.see(second, false);
    EXPECT_FALSE(keeps(first, "risen"));
    EXPECT_TRUE(keeps(second, "ground")) << "both are made of it";
    EXPECT_TRUE(keeps(second, "risen"));
    EXPECT_EQ(store.bytes(),
              bytes_of(*second.outcome("ground")->value) + bytes_of(*second.outcome("risen")->value));
    // What was rested at stays.
    passing.see(made(pushed_lattice(large, "3 m")), true);
    EXPECT_TRUE(keeps(second, "risen"));
}

TEST_F(Passing, WhatIsSmallOrTookLongStays) {
    const Evaluation small = made(pushed_lattice("9", "1 m"));
    passing.see(small, true);
    const Evaluation slow = made(pushed_lattice(large, "1 m"), 0.5);
    passing.see(slow, true);
    EXPECT_TRUE(keeps(small, "risen"));
    passing.see(made(pushed_lattice(large, "2 m")), false);
    EXPECT_TRUE(keeps(slow, "risen"));
}

TEST_F(Passing, WhatWasCancelledDecidesNothing) {
    const Evaluation first = made(pushed_lattice(large, "1 m"));
    passing.see(first, true);
    Evaluation cancelled = made(pushed_lattice(large, "2 m"));
    cancelled.cancelled = true;
    passing.see(cancelled, true);
    EXPECT_TRUE(keeps(first, "risen"));
    passing.see(made(pushed_lattice(large, "3 m")), false);
    EXPECT_FALSE(keeps(first, "risen"));
}

TEST_F(Passing, OtherMomentsStay) {
    const Evaluation first = made(pushed_lattice(large, "1 m * time"));
    passing.see(first, true);
    passing.see(made(pushed_lattice(large, "2 m * time")), false);
    EXPECT_TRUE(keeps(first, "risen"));
}

}  // namespace
}  // namespace plume::test
