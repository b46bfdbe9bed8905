// Schedules: members, nodes, panels and curves as tables, in groups, and as files.

#include <cmath>
#include <limits>
#include <numbers>

#include "core/data/bar_frame.hpp"
#include "core/exchange/export_jobs.hpp"
#include "core/geometry/parts/scattered.hpp"
#include "core/results/columns.hpp"
#include "core/results/grouped_table.hpp"
#include "core/results/sorted_table.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using std::numbers::pi;
using test::StudyMaker;
using test::value_of;

const TableColumn& column(const Table& table, const std::string& name) {
    const auto found = std::ranges::find(table.columns, name, &TableColumn::name);
    EXPECT_NE(found, table.columns.end()) << name;
    return found == table.columns.end() ? table.columns.front() : *found;
}
std::size_t place_of(const Table& table, const std::string& name) {
    return static_cast<std::size_t>(&column(table, name) - table.columns.data());
}

// Sides of 3, 5 and 4 m, and a bar of 1 m that ends free.
BarFrame triangle() {
    return *BarFrame::make(
        {scattered({{0, 0, 0}, {3, 0, 0}, {0, 4, 0}, {0, 0, 1}}),
         {{0, 1, Way::along_i, 0}, {1, 2, Way::diagonal, 0}, {2, 0, Way::along_j, 0}, {0, 3, Way::web, 0}},
         {{"family", Doubles{1, 2, 1, 3}, plain_number},
          {"mass_kg", Doubles{30, 50, 40, 10}, plain_number}}});
}

std::string csv_of(const Value& value, const std::string& rows, const std::string& group_by = {}) {
    std::string text;
    ExportJob job = test::job_of(value, "net");
    job.rows = rows;
    job.group_by = group_by;
    const auto written = write_csv(
        job, [&](std::string_view piece) { text += piece; }, plume::Run());
    return written ? text : sentence(written.error());
}

TEST(Schedules, NodesAndTheAnglesBetweenTheirMembers) {
    const Value frame = triangle();
    EXPECT_EQ(rows_of(frame), (std::vector<std::string>{"members", "nodes"}));
    const Table nodes = columns_of(frame, "nodes");
    ASSERT_EQ(nodes.row_count, 4U);
    EXPECT_EQ(column(nodes, "mark").text(1), "1");
    EXPECT_EQ(column(nodes, "members").number(0), 3);
    const std::vector<double> corner = column(nodes, "angles").list(0),
                              sharp = column(nodes, "angles").list(1);
    ASSERT_EQ(corner.size(), 3U);
    for (const double angle : corner)
        EXPECT_NEAR(angle, pi / 2, 1e-12);
    ASSERT_EQ(sharp.size(), 1U);
    EXPECT_NEAR(sharp[0], std::atan2(4, 3), 1e-12);
    EXPECT_TRUE(column(nodes, "angles").list(3).empty());
    // Nodes are items behind the four members.
    EXPECT_EQ(nodes.item_of_row(2), 6U);
    EXPECT_EQ(nodes.row_of_item(6), 2U);
    EXPECT_FALSE(nodes.row_of_item(1));
    EXPECT_EQ(csv_of(frame, "nodes"),
              "mark,x m,y m,z m,members,angles °\n0,0,0,0,3,90 90 "
              "90\n1,3,0,0,2,53.1301\n2,0,4,0,2,36.8699\n3,0,0,1,1,\n");
}

TEST(Schedules, CutsAreHalfTheLeastAngle) {
    const Value frame = triangle();
    const Table members = columns_of(frame);
    EXPECT_NEAR(column(members, "from_cut").number(0), pi / 4, 1e-12);
    EXPECT_NEAR(column(members, "to_cut").number(0), std::atan2(4, 3) / 2, 1e-12);
    EXPECT_NEAR(column(members, "from_cut").number(1), std::atan2(4, 3) / 2, 1e-12);
    EXPECT_NEAR(column(members, "to_cut").number(1), std::atan2(3, 4) / 2, 1e-12);
    EXPECT_NEAR(column(members, "to_cut").number(3), pi / 2, 1e-12) << "a free end is cut square";
}

TEST(Schedules, GroupsHaveCountsTotalsAndMeans) {
    const Value frame = triangle();
    const Table members = columns_of(frame);
    const Table groups = grouped_by(members, place_of(members, "family"));
    ASSERT_EQ(groups.row_count, 3U);
    EXPECT_EQ(groups.rows_are, "groups of members");
    EXPECT_EQ(column(groups, "count").number(0), 2);
    EXPECT_EQ(column(groups, "total_length").number(0), 7);
    EXPECT_EQ(column(groups, "mean_length").number(0), 3.5);
    EXPECT_EQ(column(groups, "total_length").number(1), 5);
    EXPECT_EQ(groups.item_of_row(0), 0U);
    EXPECT_EQ(groups.row_of_item(2), 0U);
    EXPECT_EQ(groups.row_of_item(3), 2U);
    // By a text, in the order it is read; and grouped rows are sorted as others are.
    const Table ways = grouped_by(members, place_of(members, "way"));
    ASSERT_EQ(ways.row_count, 4U);
    EXPECT_EQ(column(ways, "way").text(0), "along i");
    const Table longest = sorted_by(ways, place_of(ways, "total_length"), true);
    EXPECT_EQ(column(longest, "way").text(0), "diagonal");
    EXPECT_FALSE(makes_groups(column(members, "length")));
}

