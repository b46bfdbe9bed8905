// What is shown of results, and how long it is kept.

#include "core/results/presentation.hpp"

#include <gtest/gtest.h>

#include <optional>

#include "core/steps/catalogue.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

StudyMaker nine_points() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "2").number("ground", "rows", "2");
    return maker;
}

// Their height is a number.
StudyPointer raised(const std::string& height) {
    StudyMaker maker = nine_points();
    maker.add("points.move_formula", "risen");
    maker.formula("risen", "to_z = " + height);
    return maker.study;
}

class Presented : public testing::Test {
protected:
    // As it is drawn, which is what is made but once.
    std::shared_ptr<const Drawable> drawn(const std::string& height, const std::string& colour_by = "") {
        const StudyPointer study = raised(height);
        const Evaluation evaluation = run(study);
        const DrawOptions options{colour_by};
        const auto shown =
            presenter->present(*study->step("risen"), *evaluation.outcome("risen"), &options, plume::Run());
        EXPECT_TRUE(shown);
        return shown->drawable;
    }
    // Who has it besides the test.
    static bool kept(const std::weak_ptr<const Drawable>& drawable) { return !drawable.expired(); }

    std::optional<Presenter> presenter{std::in_place, standard_catalogue()};
};

TEST_F(Presented, WhatIsStillAskedForIsMadeOnce) {
    const auto first = drawn("1 m");
    EXPECT_NEAR(first->bounds.high.z, 1, 1e-12);
    EXPECT_EQ(drawn("1 m"), first);
    presenter->forget_others();
    EXPECT_EQ(drawn("1 m"), first);
    EXPECT_NE(drawn("1 m", "-"), first) << "in other colours";
}

TEST_F(Presented, WhatIsNotAskedForAnyMoreGoes) {
    const std::weak_ptr<const Drawable> first = drawn("1 m");
    presenter->forget_others();
    EXPECT_TRUE(kept(first));
    drawn("2 m");
    presenter->forget_others();
    EXPECT_FALSE(kept(first));
}

TEST_F(Presented, OtherMomentsStayAsLongAsThereIsRoom) {
    const auto show = [&](const std::string& height) {
        std::weak_ptr<const Drawable> shown = drawn(height);
        presenter->forget_others(Presenter::Others::may_come_again);
        return shown;
    };
    const auto first = show("1 m"), second = show("2 m"), third = show("3 m");
    show("4 m");
    EXPECT_TRUE(kept(first));
    EXPECT_EQ(drawn("1 m"), first.lock()) << "and is found again";
    // Another study: none of it comes again.
    presenter->forget_others();
    drawn("5 m");
    presenter->forget_others();
    EXPECT_FALSE(kept(first) || kept(second) || kept(third));
}

TEST_F(Presented, TheLongestAtRestGoesFirst) {
    const std::size_t one = bytes_of(*drawn("0 m"));
    presenter.emplace(standard_catalogue(), 2 * one);
    std::vector<std::weak_ptr<const Drawable>> shown;
    for (const char* height : {"1 m", "2 m", "3 m", "4 m", "5 m"}) {
        shown.push_back(drawn(height));
        presenter->forget_others(Presenter::Others::may_come_again);
    }
    // The last one was asked for by now, and two rest.
    EXPECT_FALSE(kept(shown[0]) || kept(shown[1]));
    EXPECT_TRUE(kept(shown[2]) && kept(shown[3]) && kept(shown[4]));
}

TEST_F(Presented, FiguresAreThoseOfTheNumberInHand) {
    StudyMaker maker = nine_points();
    maker.add("field.formula", "height");
    maker.formula("height", "u");
    const Evaluation evaluation = run(maker.study);
    const auto shown = presenter->present(*maker.study->step("height"), *evaluation.outcome("height"),
                                          nullptr, plume::Run());
    ASSERT_TRUE(shown && shown->figures);
    EXPECT_EQ(shown->drawable, nullptr);
    EXPECT_DOUBLE_EQ(shown->figures->least, 0);
    EXPECT_DOUBLE_EQ(shown->figures->most, 1);
    EXPECT_DOUBLE_EQ(shown->figures->mean, 0.5);
}

}  // namespace
}  // namespace plume::test
