// Which points stay, in what order; posts; flattening.

#include <cmath>
#include <numbers>
#include <set>

#include "core/geometry/measures/point_tree.hpp"
#include "core/geometry/meshes/posts.hpp"
#include "core/geometry/moves/flatten.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "core/geometry/parts/coincident_points.hpp"
#include "core/geometry/parts/point_order.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;
using test::StudyMaker;

std::size_t named_count(const char* text, const PointLattice& lattice) {
    const auto named = named_addresses(text, lattice);
    EXPECT_TRUE(named) << text << ": " << (named ? "" : sentence(named.error()));
    return named ? static_cast<std::size_t>(std::ranges::count(named->mask, 1)) : 0;
}

TEST(Addresses, ReadAsWritten) {
    const PointLattice lattice = grid(6, 4);
    const std::pair<const char*, std::size_t> cases[]{
        {"0,0", 1},     {"0,0 5,3", 2}, {"2..4,0", 3}, {"*,3", 6},       {"*,*", 24},     {"-1,-1", 1},
        {"0,0;0,0", 1}, {"7", 1},       {"0..5", 6},   {"2..3,1..2", 4}, {"-3..-1,0", 3}, {"0,0\n1,1", 2}};
    for (const auto& [text, count] : cases)
        EXPECT_EQ(named_count(text, lattice), count) << text;
    EXPECT_EQ(named_count("3 5..7", grid(10, 1)), 4U);
}

TEST(Addresses, WhatIsMissingIsCounted) {
    const auto named = *named_addresses("0,0 9,0 0,7 8,8", grid(6, 4));
    EXPECT_EQ(named.missing, 3U);
    EXPECT_EQ(named.first_missing, "9,0");
    for (const char* bad :
         {"x", "1,", "1,2,3,4", "1..", "..2", "1.5,2", ",", "9999999999999999999999,0", "1-2"})
        EXPECT_FALSE(named_addresses(bad, grid(6, 4))) << bad;
    EXPECT_EQ(named_addresses("  ", grid(2, 2)).error().code, ErrorCode::empty_input);
}

Listing listing_of(const PointLattice& lattice) {
    return {[&lattice](std::size_t entry) { return address_text(lattice, entry); },
            [&lattice](std::string_view list) { return named_addresses(list, lattice); }};
}

TEST(Addresses, PicksComeAndGo) {
    const PointLattice lattice = grid(6, 4);
    const Listing listing = listing_of(lattice);
    std::string text = *with_turned_over("", 8, listing);
    text = *with_turned_over(text, 0, listing);
    EXPECT_EQ(text, "2,1 0,0");
    EXPECT_EQ(*with_turned_over(text, 8, listing), "0,0");
    EXPECT_EQ(address_text(grid(5, 1), 3), "3");
}

// Whatever word names an address: nothing but that address is let go.
TEST(Addresses, WhatARangeNamesIsLetGoAlone) {
    const PointLattice lattice = grid(6, 4);
    const Listing listing = listing_of(lattice);
    EXPECT_EQ(*with_turned_over("2..5,0 1,1", 3, listing), "2,0 4,0 5,0 1,1");
    EXPECT_EQ(*with_turned_over("0 -1,-1 0,0", 0, listing), "-1,-1");
    EXPECT_EQ(*with_turned_over("*,3;-1,-1", 23, listing), "0,3 1,3 2,3 3,3 4,3");
    EXPECT_EQ(*with_turned_over("x 0,0", 0, listing), "x 0,0 0,0")
        << "a list that cannot be read names nothing";
    for (const char* text : {"0..9", "*,*", "*,1 1,* 3,1", "-3..-1,0 2..3,1..2"})
        for (std::size_t entry = 0; entry < lattice.address_count(); ++entry) {
            std::vector<std::uint8_t> wanted = named_addresses(text, lattice)->mask;
            wanted[entry] = wanted[entry] != 0 ? 0 : 1;
            EXPECT_EQ(named_addresses(*with_turned_over(text, entry, listing), lattice)->mask, wanted)
                << text << " " << entry;
        }
}

