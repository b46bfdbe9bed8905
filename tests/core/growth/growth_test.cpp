// Growth: counts against closed forms, places against a plain recursion written here.

#include "core/growth/growth.hpp"

#include <tbb/global_control.h>

#include <cmath>
#include <numbers>

#include "core/growth/grown_parts.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

constexpr double degree = std::numbers::pi / 180;

GrowthRules rules_of(const std::string& text, const RulesSetting& setting = {}) {
    auto rules = check_rules(text, setting);
    EXPECT_TRUE(rules) << sentence(rules.error());
    return *std::move(rules);
}

GrowthStart one_root(double size = 1) {
    return {{Placement{}}, {1}, {}, size};
}

Grown grown(const std::string& text, std::size_t generations, GrowthLimits limits = {},
            const GrowthStart& start = one_root(), const Surroundings& around = {},
            const RulesSetting& setting = {}) {
    limits.generations = generations;
    auto made = grow(rules_of(text, setting), start, limits, around, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return *std::move(made);
}

std::vector<std::size_t> sizes_of_generations(const Grown& grown) {
    std::vector<std::size_t> counts;
    for (std::size_t at = 0; at + 1 < grown.parts.generations.size(); ++at)
        counts.push_back(grown.parts.generations[at + 1] - grown.parts.generations[at]);
    return counts;
}

void expect_near(Vec3 a, Vec3 b, double slack, const std::string& what) {
    EXPECT_NEAR(a.x, b.x, slack) << what;
    EXPECT_NEAR(a.y, b.y, slack) << what;
    EXPECT_NEAR(a.z, b.z, slack) << what;
}

TEST(Growth, CountsFollowTheClosedForm) {
    EXPECT_EQ(sizes_of_generations(grown("a becomes\na\na", 6)),
              (std::vector<std::size_t>{1, 2, 4, 8, 16, 32, 64}));
    // Fibonacci's: a pair and its young.
    EXPECT_EQ(sizes_of_generations(grown("old becomes\nold\nyoung\nyoung becomes\nold", 8)),
              (std::vector<std::size_t>{1, 2, 3, 5, 8, 13, 21, 34, 55}));
    // n copies of each, n one more every generation: factorials.
    EXPECT_EQ(sizes_of_generations(grown("a becomes\na times depth + 1", 6)),
              (std::vector<std::size_t>{1, 1, 2, 6, 24, 120, 720}));
}

TEST(Growth, PartsStandInTheOrderOfThoseTheyCameOf) {
    const Grown made = grown("a becomes\nb\na\nb becomes\nc times 2\na", 4);
    const Population& parts = made.parts;
    for (std::size_t part = 1; part < parts.size(); ++part) {
        EXPECT_LT(parts.parents[part], part);
        if (part + 1 < parts.size()) {
            EXPECT_LE(parts.parents[part], parts.parents[part + 1]);
        }
        const bool first = parts.parents[part] != parts.parents[part - 1] || part == 1;
        EXPECT_EQ(parts.numbers[part], first ? 0 : parts.numbers[part - 1] + 1);
    }
    EXPECT_EQ(sizes_of_generations(made), (std::vector<std::size_t>{1, 2, 5, 7, 12}));
}

// A tree of another make: by recursion, with axes as three vectors in the world.
struct Axes {
    Vec3 origin, along{1, 0, 0}, across{0, 1, 0}, up{0, 0, 1};
    double size = 1;
};
Vec3 rotated(Vec3 v, Vec3 axis, double angle) {
    return v * std::cos(angle) + cross(axis, v) * std::sin(angle) +
           axis * (dot(axis, v) * (1 - std::cos(angle)));
}
Axes turned_about(Axes from, Vec3 axis, double angle) {
    return {from.origin, rotated(from.along, axis, angle), rotated(from.across, axis, angle),
            rotated(from.up, axis, angle), from.size};
}
void plain_tree(const Axes& from, int depth, std::vector<std::vector<Axes>>& generations) {
    const auto here = static_cast<std::size_t>(generations.size()) - 1 - static_cast<std::size_t>(depth);
    generations[here].push_back(from);
    if (depth == 0) return;
    for (const double about_up : {0.0, 137.5 * degree}) {
        Axes child = from;
        child.origin = child.origin + child.up * from.size;
        child = turned_about(child, child.up, about_up);
        child = turned_about(child, child.along, (30 + from.size) * degree);
        child.origin = child.origin - child.along * 0.25 + child.across * 0.125;
        child.size = from.size * 0.8;
        plain_tree(child, depth - 1, generations);
    }
}

TEST(Growth, PlacesAreThoseOfAPlainRecursion) {
    const std::string rest =
        "turned 30° + size / 1 m * 1° about along, moved 0.25 back, moved 0.125 across, sized 0.8";
    const Grown made = grown(
        "a becomes\na, moved size up, " + rest + "\na, moved size up, turned 137.5° about up, " + rest, 7);
    std::vector<std::vector<Axes>> generations(8);
    plain_tree({}, 7, generations);
    for (std::size_t generation = 0; generation < 8; ++generation) {
        ASSERT_EQ(sizes_of_generations(made)[generation], generations[generation].size());
        for (std::size_t at = 0; at < generations[generation].size(); ++at) {
            const std::size_t part = made.parts.generations[generation] + at;
            const Axes& wanted = generations[generation][at];
            const Placement& placement = made.parts.placements[part];
            const std::string what = std::to_string(generation) + " " + std::to_string(at);
            expect_near(placement.origin, wanted.origin, 1e-12, what);
            expect_near(placement.along, wanted.along, 1e-12, what);
            expect_near(placement.across, wanted.across, 1e-12, what);
            expect_near(placement.up, wanted.up, 1e-12, what);
            EXPECT_NEAR(made.parts.sizes[part], wanted.size, 1e-12);
        }
    }
}

// The same motion as constants and as what is computed for each part.
TEST(Growth, FixedAndComputedMotionsAgree) {
    const std::string fixed =
        "moved 0.5 up, mirrored across, turned 25° about along, moved 0.1 across, "
        "mirrored up, turned -40° about up, moved -0.2 along, mirrored along, turned 10° about across";
    std::string computed = fixed;
    for (const char* number : {"0.5 up", "25° ", "0.1 ", "-40° ", "-0.2 ", "10° "}) {
        const std::size_t at = computed.find(number);
        computed.insert(at, number[1] == '0' && number[0] == '1'                 ? "0° * depth + "
                            : std::string(number).find("°") != std::string::npos ? "0° * depth + "
                                                                                 : "0 * depth + ");
    }
    const Grown a = grown("a becomes\na, " + fixed + "\na, turned 90° about up", 5);
    const Grown b = grown("a becomes\na, " + computed + "\na, turned 90° about up", 5);
    ASSERT_EQ(a.parts.size(), b.parts.size());
    for (std::size_t part = 0; part < a.parts.size(); ++part) {
        expect_near(a.parts.placements[part].origin, b.parts.placements[part].origin, 1e-13, computed);
        expect_near(a.parts.placements[part].along, b.parts.placements[part].along, 1e-13, computed);
        expect_near(a.parts.placements[part].up, b.parts.placements[part].up, 1e-13, computed);
        EXPECT_EQ(a.parts.sides[part], b.parts.sides[part]);
    }
}

// What a mirrored part makes is the mirror image of what the other makes.
TEST(Growth, MirrorImagesGrowAsMirrorImages) {
    const std::string tree =
        "\nb becomes\nb, moved 1 up, turned 20° about along, turned 35° about up, moved 0.3 across\n"
        "b, moved 0.5 along, turned 15° about across";
    const Grown plain = grown("a becomes\nb" + tree, 5);
    for (const auto& [way, axis] : {std::pair{"along", 0}, std::pair{"across", 1}, std::pair{"up", 2}}) {
        const Grown mirrored = grown("a becomes\nb, mirrored " + std::string(way) + tree, 5);
        ASSERT_EQ(mirrored.parts.size(), plain.parts.size());
        const auto image = [axis = axis](Vec3 v) {
            (axis == 0 ? v.x : axis == 1 ? v.y : v.z) *= -1;
            return v;
        };
        for (std::size_t part = 1; part < plain.parts.size(); ++part) {
            const PartPlace a = plain.parts.place(part), b = mirrored.parts.place(part);
            expect_near(image(a.placement.origin), b.placement.origin, 1e-13, way);
            expect_near(image(a.placement.along), b.placement.along, 1e-13, way);
            expect_near(image(a.across()), b.across(), 1e-13, way);
            expect_near(image(a.placement.up), b.placement.up, 1e-13, way);
            EXPECT_EQ(b.side, -1);
        }
    }
}

TEST(Growth, ASizeBelowZeroIsAMirrorImageInAllWays) {
    const Grown made = grown("a becomes\na, moved 1 up, sized -0.5", 2);
    EXPECT_EQ(made.mirrored_by_size, 2U);
    expect_near(made.parts.placements[1].up, {0, 0, -1}, 0, "up");
    expect_near(made.parts.place(1).across(), {0, -1, 0}, 0, "across");
    EXPECT_EQ(made.parts.sizes[1], 0.5);
    expect_near(made.parts.placements[2].origin, {0, 0, 0}, 0, "back again");
    EXPECT_EQ(made.parts.place(2).side, 1);
}

TEST(Growth, BendingStopsAtItsGoal) {
    const Grown made = grown("a becomes\nb, turned 50° about along\nb becomes\nb, bent 20° towards sky", 4);
    for (std::size_t part = 1; part < made.parts.size(); ++part) {
        const Vec3 up = made.parts.placements[part].up;
        EXPECT_NEAR(std::acos(std::clamp(up.z, -1.0, 1.0)) / degree,
                    std::max(0.0, 50 - 20 * (static_cast<double>(part) - 1)), 1e-6);
    }
    const Grown away = grown("a becomes\nb, turned 50° about along\nb becomes\nb, bent -100° towards sky", 3);
    EXPECT_NEAR(std::acos(away.parts.placements.back().up.z) / degree, 180, 1e-5);
    RulesSetting setting;
    setting.attractors = true;
    Surroundings around;
    around.attractors = std::make_shared<const AttractorSearch>(
        *Attractors::make({{"far", {10, 0, 0}, 1}, {"near", {0, 3, 0}, 1}}));
    const Grown to = grown("a becomes\na, bent 90° towards attractors", 1, {}, one_root(), around, setting);
    expect_near(to.parts.placements[1].up, {0, 1, 0}, 1e-12, "the nearest");
}

TEST(Growth, ValuesAreHandedDown) {
    const Grown made =
        grown("lean = 8\nfield twice = lean * 2\na becomes\na, with lean = lean / 2, where depth < 2\nb", 3);
    const Population& parts = made.parts;
    ASSERT_EQ(parts.values.size(), 1U);
    // a 8; a 4, b 8; a 2, b 4; b 2.
    EXPECT_EQ(std::vector<double>(parts.values[0].begin(), parts.values[0].end()),
              (std::vector<double>{8, 4, 8, 2, 4, 2}));
    for (std::size_t part = 0; part < parts.size(); ++part)
        EXPECT_EQ(parts.fields[0][part], 2 * parts.values[0][part]);
}

TEST(Growth, ChanceKeepsItsShares) {
    GrowthStart many;
    constexpr std::size_t count = 40'000;
    for (std::size_t at = 0; at < count; ++at) {
        many.placements.push_back({{static_cast<double>(at), 0, 0}});
        many.identities.push_back(at * 7919);
    }
    const Grown made =
        grown("a becomes, chance 0.3\nb\nor, chance 0.5\nc\notherwise\nd, chance 0.25", 1, {}, many);
    std::vector<double> shares(4, 0);
    for (std::size_t part = count; part < made.parts.size(); ++part)
        shares[made.parts.names[part]] += 1.0 / count;
    // Three standard deviations.
    EXPECT_NEAR(shares[1], 0.3, 3 * std::sqrt(0.3 * 0.7 / count));
    EXPECT_NEAR(shares[2], 0.5, 3 * std::sqrt(0.5 * 0.5 / count));
    EXPECT_NEAR(shares[3], 0.05, 3 * std::sqrt(0.05 * 0.95 / count));
}

TEST(Growth, PartsKeepTheirChanceWhileOthersComeAndGo) {
    const std::string rule = "b, moved random(4) up, chance 0.5\nb, moved random(5) across, chance 0.5";
    const Grown before = grown("a becomes\nb\nb becomes\n" + rule, 8);
    const Grown after = grown("a becomes\nnew times 3\nb\nb becomes\nnew\n" + rule, 8);
    std::vector<Vec3> were, are;
    for (std::size_t part = 0; part < before.parts.size(); ++part)
        if (before.parts.names[part] == 1) were.push_back(before.parts.placements[part].origin);
    const std::size_t b = 1;
    for (std::size_t part = 0; part < after.parts.size(); ++part)
        if (after.parts.names[part] == b) are.push_back(after.parts.placements[part].origin);
    ASSERT_GT(were.size(), 3U);
    EXPECT_EQ(were, are);
}

TEST(Growth, IsTheSameOnAnyNumberOfThreads) {
    const std::string text =
        "a becomes\na, moved random(1) up, turned 360° * random(2) about along, sized 0.9\n"
        "a, turned noise(x, y) * 90° about up, moved size along, chance 0.9";
    const auto with_threads = [&](std::size_t threads) {
        const tbb::global_control limit(tbb::global_control::max_allowed_parallelism, threads);
        return grown(text, 17);
    };
    const Grown one = with_threads(1), four = with_threads(4);
    ASSERT_GT(one.parts.size(), 50'000U);
    EXPECT_EQ(one.parts.parents, four.parts.parents);
    for (std::size_t part = 0; part < one.parts.size(); ++part)
        ASSERT_EQ(one.parts.placements[part].origin, four.parts.placements[part].origin) << part;
}

TEST(Growth, StopsBelowASizeOutsideAndInReach) {
    GrowthLimits small;
    small.least_size = 0.1;
    const Grown sized = grown("a becomes\na, sized 0.5", 100, small);
    EXPECT_EQ(sized.parts.size(), 4U);  // 1, 0.5, 0.25, 0.125
    EXPECT_EQ(sized.too_small, 1U);
    EXPECT_EQ(sized.end, GrowthEnd::finished);
    Surroundings slab;
    slab.contains = [](Vec3 place) { return place.z < 3.5; };
    const Grown bounded = grown("a becomes\na, moved 1 up", 100, {}, one_root(), slab);
    EXPECT_EQ(bounded.parts.size(), 4U);
    EXPECT_EQ(bounded.outside, 1U);
    GrowthLimits near;
    near.reach = 0.5;
    Surroundings goal;
    goal.attractors = std::make_shared<const AttractorSearch>(*Attractors::make({{"top", {0, 0, 5.2}, 1}}));
    EXPECT_EQ(grown("a becomes\na, moved 1 up", 100, near, one_root(), goal).parts.size(), 6U);
}

TEST(Growth, StopsAtTheMostWithWhatThereIs) {
    GrowthLimits limits;
    limits.most = 1000;
    const Grown made = grown("a becomes\na\na", 60, limits);
    EXPECT_EQ(made.parts.size(), 511U);
    EXPECT_EQ(made.end, GrowthEnd::most);
    EXPECT_EQ(made.next, 512U);
    const Grown at_once = grown("a becomes\na times 1e12", 3, limits);
    EXPECT_EQ(at_once.parts.size(), 1U);
    EXPECT_EQ(at_once.end, GrowthEnd::most);
    EXPECT_EQ(at_once.next, 1'000'000'000'000U);
    EXPECT_EQ(grown("a becomes\na times 1 / depth", 3, limits).end, GrowthEnd::most) << "no number";
}

// The next generation is told without being made: as many as one more generation has.
TEST(Growth, TheNextGenerationIsCountedAsItWouldBeMade) {
    for (const char* rules :
         {"a becomes\na times 3\nb\nb becomes\na", "a becomes\na times depth + 1",
          "a becomes\nb\nb becomes\na times 0", "a becomes\na times 4, chance 0.6\na",
          "a becomes, where number < 1\na times 2\notherwise\na", "a becomes\na times 5, where copy > 1"}) {
        const auto check = [&](std::size_t generations) {
            const std::vector<std::size_t> further = sizes_of_generations(grown(rules, generations + 1));
            const std::size_t made = further.size() > generations + 1 ? further.back() : 0;
            EXPECT_EQ(grown(rules, generations).next, made) << rules << " after " << generations;
        };
        for (const std::size_t generations : {1U, 3U, 5U})
            check(generations);
    }
}

// Every pair that is nearer than the distance is one of family.
TEST(Growth, PartsKeepApart) {
    GrowthLimits limits;
    limits.apart = 0.4;
    const Grown made = grown(
        "a becomes\na, moved 0.5 up, turned 360° * random(2) about up, turned 40° about along\n"
        "a, moved 0.5 up, turned 360° * random(3) about up, turned 50° about across",
        11, limits);
    EXPECT_GT(made.in_the_way, 100U);
    const Population& parts = made.parts;
    for (std::size_t a = 0; a < parts.size(); ++a)
        for (std::size_t b = a + 1; b < parts.size(); ++b) {
            if (parts.parents[b] == a || parts.parents[b] == parts.parents[a]) continue;
            ASSERT_GE(length(parts.placements[a].origin - parts.placements[b].origin), 0.4) << a << ' ' << b;
        }
}

// Cubes that touch and never overlap fill an octahedron of cells: (2 n + 1) (2 n^2 + 2 n + 3) / 3 of them,
// which way ever the first one stands.
TEST(Growth, BoxesTouchAndDoNotOverlap) {
    const std::string six =
        "a becomes\na, moved size along\na, moved -size along\na, moved size across\na, moved -size across\n"
        "a, moved size up\na, moved -size up";
    GrowthLimits limits;
    limits.boxes = Vec3{1, 1, 1};
    for (const Placement& root : {Placement{}, placement_of({3, 1, -2}, {0.3, -0.5, 0.8}, {1, 0.2, 0.1})})
        for (std::size_t n : {1U, 2U, 5U, 8U}) {
            limits.generations = n;
            GrowthStart start = one_root();
            start.placements = {root};
            const auto made = grow(rules_of(six), start, limits, {}, plume::Run());
            ASSERT_TRUE(made);
            EXPECT_EQ(made->parts.size(), (2 * n + 1) * (2 * n * n + 2 * n + 3) / 3) << n;
        }
    // A little too large to stand edge to edge, they only go on in the row of the first two, since a parent
    // may be run into.
    limits.boxes = Vec3{1.01, 1.01, 1.01};
    EXPECT_EQ(grown(six, 3, limits).parts.size(), 1 + 2 * 3U);
}

// Points inside of one box are in no other but a parent's, whatever sizes and ways they have.
TEST(Growth, BoxesOfAllSizesAndWaysStayClear) {
    GrowthLimits limits;
    limits.boxes = Vec3{0.8, 0.4, 1.2};
    const Grown made = grown(
        "a becomes\n"
        "a, moved 1.3 * size up, turned 360° * random(2) about up, turned 35° about along, sized 0.7 + 0.4 * "
        "random(4)\n"
        "a, moved size along, turned 80° * random(3) about across, sized 0.2 + 0.9 * random(5)\n"
        "a, moved size across, turned 50° about along, sized 0.5",
        7, limits);
    const Population& parts = made.parts;
    EXPECT_GT(made.in_the_way, 100U);
    ASSERT_GT(parts.size(), 100U);
    const auto local = [&](std::size_t part, Vec3 world) {
        const Vec3 at = parts.placements[part].to_local(world) * (1 / parts.sizes[part]);
        return Vec3{at.x / 0.8, at.y / 0.4, at.z / 1.2 - 0.5};
    };
    std::size_t pairs = 0;
    for (std::size_t b = 0; b < parts.size(); ++b)
        for (std::size_t a = 0; a < parts.size(); ++a) {
            if (a == b || parts.parents[b] == a || parts.parents[a] == b) continue;
            if (length(parts.placements[a].origin - parts.placements[b].origin) >
                1.5 * (parts.sizes[a] + parts.sizes[b]))
                continue;
            ++pairs;
            for (double x = -0.49; x < 0.5; x += 0.245)
                for (double y = -0.49; y < 0.5; y += 0.245)
                    for (double z = -0.49; z < 0.5; z += 0.245) {
                        const Vec3 inside{x * 0.8 * parts.sizes[b], y * 0.4 * parts.sizes[b],
                                          (z + 0.5) * 1.2 * parts.sizes[b]};
                        const Vec3 at = local(a, parts.placements[b].to_world(inside));
                        ASSERT_FALSE(std::abs(at.x) < 0.499 && std::abs(at.y) < 0.499 &&
                                     std::abs(at.z) < 0.499)
                            << a << ' ' << b;
                    }
        }
    EXPECT_GT(pairs, 500U);
}

TEST(Growth, GoesDeepWithoutLosingItsAxes) {
    const Grown made =
        grown("a becomes\na, moved 0.001 up, turned 7.3° about along, turned 11.1° about up", 10'000);
    EXPECT_EQ(made.parts.size(), 10'001U);
    const Placement& last = made.parts.placements.back();
    EXPECT_NEAR(dot(last.along, last.up), 0, 1e-12);
    EXPECT_NEAR(length(last.up), 1, 1e-12);
    const auto placements = grown_parts(grown("a becomes\na", 10'000),
                                        std::make_shared<const GrowthRules>(rules_of("a becomes\na")),
                                        one_root(), {}, {}, KeptParts::last);
    ASSERT_TRUE(placements);
    EXPECT_EQ(placements->origins().point_count(), 1U);
    EXPECT_EQ(placements->tree()->descent(10'000).size(), 10'001U);
}

TEST(Growth, WhatIsNoNumberIsLeftOutAndTold) {
    const Grown made =
        grown("a becomes\na, moved sqrt(-depth) * 1 m up\nb, sized depth\nb becomes\nb, moved 1 up", 2);
    EXPECT_EQ(made.not_a_number, 1U);  // of the first generation's a; sqrt(-0) is 0
    EXPECT_EQ(made.without_size, 1U);
    EXPECT_EQ(made.first_left_out, "in generation 1 by the line ‘b, sized depth’");
}

TEST(Growth, IsCancelled) {
    plume::Run cancelled;
    cancelled.cancel();
    GrowthLimits limits;
    limits.generations = 30;
    const auto made = grow(rules_of("a becomes\na\na"), one_root(), limits, {}, cancelled);
    ASSERT_FALSE(made);
    EXPECT_EQ(made.error().code, ErrorCode::cancelled);
}

// The snowflake's side: four thirds as long every time, with its ends where they were.
TEST(Growth, AKochCurveHasItsLength) {
    const Grown made = grown(
        "side becomes\n"
        "side, sized 1/3\n"
        "side, moved size / 3 along, turned 60° about up, sized 1/3\n"
        "side, moved size / 3 along, turned 60° about up, moved size / 3 along, turned -120° about up, sized "
        "1/3\n"
        "side, moved size * 2 / 3 along, sized 1/3",
        6);
    double length_of_all = 0;
    const std::size_t first = made.parts.last_begin();
    ASSERT_EQ(made.parts.size() - first, 4096U);
    Vec3 end{0, 0, 0};
    for (std::size_t part = first; part < made.parts.size(); ++part) {
        expect_near(made.parts.placements[part].origin, end, 1e-12, "sides end to end");
        end = made.parts.placements[part].origin + made.parts.placements[part].along * made.parts.sizes[part];
        length_of_all += made.parts.sizes[part];
    }
    EXPECT_NEAR(length_of_all, std::pow(4.0 / 3, 6), 1e-12);
    expect_near(end, {1, 0, 0}, 1e-12, "the end");
}

TEST(Growth, ALineOfDescentTellsWhatWasThere) {
    const std::string text =
        "lean = 30°\nb becomes, chance 0.9\nb, moved 1 up, turned lean about along, with lean = lean / 2, "
        "chance 0.8\n"
        "b times 2, moved 1 up, turned copy * 90° about up, sized 0.5\notherwise\nb";
    auto rules = std::make_shared<const GrowthRules>(rules_of(text));
    GrowthStart start = one_root(2);
    GrowthLimits limits;
    limits.generations = 9;
    auto made = grow(*rules, start, limits, {}, plume::Run());
    ASSERT_TRUE(made);
    const Population parts = made->parts;
    const auto placements = grown_parts(*std::move(made), rules, start, {}, {}, KeptParts::all);
    ASSERT_TRUE(placements);
    for (std::size_t part = parts.size() - 40; part < parts.size(); ++part) {
        std::vector<std::size_t> line;
        for (std::size_t at = part; at != PartTree::none; at = parts.parents[at])
            line.insert(line.begin(), at);
        std::vector<std::size_t> numbers;
        for (std::size_t at = 1; at < line.size(); ++at)
            numbers.push_back(static_cast<std::size_t>(parts.numbers[line[at]]));
        const auto ancestors = retraced(*rules, start, 0, numbers, {}, plume::Run());
        ASSERT_TRUE(ancestors);
        ASSERT_EQ(ancestors->size(), line.size());
        for (std::size_t at = 0; at < line.size(); ++at) {
            EXPECT_EQ((*ancestors)[at].size, parts.sizes[line[at]]);
            EXPECT_EQ((*ancestors)[at].line, parts.lines[line[at]]);
            EXPECT_EQ((*ancestors)[at].values.front(), parts.values[0][line[at]]);
            EXPECT_EQ((*ancestors)[at].drawn_for_choice.has_value(), at > 0);
        }
        const std::vector<std::string> told = placements->tree()->descent(part);
        ASSERT_EQ(told.size(), line.size());
        EXPECT_EQ(told.front(), "generation 0: b, 2 m; lean 30°; where it began");
        EXPECT_NE(told.back().find("; by ‘b"), std::string::npos) << told.back();
    }
}

}  // namespace
}  // namespace plume::test
