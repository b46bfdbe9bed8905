// Branches that reach for goals.

#include "core/growth/colonisation.hpp"

#include <algorithm>

#include "core/base/noise.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

Colonised colony(const std::vector<Vec3>& goals, const Colonisation& wishes,
                 std::vector<Placement> roots = {Placement{}}) {
    auto made = colonise(roots, goals, wishes, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return *std::move(made);
}

std::vector<Vec3> cloud(std::size_t count, double size) {
    std::vector<Vec3> goals;
    for (std::size_t at = 0; at < count; ++at) {
        const auto index = static_cast<double>(at);
        goals.push_back({size * (random_of(1, index) - 0.5), size * (random_of(2, index) - 0.5),
                         size * (0.5 + random_of(3, index))});
    }
    return goals;
}

TEST(Colonisation, GoesStraightToOneGoal) {
    const Colonised made = colony({{0, 0, 10}}, {1, 3, 0.5});
    // Out of reach at first: it is gone towards all the same.
    ASSERT_EQ(made.placements.size(), 11U);
    for (std::size_t part = 0; part < made.placements.size(); ++part) {
        EXPECT_NEAR(length(made.placements[part].origin - Vec3{0, 0, static_cast<double>(part)}), 0, 1e-12);
        EXPECT_EQ(made.depths[part], part);
    }
    EXPECT_EQ(made.end, ColonisationEnd::reached);
    EXPECT_EQ(made.generations.size(), 12U);
}

TEST(Colonisation, ForksBetweenGoals) {
    const Colonised made = colony({{-6, 0, 8}, {6, 0, 8}}, {0.5, 20, 0.5});
    std::vector<int> children(made.placements.size(), 0);
    for (const std::uint32_t parent : made.parents)
        if (parent != PartTree::none) ++children[parent];
    EXPECT_EQ(std::ranges::count(children, 0), 2);
    EXPECT_EQ(made.end, ColonisationEnd::reached);
}

// Two goals that pull it straight against each other: no standstill.
TEST(Colonisation, GoalsThatCancelOutAreReachedOneAfterTheOther) {
    const Colonised made = colony({{-5, 0, 0}, {5, 0, 0}}, {1, 10, 0.5});
    EXPECT_EQ(made.end, ColonisationEnd::reached);
    EXPECT_EQ(made.reached, (std::vector<std::uint8_t>{1, 1}));
}

TEST(Colonisation, ReachesAllOfACloudInStepsOfItsLength) {
    const std::vector<Vec3> goals = cloud(600, 8);
    const Colonisation wishes{0.25, 2, 0.5};
    const Colonised made = colony(goals, wishes);
    EXPECT_EQ(made.end, ColonisationEnd::reached);
    for (std::size_t part = 1; part < made.placements.size(); ++part) {
        const Placement& from = made.placements[made.parents[part]];
        EXPECT_NEAR(length(made.placements[part].origin - from.origin), wishes.step, 1e-12);
        EXPECT_NEAR(
            length(from.origin + made.placements[part].up * wishes.step - made.placements[part].origin), 0,
            1e-12);
        EXPECT_LT(made.parents[part], part);
    }
    // Independently: every goal has a part as near as was asked for.
    for (const Vec3 goal : goals) {
        double least = 1e9;
        for (const Placement& placement : made.placements)
            least = std::min(least, length(placement.origin - goal));
        EXPECT_LE(least, wishes.near);
    }
}

// Against a plain version that asks every part for every goal in every generation.
TEST(Colonisation, IsThatOfThePlainWay) {
    const std::vector<Vec3> goals = cloud(150, 5);
    const Colonisation wishes{0.3, 100, 0.4};
    const Colonised made = colony(goals, wishes);
    std::vector<Vec3> parts{{0, 0, 0}};
    std::vector<bool> reached(goals.size(), false);
    for (int generation = 0; generation < 12; ++generation) {
        std::vector<Vec3> pulls(parts.size());
        std::vector<bool> pulled(parts.size(), false);
        for (std::size_t goal = 0; goal < goals.size(); ++goal) {
            if (reached[goal]) continue;
            std::size_t nearest = 0;
            for (std::size_t part = 1; part < parts.size(); ++part)
                if (length(parts[part] - goals[goal]) < length(parts[nearest] - goals[goal])) nearest = part;
            pulls[nearest] = pulls[nearest] + unit_or_zero(goals[goal] - parts[nearest]);
            pulled[nearest] = true;
        }
        for (std::size_t part = 0; part < pulls.size(); ++part)
            if (pulled[part]) parts.push_back(parts[part] + unit_or_zero(pulls[part]) * wishes.step);
        for (std::size_t goal = 0; goal < goals.size(); ++goal)
            for (const Vec3 part : parts)
                if (length(part - goals[goal]) <= wishes.near) reached[goal] = true;
    }
    ASSERT_GE(made.placements.size(), parts.size());
    EXPECT_EQ(made.generations[13], parts.size());
    for (std::size_t part = 0; part < parts.size(); ++part)
        EXPECT_NEAR(length(made.placements[part].origin - parts[part]), 0, 1e-9) << part;
}

TEST(Colonisation, EndsAtItsLimits) {
    Colonisation wishes{0.1, 3, 0.1};
    wishes.generations = 5;
    const Colonised five = colony(cloud(100, 8), wishes);
    EXPECT_EQ(five.end, ColonisationEnd::generations);
    EXPECT_EQ(five.generations.size(), 7U);
    wishes.generations = 100'000;
    wishes.most = 200;
    const Colonised few = colony(cloud(100, 8), wishes);
    EXPECT_EQ(few.end, ColonisationEnd::most);
    EXPECT_LE(few.placements.size(), 200U);
    EXPECT_EQ(few.generations.back(), few.placements.size());
}

TEST(Colonisation, GoalsAtARootOrAtOnePlaceAndNoneAtAll) {
    EXPECT_EQ(colony({{0, 0, 0}, {0, 0, 0}}, {1, 3, 0.5}).placements.size(), 1U);
    EXPECT_EQ(colony({}, {1, 3, 0.5}).placements.size(), 1U);
    EXPECT_EQ(colony(std::vector<Vec3>(50, Vec3{3, 0, 0}), {1, 5, 0.5}).placements.size(), 4U);
    // Steps that leap over what is near enough.
    const Colonised leaping = colony({{0.5, 0, 0.4}}, {3, 10, 0.1});
    EXPECT_EQ(leaping.end, ColonisationEnd::stuck);
}

}  // namespace
}  // namespace plume::test