TEST(Addresses, ThousandsAreNotWrittenOutForOnePick) {
    const PointLattice lattice = grid(100, 100);
    const auto refused = with_turned_over("*,*", 7, listing_of(lattice));
    ASSERT_FALSE(refused);
    EXPECT_EQ(sentence(refused.error()), "‘*,*’ names 10000 at once. Type what is to be left of it.");
    EXPECT_TRUE(with_turned_over("*,7", 700, listing_of(lattice)));
}

TEST(KeepAddresses, SurviveAChangeOfSizeAndSaySo) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("points.keep_addresses", "picked");
    maker.set("picked", "addresses", Lines{"2,2 20,10"});
    EXPECT_EQ(std::get<PointLattice>(test::value_of(test::run(maker.study), "picked")).point_count(), 2U);
    maker.number("grid", "columns", "10");
    const Evaluation smaller = test::run(maker.study);
    EXPECT_EQ(std::get<PointLattice>(test::value_of(smaller, "picked")).point_count(), 1U);
    ASSERT_EQ(smaller.outcome("picked")->remarks.size(), 1U);
    EXPECT_NE(smaller.outcome("picked")->remarks[0].text.find("20,10"), std::string::npos);
    maker.number("grid", "rows", "1");
    EXPECT_EQ(test::error_of(test::run(maker.study), "picked").code, ErrorCode::empty_input);
    maker.word("picked", "side", "without").word("picked", "gaps", "close").number("grid", "rows", "16");
    EXPECT_EQ(std::get<PointLattice>(test::value_of(test::run(maker.study), "picked")).point_count(),
              11U * 17U - 1);
}

TEST(Remarks, ComeBackFromTheCache) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("points.keep_addresses", "picked");
    maker.set("picked", "addresses", Lines{"2,2 99,99"});
    ResultStore cache(100'000'000);
    const auto first = test::run(maker.study, {}, &cache), second = test::run(maker.study, {}, &cache);
    EXPECT_TRUE(second.outcome("picked")->from_cache);
    EXPECT_EQ(first.outcome("picked")->remarks, second.outcome("picked")->remarks);
    EXPECT_EQ(second.outcome("picked")->remarks.size(), 1U);
}

TEST(PointTree, FindsWhatAPlainLoopFinds) {
    std::vector<Vec3> points;
    for (int at = 0; at < 700; ++at)
        points.push_back(
            {std::fmod(at * 0.717, 3.0), std::fmod(at * 0.311, 2.0), std::fmod(at * 0.123, 1.0)});
    points.insert(points.end(), 40, {1, 1, 1});  // all in one place
    const PointTree tree(points);
    for (std::size_t from = 0; from < points.size(); from += 13) {
        std::set<std::size_t> found, expected;
        tree.for_each_within(points[from], 0.3, [&](std::size_t other, double distance) {
            EXPECT_EQ(distance, length(points[other] - points[from]));
            return found.insert(other).second;
        });
        const Vec3 beside = points[from] + Vec3{0.05, -0.4, 0.7};
        double least = std::numeric_limits<double>::infinity();
        for (std::size_t other = 0; other < points.size(); ++other) {
            if (length(points[other] - points[from]) <= 0.3) expected.insert(other);
            least = std::min(least, dot(points[other] - beside, points[other] - beside));
        }
        EXPECT_EQ(found, expected);
        EXPECT_NEAR(tree.nearest_square(beside), least, 1e-15 * (1 + least));
    }
}

