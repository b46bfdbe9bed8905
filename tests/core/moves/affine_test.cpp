// Maps that are turned round, taken in part, and found from where places went.

#include "core/geometry/moves/affine.hpp"

#include <gtest/gtest.h>

#include <limits>

namespace plume::test {
namespace {

const std::vector<Vec3> corners{{1, 2, 3}, {4, 2, 3}, {1, 7, 3}, {4, 7, 3}, {2, 4, 8}};

std::vector<Vec3> moved(const std::vector<Vec3>& places, const Affine& map) {
    std::vector<Vec3> made;
    made.reserve(places.size());
    for (const Vec3 place : places)
        made.push_back(map.at(place));
    return made;
}
void expect_alike(const Affine& one, const Affine& other) {
    for (const Vec3 at : {Vec3{}, Vec3{1, 0, 0}, Vec3{0, 2, 0}, Vec3{-3, 1, 5}})
        EXPECT_NEAR(length(one.at(at) - other.at(at)), 0, 1e-12);
}

const Affine turned = composed(moved_by({5, -1, 2}), turned_about({1, 1, 1}, {3, 1, 2}, 0.7));
const Affine swollen = composed(turned, scaled_about({2, 0, 0}, {1.5, 0.5, 2}));

TEST(Affines, TheInverseTakesBack) {
    expect_alike(composed(inverse_of(swollen), swollen), Affine{});
    expect_alike(composed(swollen, inverse_of(swollen)), Affine{});
}

TEST(Affines, APartIsOnTheStraightWay) {
    const Vec3 at{1, -2, 4};
    EXPECT_NEAR(length(part_of(swollen, 0.25).at(at) - (at * 0.75 + swollen.at(at) * 0.25)), 0, 1e-12);
    expect_alike(part_of(swollen, 0), Affine{});
    expect_alike(part_of(swollen, 1), swollen);
}

TEST(Affines, AreFoundFromWherePlacesWent) {
    for (const Affine& map : {Affine{}, turned, swollen}) {
        const auto found = affine_between(corners, moved(corners, map));
        ASSERT_TRUE(found);
        expect_alike(*found, map);
    }
}

// Of a plate it is not known what it would be across: as if it had kept its thickness.
TEST(Affines, OfFlatPlacesKeepTheirThickness) {
    const std::vector<Vec3> plate(corners.begin(), corners.begin() + 4);
    const auto found = affine_between(plate, moved(plate, turned));
    ASSERT_TRUE(found);
    expect_alike(*found, turned);
}

TEST(Affines, ThereAreNoneOfWhatBendsTurnsInsideOutOrIsALine) {
    std::vector<Vec3> bent = corners;
    bent.back().x += 1e-6;
    EXPECT_TRUE(affine_between(corners, moved(corners, swollen)));
    std::vector<Vec3> more = corners;
    more.push_back({2, 3, 4});
    bent.push_back({2, 3, 4});
    EXPECT_FALSE(affine_between(more, bent)) << "five follow any map of four";
    EXPECT_FALSE(affine_between(corners, moved(corners, scaled_about({}, {-1, 1, 1}))));
    EXPECT_FALSE(affine_between({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}}, {{0, 0, 0}, {1, 0, 0}, {2, 0, 0}}));
    EXPECT_FALSE(affine_between({}, {}));
    EXPECT_FALSE(affine_between(corners, {}));
    std::vector<Vec3> no_numbers = corners;
    no_numbers[1].x = std::numeric_limits<double>::quiet_NaN();
    EXPECT_FALSE(affine_between(corners, no_numbers));
}

}  // namespace
}  // namespace plume::test
