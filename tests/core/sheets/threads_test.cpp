// Threads that fall: against closed forms, and that none goes through another.

#include "core/sheets/threads.hpp"

#include <cmath>
#include <numbers>

#include "core/geometry/parts/scattered.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/sheets/falling_sheet.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double frame_s = 1.0 / 30, gravity = 9.81;

// Rows of nodes that are joined one after the other.
BarFrame threads_of(const std::vector<std::vector<Vec3>>& rows) {
    std::vector<Vec3> at;
    std::vector<Member> members;
    for (const auto& row : rows)
        for (const Vec3& place : row) {
            at.push_back(place);
            if (&place != &row.front()) {
                const auto end = static_cast<std::uint32_t>(at.size() - 1);
                members.push_back({end - 1, end});
            }
        }
    return *BarFrame::make({scattered(at, {}), std::move(members)});
}

std::vector<Vec3> row_between(Vec3 from, Vec3 to, int pieces) {
    std::vector<Vec3> row;
    for (int at = 0; at <= pieces; ++at)
        row.push_back(from + (to - from) * (static_cast<double>(at) / pieces));
    return row;
}

std::vector<Vec3> places_of(const BarFrame& frame) {
    std::vector<Vec3> places;
    for (std::size_t at = 0; at < frame.nodes().address_count(); ++at)
        places.push_back(frame.nodes().point(at));
    return places;
}

class Threads : public testing::Test {
protected:
    void make(const BarFrame& frame, const ThreadMaterial& material, double longer = 0) {
        start = places_of(frame);
        const auto lengths = lengths_between(start, std::vector<double>(start.size(), longer));
        sheet = *make_threads(frame, *lengths, material);
        state = {start, std::vector<Vec3>(start.size())};
        firmness.assign(start.size(), 0);
    }
    SheetReport fall(double seconds) {
        FallingSheet falling(sheet, start);
        falling.put_among(obstacle, forces);
        SheetReport report;
        for (double now = 0; now < seconds; now += frame_s)
            report = *falling.advance(state, {firmness, state.at, start}, frame_s, plume::Run());
        return report;
    }
    double lowest() const { return std::ranges::min(state.at, {}, &Vec3::z).z; }

    std::vector<Vec3> start;
    Sheet sheet;
    Obstacle obstacle;
    SheetForces forces;
    SheetState state;
    std::vector<double> firmness;
};

// With length s over a span l: s = 2 a sinh(l / 2a), and it sags by a (cosh(l / 2a) - 1).
TEST_F(Threads, OneThatHangsIsACatenary) {
    make(threads_of({row_between({0, 0, 0}, {2, 0, 0}, 60)}), {2e-3, 0.01, 500, 1e-9}, 0.25);
    firmness.front() = firmness.back() = 1;
    forces.calm = 0.9;
    forces.thickness = 1e-4;
    start.front() = state.at.front();
    state.at[30].y = 1e-3;
    fall(8);
    double low = 0.1, high = 10;
    for (int halving = 0; halving < 60; ++halving) {
        const double a = (low + high) / 2;
        (2 * a * std::sinh(1 / a) > 2.5 ? low : high) = a;
    }
    const double sag = low * (std::cosh(1 / low) - 1);
    EXPECT_NEAR(-lowest(), sag, 0.01 * sag);
    EXPECT_LT(fall(frame_s).most_stretched, 1e-3);
}

// By its own weight one that hangs from its end gets longer by w g l^2 / (2 EA).
TEST_F(Threads, ItStretchesByItsOwnWeight) {
    make(threads_of({row_between({0, 0, 0}, {0, 0, -4}, 40)}), {2e-3, 0.05, 20, 0});
    firmness.front() = 1;
    forces.calm = 0.95;
    fall(6);
    EXPECT_NEAR(-4 - lowest(), 0.05 * gravity * 16 / (2 * 20), 2e-3);
}

// Clamped at one end it bends down by w g l^4 / (8 EI), as long as that is little.
TEST_F(Threads, ItBendsAsABeamDoes) {
    const double bending = 2.0, weight = 0.05, reach = 1;
    make(threads_of({row_between({-0.025, 0, 0}, {reach, 0, 0}, 41)}), {8e-3, weight, 2e4, bending});
    firmness[0] = firmness[1] = 1;
    forces.calm = 0.95;
    fall(4);
    EXPECT_NEAR(-lowest(), weight * gravity * std::pow(reach, 4) / (8 * bending), 2e-3);
}