TEST(PointTree, WhatLiesExactlyAtTheReachCounts) {
    const std::vector<Vec3> points{{0, 0, 0}, {0.3, 0, 0}, {0.1, 0.2, 0.2}, {0, 0, 0}};
    const PointTree tree(points);
    const auto count = [&](double reach) {
        std::size_t found = 0;
        tree.for_each_within({}, reach, [&](std::size_t, double) { return ++found > 0; });
        return found;
    };
    EXPECT_EQ(count(0), 2U);
    EXPECT_EQ(count(0.3), length(points[2]) <= 0.3 ? 4U : 3U);
    EXPECT_EQ(count(0.29), 2U);
    std::size_t first = 0;
    tree.for_each_within({}, 1, [&](std::size_t, double) { return ++first < 2; });
    EXPECT_EQ(first, 2U) << "stops when it is told to";
    const PointTree none(std::span<const Vec3>{});
    EXPECT_EQ(none.nearest_square({}), std::numeric_limits<double>::infinity());
    none.for_each_within({}, 1, [](std::size_t, double) -> bool { throw std::logic_error("nothing there"); });
}

TEST(Coincident, GoesWithTheFirstOfTheFirsts) {
    // Along a line at steps of 0.4: with a tolerance of 1 the firsts stand three steps apart.
    std::vector<Vec3> line;
    for (int at = 0; at < 30; ++at)
        line.push_back({at * 0.4, 0, 0});
    const auto first = first_within(line, 1);
    for (std::size_t at = 0; at < line.size(); ++at)
        EXPECT_EQ(first[at], at - at % 3) << at;
}

TEST(Coincident, TheFirstStays) {
    for (const auto& [name, lattice] : test::pathological()) {
        std::vector<Vec3> points;
        for (std::size_t index = 0; index < lattice.address_count(); ++index)
            points.push_back(lattice.point(index));
        const auto first = first_within(points, 0);
        for (std::size_t at = 0; at < points.size(); ++at) {
            EXPECT_LE(first[at], at) << name;
            EXPECT_EQ(points[first[at]], points[at]) << name;
        }
    }
    StudyMaker maker;
    maker.add("points.typed", "typed");
    maker.set("typed", "rows", Lines{"0 0 0\n1 0 0\n0.0005 0 0\n1 0 0"});
    maker.add("points.unique", "unique");
    EXPECT_EQ(std::get<PointLattice>(test::value_of(test::run(maker.study), "unique")).point_count(), 2U);
    maker.number("unique", "tolerance", "0");
    EXPECT_EQ(std::get<PointLattice>(test::value_of(test::run(maker.study), "unique")).point_count(), 3U);
}

TEST(KeepNear, AgainstAPlainLoop) {
    StudyMaker maker = test::canopy();
    maker.add("points.keep_near", "near");
    maker.set("near", "points", ResultName{"lattice"}).set("near", "things", ResultName{"perches"});
    maker.word("near", "side", "closer").number("near", "distance", "5 m");
    const auto near = std::get<PointLattice>(test::value_of(test::run(maker.study), "near"));
    for (std::size_t index = 0; index < near.address_count(); ++index) {
        const Vec3 p = near.point(index);
        const bool within = length(p - Vec3{-6, -3, 0}) <= 5 || length(p - Vec3{7, 4, 0}) <= 5;
        EXPECT_EQ(near.present(index), within) << index;
    }
    maker.number("near", "distance", "0.01 m").number("lattice", "columns", "23");
    EXPECT_EQ(test::error_of(test::run(maker.study), "near").code, ErrorCode::empty_input);
}

TEST(Sort, ByNumberAxisAndWalk) {
    StudyMaker maker;
    maker.add("points.typed", "typed");
    maker.set("typed", "rows", Lines{"x,y,z,w\n3,0,0,2\n1,0,0,9\n2,0,0,4\n10,0,0,1"});
    maker.add("points.sort", "sorted");
    const auto order = [&] {
        const auto sorted = std::get<PointLattice>(test::value_of(test::run(maker.study), "sorted"));
        EXPECT_EQ(sorted.arrangement(), Arrangement::row);
        return std::vector<double>(sorted.x().data(), sorted.x().data() + 4);
    };
    maker.word("sorted", "by", "x");
    EXPECT_EQ(order(), (std::vector<double>{1, 2, 3, 10}));
    maker.word("sorted", "sense", "falling");
    EXPECT_EQ(order(), (std::vector<double>{10, 3, 2, 1}));
    maker.word("sorted", "by", "order");
    EXPECT_EQ(order(), (std::vector<double>{10, 2, 1, 3})) << "their own, reversed";
    maker.word("sorted", "by", "walk").word("sorted", "sense", "rising");
    EXPECT_EQ(order(), (std::vector<double>{3, 2, 1, 10}));
}

