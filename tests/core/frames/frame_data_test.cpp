// Nodes and members: what a frame refuses, what it is named by, what is made of several.

#include "core/data/bar_frame.hpp"

#include <limits>

#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/frames/frame_figures.hpp"
#include "core/geometry/frames/joined_frames.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

PointLattice square() {
    return points_at({Arrangement::grid, {2, 2, 1}, {}},
                     std::vector<Vec3>{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {1, 1, 0}});
}

std::string refusal(BarFrame::Parts parts) {
    const Result<BarFrame> made = BarFrame::make(std::move(parts));
    return made ? "made" : sentence(made.error());
}

TEST(BarFrame, MembersAreNamedByTheAddressesOfTheirEnds) {
    const auto frame = BarFrame::make({square(), {{0, 1, Way::along_i, 0}, {1, 3, Way::along_j, 1}}});
    ASSERT_TRUE(frame);
    EXPECT_EQ(member_mark(*frame, frame->members()[0]), "0,0–1,0");
    EXPECT_EQ(member_mark(*frame, frame->members()[1]), "1,0–1,1");
    EXPECT_EQ(frame->node_count(), 3U) << "the point that no member ends at is no node";
    EXPECT_FALSE(frame->nodes().present(2));
    EXPECT_EQ(valences_of(*frame), (std::vector<std::uint32_t>{1, 2, 0, 1}));
    EXPECT_DOUBLE_EQ(frame->length_of(frame->members()[1]), 1);
}

TEST(BarFrame, DoubledMembersAndThoseWithoutLengthAreRefused) {
    EXPECT_NE(refusal({square(), {{0, 1}, {1, 0}}}).find("two members between the same nodes"),
              std::string::npos);
    EXPECT_NE(refusal({square(), {{0, 1}, {2, 3}, {0, 1}}}).find("two members"), std::string::npos);
    EXPECT_NE(refusal({square(), {{2, 2}}}).find("ends where it begins"), std::string::npos);
    EXPECT_NE(refusal({square(), {{0, 4}}}).find("ends at no node"), std::string::npos);
    EXPECT_NE(refusal({with_gaps(square(), {1, 0, 1, 1}), {{0, 1}}}).find("ends at a gap"),
              std::string::npos);
    const PointLattice folded = points_at({Arrangement::grid, {2, 2, 1}, {}},
                                          std::vector<Vec3>{{0, 0, 0}, {1, 0, 0}, {1, 0, 0}, {1, 1, 0}});
    EXPECT_EQ(refusal({folded, {{0, 1}, {1, 2}}}),
              "The member 1,0–0,1 has no length: both its ends are at one place. Move one of them, or merge "
              "coincident points before.");
    const PointLattice lost =
        points_at({Arrangement::row, {2, 1, 1}, {}},
                  std::vector<Vec3>{{0, 0, 0}, {std::numeric_limits<double>::quiet_NaN(), 0, 0}});
    EXPECT_EQ(refusal({lost, {{0, 1}}}),
              "The member 0–1 ends at the node 1, which is at no finite place. Mend the coordinates of that "
              "point.");
    EXPECT_NE(
        refusal({square(), {{0, 1}}, {{"load", Doubles{1, 2}, plain_number}}}).find("one number of each"),
        std::string::npos);
}

TEST(BarFrame, MovedNodesAreLookedAtAgain) {
    const auto frame = BarFrame::make({square(), {{0, 1}, {0, 2}}});
    const Column zeros = Doubles(4, 0.0);
    const auto flat = frame->with_nodes(frame->nodes().moved(zeros, frame->nodes().y(), zeros));
    ASSERT_FALSE(flat);
    EXPECT_EQ(flat.error().where, "The member 0,0–1,0");
    const auto higher =
        frame->with_nodes(frame->nodes().moved(frame->nodes().x(), frame->nodes().y(), Doubles(4, 7.0)));
    ASSERT_TRUE(higher);
    EXPECT_EQ(higher->start(higher->members()[0]).z, 7);
    EXPECT_EQ(higher->members(), frame->members());
}

TEST(FrameAssembly, TheFirstOfLikeMembersStaysWithItsNumbers) {
    const plume::Run run;
    const auto frame = assembled_frame(
        {square(), {{0, 1}, {1, 0}, {2, 3}, {0, 1}}, {{"load", Doubles{1, 2, 3, 4}, plain_number}}}, run);
    ASSERT_TRUE(frame);
    EXPECT_EQ(frame->members(), (std::vector<Member>{{0, 1}, {2, 3}}));
    EXPECT_EQ(frame->fields()[0].values[1], 3);
    const auto remarks = run.take_remarks();
    ASSERT_EQ(remarks.size(), 1U);
    EXPECT_EQ(remarks[0].text, "2 members between nodes that are joined already were left out.");
    const auto none = assembled_frame({square(), {}}, run);
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::empty_input);
}

TEST(FrameAssembly, PointsAtOnePlaceBecomeOneNode) {
    // The apex of a tent, three times.
    const PointLattice tent =
        points_at({Arrangement::grid, {3, 2, 1}, {true, false, false}},
                  std::vector<Vec3>{{1, 0, 0}, {-1, 1, 0}, {-1, -1, 0}, {0, 0, 2}, {0, 0, 2}, {0, 0, 2}});
    const plume::Run run;
    const auto frame = assembled_frame(
        {tent, {{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 4}, {2, 5}, {3, 4}, {4, 5}, {5, 3}}}, run);
    ASSERT_TRUE(frame) << sentence(frame.error());
    EXPECT_EQ(frame->node_count(), 4U);
    EXPECT_EQ(frame->member_count(), 6U);
    EXPECT_EQ(valences_of(*frame)[3], 3U);
    EXPECT_EQ(run.take_remarks().front().text,
              "2 nodes became one with another at the same place; 3 members between them, or beside another, "
              "left out.");
}

TEST(JoinedFrames, SeamsBecomeOneAndMarksSayWhichFrame) {
    const plume::Run run;
    const auto left = BarFrame::make({square(), {{0, 1}, {1, 3}, {3, 2}, {2, 0}}});
    const PointLattice beside =
        left->nodes().moved(Doubles{1, 2, 1, 2}, left->nodes().y(), left->nodes().z());
    const auto right = left->with_nodes(beside);
    const auto joined = joined_frames({*left, *right}, run);
    ASSERT_TRUE(joined);
    EXPECT_EQ(joined->member_count(), 7U) << "the post between them is one";
    EXPECT_EQ(joined->node_count(), 6U);
    EXPECT_EQ(member_mark(*joined, joined->members()[0]), "1:0,0–1:1,0");
    EXPECT_EQ(member_mark(*joined, joined->members()[4]), "1:1,0–2:1,0") << "from the node that stayed";
    const FrameFigures figures = figures_of(*joined);
    EXPECT_EQ(figures.pieces, 1U);
    EXPECT_DOUBLE_EQ(figures.total_length, 7);
    EXPECT_EQ(figures.least_valence, 2U);
    EXPECT_EQ(figures.most_valence, 3U);
}

}  // namespace
}  // namespace plume