// Hung by one end in a level wind, a piece leans as its drag is to its weight.
TEST_F(Threads, WindBlowsAcrossThem) {
    make(threads_of({row_between({0, 0, 0}, {0, 0, -0.5}, 1)}), {0.01, 0.02, 1e3, 0});
    firmness[0] = 1;
    forces.wind = {5, 0, 0};
    forces.calm = 0.9;
    fall(8);
    const Vec3 way = state.at[1] - state.at[0];
    const double lean = std::atan2(way.x, -way.z);
    // Across the thread the wind is slower by the cosine; about the held end weight and drag balance.
    const double drag = 1.2 * 1.2 / 2 * 0.01 * 25 * std::cos(lean) * std::cos(lean);
    EXPECT_NEAR(drag, 0.02 * gravity * std::sin(lean), 2e-3);
    EXPECT_GT(lean, 0.3);
}

double least_apart(const std::vector<Vec3>& at, std::uint32_t first, std::uint32_t second,
                   std::uint32_t end) {
    double least = 1e9;
    for (std::uint32_t a = first; a + 1 < second; ++a)
        for (std::uint32_t b = second; b + 1 < end; ++b)
            least = std::min(least, length(nearest_of_segments(at[a], at[a + 1], at[b], at[b + 1]).apart));
    return least;
}

// One falls across another that is taut, and lies on it; both ends hang down beside it.
TEST_F(Threads, NoneGoesThroughAnother) {
    make(threads_of(
             {row_between({-1, 0, 0}, {1, 0, 0}, 20), row_between({0.03, -1, 0.2}, {0.03, 1, 0.2}, 30)}),
         {4e-3, 0.02, 800, 1e-6});
    firmness[0] = firmness[20] = 1;
    forces.thickness = 4e-3;
    forces.friction = 0.6;
    double least = 1e9;
    for (int frame = 0; frame < 90; ++frame) {
        fall(frame_s * 0.99);
        least = std::min(least, least_apart(state.at, 0, 21, 52));
    }
    EXPECT_GT(least, 0);
    EXPECT_LT(state.at[21].z, -0.3) << "it hangs over it";
    EXPECT_LT(state.at[51].z, -0.3);
    EXPECT_GT(std::ranges::max(std::span(state.at).subspan(21), {}, &Vec3::z).z, -0.3) << "and is carried";
}

TEST_F(Threads, ANetKnotsAndItsThreadsGoOn) {
    // Two threads along x and two along y over a lattice of 3 by 3: bends only where one goes straight on.
    const PointLattice nodes = test::grid(3, 3);
    BarFrame::Parts parts{nodes, {}};
    for (std::uint32_t j = 0; j < 3; ++j)
        for (std::uint32_t i = 0; i < 2; ++i) {
            parts.members.push_back({3 * j + i, 3 * j + i + 1, Way::along_i, j});
            parts.members.push_back({3 * i + j, 3 * i + j + 3, Way::along_j, j});
        }
    const BarFrame net = *BarFrame::make(std::move(parts));
    const auto lengths = lengths_between(places_of(net));
    const Sheet made = *make_threads(net, *lengths, {});
    EXPECT_EQ(made.springs.size(), 12U);
    EXPECT_EQ(made.hinges.size(), 3U + 3U + 4U) << "six that go straight on, and the four corners of two";
    double mass = 0;
    for (const double one : made.mass)
        mass += one;
    double all = 0;
    for (const Member& member : net.members())
        all += net.length_of(member);
    EXPECT_NEAR(mass, all * ThreadMaterial{}.weight, 0.02 * all * ThreadMaterial{}.weight);
}

TEST_F(Threads, BadOnesAreRefused) {
    const BarFrame frame = threads_of({row_between({0, 0, 0}, {1, 0, 0}, 3)});
    std::vector<Vec3> same = places_of(frame);
    same[1] = same[2];
    EXPECT_EQ(make_threads(frame, *lengths_between(same), {}).error().code, ErrorCode::out_of_range);
    same[1].x = NAN;
    EXPECT_EQ(lengths_between(same).error().code, ErrorCode::not_finite);
}

}  // namespace
}  // namespace plume