TEST(Sort, WalksGoToTheNearestThatIsLeft) {
    const PointLattice lattice =
        grid(17, 13, [](double i, double j) { return std::sin(i * 1.7) + std::cos(j * 2.3); });
    const auto walk = *nearest_walk(lattice, plume::Run());
    ASSERT_EQ(walk.size(), lattice.point_count());
    std::set<std::size_t> left(walk.begin(), walk.end());
    EXPECT_EQ(left.size(), walk.size());
    for (std::size_t at = 0; at + 1 < walk.size(); ++at) {
        left.erase(walk[at]);
        double least = 1e300;
        for (const std::size_t other : left)
            least = std::min(least, length(lattice.point(other) - lattice.point(walk[at])));
        EXPECT_DOUBLE_EQ(length(lattice.point(walk[at + 1]) - lattice.point(walk[at])), least);
    }
}

TEST(Reverse, TwiceIsIdentityAndNeighboursStay) {
    for (const char* direction : {"i", "j", "all"}) {
        StudyMaker maker;
        maker.add("lattice.rectangular", "grid");
        maker.add("points.reverse", "once");
        maker.add("points.reverse", "twice");
        maker.word("once", "direction", direction).word("twice", "direction", direction);
        const Evaluation evaluation = test::run(maker.study);
        const PointLattice grid = *lattice_of(test::value_of(evaluation, "grid"));
        const PointLattice once = *lattice_of(test::value_of(evaluation, "once"));
        const PointLattice twice = *lattice_of(test::value_of(evaluation, "twice"));
        EXPECT_TRUE(once.same_arrangement(grid));
        EXPECT_NE(once.point(0), grid.point(0));
        for (std::size_t index = 0; index < grid.address_count(); ++index)
            EXPECT_EQ(twice.point(index), grid.point(index));
        EXPECT_NEAR(length(once.point(1) - once.point(0)), 1.5, 1e-12);
    }
    StudyMaker maker;
    maker.add("lattice.triangular", "tri");
    maker.add("points.reverse", "turned");
    EXPECT_EQ(test::error_of(test::run(maker.study), "turned").code, ErrorCode::wrong_kind);
}

// Posts ---------------------------------------------------------------------------------------------------

TEST(Posts, AreClosedSolidsOfTheRightVolume) {
    std::vector<Post> posts;
    double boxes = 0, prisms = 0;
    const double polygon = 7 * 0.5 * std::sin(2 * std::numbers::pi / 7);
    for (int at = 0; at < 20; ++at) {
        Post post;
        post.placement = placement_of({at * 3.0, 0, at * 0.1}, {std::sin(at), 0.3, 1}, {1, 0, 0});
        post.radius = 0.1 + 0.05 * at;
        post.width = 0.2 + 0.1 * at;
        post.depth = 0.3;
        post.height = at % 2 == 0 ? 2 : -1.5;
        post.turn_rad = 0.3 * at;
        posts.push_back(post);
        boxes += post.width * post.depth * std::abs(post.height);
        prisms += polygon * post.radius * post.radius * std::abs(post.height);
    }
    const Mesh box = *posts_mesh(posts, {Footprint::box, 4}, plume::Run());
    EXPECT_NEAR(test::volume(box), boxes, 1e-9);
    EXPECT_EQ(test::open_edges(box), 0U);
    EXPECT_EQ(box.face_count(), 20U * 6U);
    const Mesh prism = *posts_mesh(posts, {Footprint::polygon, 7}, plume::Run());
    EXPECT_NEAR(test::volume(prism), prisms, 1e-9);
    EXPECT_EQ(test::open_edges(prism), 0U);
}