TEST(Schedules, NumbersThatAreNotFiniteAreTheLastGroup) {
    const double inf = std::numeric_limits<double>::infinity();
    const Value frame = triangle().with_field({"load", Doubles{std::nan(""), 2, inf, 2}, plain_number});
    const Table members = columns_of(frame);
    const Table groups = grouped_by(members, place_of(members, "load"));
    ASSERT_EQ(groups.row_count, 2U);
    EXPECT_EQ(column(groups, "load").number(0), 2);
    EXPECT_EQ(column(groups, "count").number(1), 2);
    EXPECT_EQ(column(groups, "total_length").number(1), 3 + 4);
}

TEST(Schedules, ListsAreSortedByTheirFirstNumbers) {
    const Value frame = triangle();
    const Table nodes = columns_of(frame, "nodes");
    const Table sorted = sorted_by(nodes, place_of(nodes, "angles"), false);
    EXPECT_EQ(column(sorted, "mark").text(0), "3");
    EXPECT_EQ(column(sorted, "mark").text(1), "2");
    EXPECT_EQ(column(sorted, "mark").text(2), "1");
    EXPECT_EQ(column(sorted, "angles").list(3).size(), 3U);
}

TEST(Schedules, GroupsAreWrittenAsTheyAre) {
    EXPECT_EQ(csv_of(triangle(), "nodes", "members"), "members,count\n1,1\n2,2\n3,1\n");
    const std::string text = csv_of(triangle(), "", "way");
    EXPECT_EQ(text.substr(0, text.find('\n')),
              "way,count,total_length m,mean_length m,mean_from_cut °,mean_to_cut °");
}

TEST(Schedules, UnknownRowsAndGroupsAreRefused) {
    EXPECT_EQ(csv_of(triangle(), "panels"), "‘panels’ are not its rows. Choose members, nodes.");
    EXPECT_EQ(csv_of(triangle(), "members", "length"),
              "‘length’ makes no groups of members. Choose mark, way, row, from, to, family, mass_kg.");
    EXPECT_EQ(csv_of(Quantity{3, plain_number}, "", "value"),
              "‘value’ makes no groups of number. Nothing does.");
}

TEST(Schedules, PanelsTellTheirEdgesAnglesAndWarp) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.word("grid", "sizing", "spaced").number("grid", "pitch_u", "2 m").number("grid", "pitch_v", "1 m");
    maker.number("grid", "columns", "2").number("grid", "rows", "1");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"grid"})
        .word("skin", "surface", "flat")
        .word("skin", "facets", "quads");
    maker.add("mesh.panels", "panels");
    maker.set("panels", "mesh", ResultName{"skin"}).number("panels", "gap", "50 mm");
    for (const char* thickness : {"0 mm", "20 mm"}) {
        maker.number("panels", "thickness", thickness);
        const Value panels = value_of(test::run(maker.study), "panels");
        const Table table = columns_of(panels);
        ASSERT_EQ(table.row_count, 2U);
        const std::vector<double> edges = column(table, "edges").list(1);
        ASSERT_EQ(edges.size(), 4U);
        for (std::size_t at = 0; at < 4; ++at)
            EXPECT_NEAR(edges[at], at % 2 == 0 ? 1.9 : 0.9, 1e-12);
        for (const double angle : column(table, "angles").list(0))
            EXPECT_NEAR(angle, pi / 2, 1e-12);
        EXPECT_NEAR(column(table, "warp").number(0), 0, 1e-12);
    }
    const Value panels = value_of(test::run(maker.study), "panels");
    EXPECT_EQ(rows_of(panels), (std::vector<std::string>{"parts", "faces"}));
    EXPECT_EQ(columns_of(panels, "faces").row_count, 12U);
}

TEST(Schedules, CurvesAsWholes) {
    StudyMaker maker;
    maker.add("outline.shape", "loop");
    maker.number("loop", "radius", "2 m").word("loop", "shape", "circle");
    const Value curves = value_of(test::run(maker.study), "loop");
    const Table table = columns_of(curves, "curves");
    ASSERT_EQ(table.row_count, 1U);
    EXPECT_NEAR(column(table, "length").number(0), 4 * pi, 1e-9);
    EXPECT_EQ(column(table, "ends").text(0), "closed");
    EXPECT_GT(columns_of(curves).row_count, 1U);
}

}  // namespace
}  // namespace plume