Post upright(double x, double y, double radius, double turn = 0) {
    Post post;
    post.placement.origin = {x, y, 0};
    post.radius = radius;
    post.width = post.depth = 2 * radius;
    post.turn_rad = turn;
    return post;
}

TEST(Overlaps, PairsAndDepths) {
    const PostPlan circles{Footprint::circle, 16}, boxes{Footprint::box, 4};
    const std::vector<Post> row{upright(0, 0, 1), upright(1.5, 0, 1), upright(3.5, 0, 1), upright(9, 0, 1)};
    const Overlaps found = *post_overlaps(row, circles, plume::Run());
    EXPECT_EQ(found.pairs, 1U) << "the second and the third only touch";
    EXPECT_NEAR(found.worst_depth, 0.5, 1e-12);
    EXPECT_EQ(found.worst_first, 0U);
    EXPECT_EQ(found.worst_second, 1U);
    // Squares at a corner: circles of the same radius would be apart.
    const std::vector<Post> corner{upright(0, 0, 1), upright(1.6, 1.6, 1)};
    EXPECT_EQ(post_overlaps(corner, circles, plume::Run())->pairs, 0U);
    EXPECT_NEAR(post_overlaps(corner, boxes, plume::Run())->worst_depth, 0.4, 1e-12);
    // Turned by 45 degrees they are apart again.
    const std::vector<Post> turned{upright(0, 0, 1, std::numbers::pi / 4),
                                   upright(1.6, 1.6, 1, std::numbers::pi / 4)};
    EXPECT_EQ(post_overlaps(turned, boxes, plume::Run())->pairs, 0U);
    // One above the other.
    std::vector<Post> stacked{upright(0, 0, 1), upright(0.1, 0, 1)};
    stacked[1].placement.origin.z = 1;
    EXPECT_EQ(post_overlaps(stacked, circles, plume::Run())->pairs, 0U);
}

TEST(Overlaps, AgainstAPlainLoop) {
    std::vector<Post> posts;
    for (int at = 0; at < 400; ++at)
        posts.push_back(
            upright(std::fmod(at * 7.13, 20.0), std::fmod(at * 3.71, 20.0), 0.1 + std::fmod(at * 0.37, 0.6)));
    std::size_t pairs = 0;
    double worst = 0;
    for (std::size_t a = 0; a < posts.size(); ++a)
        for (std::size_t b = a + 1; b < posts.size(); ++b) {
            const double depth = posts[a].radius + posts[b].radius -
                                 length(posts[a].placement.origin - posts[b].placement.origin);
            pairs += depth > 1e-9 ? 1 : 0;
            worst = std::max(worst, depth);
        }
    const Overlaps found = *post_overlaps(posts, {Footprint::circle, 16}, plume::Run());
    EXPECT_EQ(found.pairs, pairs);
    EXPECT_NEAR(found.worst_depth, worst, 1e-12);
}

TEST(Posts, StepReadsFieldsAndReportsWhatItLeavesOut) {
    StudyMaker maker = test::canopy();
    maker.add("mesh.posts", "posts");
    maker.set("posts", "points", ResultName{"rise"});
    maker.formula("posts", "radius = 0.1 m\nheight = rise - 1 m").word("posts", "footprint", "circle");
    const Evaluation evaluation = test::run(maker.study);
    EXPECT_TRUE(std::holds_alternative<Mesh>(test::value_of(evaluation, "posts")));
    EXPECT_FALSE(evaluation.outcome("posts")->remarks.empty());
    maker.formula("posts", "radius = -1 m\nheight = 1 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "posts").code, ErrorCode::empty_input);
    maker.formula("posts", "height = 1 m");
    EXPECT_NE(test::error_of(test::run(maker.study), "posts").message.find("radius"), std::string::npos);
    maker.formula("posts", "radius = 30°\nheight = 1 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "posts").code, ErrorCode::unit_mismatch);
    maker.word("posts", "footprint", "box")
        .formula("posts", "width = 1 m\ndepth = 2 m\nheight = 3 m\nturn = 10°");
    const Mesh mesh = std::get<Mesh>(test::value_of(test::run(maker.study), "posts"));
    EXPECT_NEAR(test::volume(mesh), 425 * 6, 1e-6);
}

// Flattening ----------------------------------------------------------------------------------------------

Mesh bent_by(const std::string& height) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("points.move_formula", "bent");
    maker.formula("bent", height);
    maker.add("skin", "skin");
    maker.word("skin", "surface", "flat");
    return std::get<Mesh>(test::value_of(test::run(maker.study), "skin"));
}

TEST(Flatten, OneByOneEveryPanelIsFlat) {
    const Mesh mesh = bent_by("to_z = x * y / 40 m");
    const Flattened flat = *flattened_apart(mesh, plume::Run());
    // A quad of z = x y / 40 over 1.5 x 1.5 has its corners 1.5^2 / 160 off its plane, but for the slope.
    EXPECT_NEAR(flat.worst_before, 1.5 * 1.5 / 160, 2e-3);
    EXPECT_LT(flat.worst_after, 1e-12);
    EXPECT_GT(flat.worst_gap, 0.01);
    EXPECT_EQ(flat.mesh.face_count(), mesh.face_count());
    EXPECT_EQ(flat.mesh.vertex_count(), mesh.corner_count());
}

TEST(Flatten, PolygonsComeToLieOnTheirPlanes) {
    StudyMaker maker;
    maker.add("outline.drawn", "crooked");
    maker.word("crooked", "ends", "open");
    maker.set("crooked", "corners",
              Places{{"a", "0 m", "0 m", "0.3 m", "1"},
                     {"b", "4 m", "0 m", "-0.3 m", "1"},
                     {"c", "4 m", "3 m", "0.3 m", "1"},
                     {"d", "0 m", "3 m", "-0.3 m", "1"}});
    maker.add("mesh.flatten", "flat");
    maker.set("flat", "panels", ResultName{"crooked"});
    const Evaluation evaluation = test::run(maker.study);
    const CurveSet flat = std::get<CurveSet>(test::value_of(evaluation, "flat"));
    const SplineCurve& curve = flat.curves.front();
    const Vec3 origin = curve.pole(0), normal = cross(curve.pole(1) - origin, curve.pole(3) - origin);
    EXPECT_LT(std::abs(dot(curve.pole(2) - origin, unit_or_zero(normal))), 1e-12);
    EXPECT_NE(evaluation.outcome("flat")->remarks.front().text.find("0.3 m"), std::string::npos);
}

TEST(Flatten, TogetherTheyStayJoined) {
    const Mesh mesh = bent_by("to_z = 0.2 m * random(1)");
    const Flattened flat = *flattened_together(mesh, 1e-4, 600, plume::Run());
    EXPECT_LT(flat.worst_after, flat.worst_before / 10);
    EXPECT_EQ(flat.mesh.vertex_count(), mesh.vertex_count());
    EXPECT_EQ(test::open_edges(flat.mesh), test::open_edges(mesh));
    EXPECT_LT(flattened_together(mesh, 1, 10, plume::Run())->rounds, 1U) << "flat enough already";
}

TEST(Flatten, TwistingGridsConverge) {
    // Waves both ways, which twist everywhere.
    const Mesh mesh = bent_by("to_z = 0.4 m * sin(x * 40° / 1 m) * sin(y * 40° / 1 m)");
    const Flattened flat = *flattened_together(mesh, 1e-5, 400, plume::Run());
    EXPECT_GT(flat.worst_before, 0.005);
    EXPECT_LE(flat.worst_after, 1e-5) << "after " << flat.rounds << " rounds";
}

}  // namespace
}  // namespace plume
