// Values as tables: CSV and JSON.

#include <nlohmann/json.hpp>
#include <sstream>

#include "core/exchange/export_jobs.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/results/columns.hpp"
#include "core/results/items.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using Json = nlohmann::json;
using test::StudyMaker;
using test::value_of;

std::vector<std::string> csv_lines(const Value& value, LengthUnit unit = LengthUnit::metre) {
    const std::string text = test::bytes_of(write_csv, test::job_of(value, "it", unit));
    std::vector<std::string> lines;
    std::istringstream stream(text);
    for (std::string line; std::getline(stream, line);)
        lines.push_back(line);
    return lines;
}
Json json_of(const Value& value, LengthUnit unit = LengthUnit::metre) {
    return Json::parse(test::bytes_of(write_values_json, test::job_of(value, "it \"here\"", unit)));
}
Value made(const StudyMaker& maker, const std::string& name) {
    return value_of(test::run(maker.study), name);
}

TEST(Tables, PlacementsHaveTheirAxes) {
    StudyMaker maker;
    maker.add("placement.frame", "placement");
    maker.number("placement", "turn", "90°")
        .set("placement", "place", Places{{"p", "1 m", "2 m", "3 m", "1"}});
    const auto lines = csv_lines(made(maker, "placement"), LengthUnit::centimetre);
    ASSERT_EQ(lines.size(), 2U);
    EXPECT_EQ(lines[0],
              "i,j,k,x cm,y cm,z cm,along_x,along_y,along_z,across_x,across_y,across_z,up_x,up_y,up_z");
    const Json row = json_of(made(maker, "placement"))["rows"][0];
    const double expected[] = {0, 0, 0, 1, 2, 3, 0, 1, 0, -1, 0, 0, 0, 0, 1};
    ASSERT_EQ(row.size(), std::size(expected));
    for (std::size_t at = 0; at < row.size(); ++at)
        EXPECT_NEAR(row[at].get<double>(), expected[at], 1e-15) << at;
}

TEST(Tables, CurvesHaveTheirPointsWithTheWayToThem) {
    StudyMaker maker;
    maker.add("points.typed", "corners");
    maker.set("corners", "rows", Lines{"x, y, z, load\n0, 0, 0, 7\n3, 4, 0, 8\n3, 4, 5, 9"});
    maker.add("curve.join", "line");
    maker.word("line", "shape", "straight");
    const auto open = csv_lines(made(maker, "line"));
    ASSERT_EQ(open.size(), 4U);
    EXPECT_EQ(open[0], "curve,point,u,s m,x m,y m,z m,load");
    EXPECT_EQ(open[1], "0,0,0,0,0,0,0,7");
    EXPECT_EQ(open[2], "0,1,0.5,5,3,4,0,8");
    EXPECT_EQ(open[3], "0,2,1,10,3,4,5,9");
    maker.word("line", "ends", "closed");
    EXPECT_EQ(csv_lines(made(maker, "line")).size(), 4U) << "the first point is not told twice";
    maker.word("line", "shape", "smooth").word("line", "ends", "open");
    const Json smooth = json_of(made(maker, "line"));
    EXPECT_EQ(smooth["rows_are"], "points on curves");
    EXPECT_EQ(smooth["result"], "it \"here\"");
    ASSERT_EQ(smooth["rows"].size(), 3U);
    EXPECT_NEAR(smooth["rows"][1][4].get<double>(), 3, 1e-9) << "it goes through its points";
    EXPECT_GT(smooth["rows"][2][3].get<double>(), 10) << "and is longer than their polyline";
}

TEST(Tables, NumbersThatAreNotFiniteAreMissingInBoth) {
    StudyMaker maker;
    maker.add("points.typed", "three");
    maker.set("three", "rows", Lines{"0, 0, 0\n1, 0, 0\n2, 0, 0"});
    maker.add("field.formula", "odd");
    maker.set("odd", "points", ResultName{"three"}).formula("odd", "1 / (1 - i)");
    const auto lines = csv_lines(made(maker, "odd"));
    EXPECT_EQ(lines[1], "0,0,0,0,0,0,1");
    EXPECT_EQ(lines[2], "1,0,0,1,0,0,");
    const Json json = json_of(made(maker, "odd"));
    EXPECT_TRUE(json["rows"][1][6].is_null());
    EXPECT_EQ(json["columns"][3]["unit"], "m");
    EXPECT_EQ(json["columns"][6]["unit"], "");
}

TEST(Tables, AttractorsNumbersAndWhatHasNoRows) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("attractors.points", "perches");
    maker.set("perches", "places", Places{{"a, \"b\"", "1 m", "2 m", "3 m", "-2"}});
    const auto lines = csv_lines(made(maker, "perches"), LengthUnit::millimetre);
    EXPECT_EQ(lines[0], "name,x mm,y mm,z mm,weight");
    EXPECT_EQ(lines[1], "\"a, \"\"b\"\"\",1000,2000,3000,-2") << "weights are no lengths";
    EXPECT_EQ(json_of(made(maker, "perches"))["rows"][0][0], "a, \"b\"");
    EXPECT_EQ(csv_lines(Value(Quantity{2.5, a_length}), LengthUnit::centimetre)[1], "250");
    const Value none = CurveSet{};
    const auto refused = test::tried(write_csv, test::job_of(none));
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::nothing_to_write);
}

TEST(Tables, SurfacesHaveTheirPolesAndMeshesTheirVertices) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "2").number("ground", "rows", "1");
    maker.number("ground", "width", "4 m").number("ground", "depth", "2 m");
    maker.add("skin", "roof");
    maker.word("roof", "surface", "flat");
    const auto facets = csv_lines(made(maker, "roof"));
    ASSERT_EQ(facets.size(), 7U);
    EXPECT_EQ(facets[0], "vertex,x m,y m,z m");
    EXPECT_EQ(facets[6], "5,2,1,0");
    maker.word("roof", "surface", "smooth").number("ground", "columns", "5").number("ground", "rows", "4");
    const Value roof = made(maker, "roof");
    const auto& patch = std::get<SurfaceSet>(roof).patches.front();
    const auto poles = csv_lines(roof);
    EXPECT_EQ(poles[0], "surface,pole,x m,y m,z m");
    EXPECT_EQ(poles.size(), patch.u().pole_count() * patch.v().pole_count() + 1);
    // Two surfaces: rows lead to theirs.
    const Value two(SurfaceSet{{patch, patch}});
    const Table table = columns_of(two);
    EXPECT_EQ(table.item_of_row(patch.x().size()), 1U);
    EXPECT_EQ(table.row_of_item(1), std::nullopt);
    EXPECT_EQ(items_of(two).total(), 2U);
}

// Rows and what is pointed at in the model name each other.
TEST(Tables, RowsAndItemsLeadToEachOther) {
    const Value holed = with_gaps(test::grid(3, 2), {1, 0, 1, 1, 0, 1});
    const Table points = columns_of(holed);
    ASSERT_EQ(points.row_count, 4U);
    EXPECT_EQ(points.item_of_row(1), 2U) << "a gap has no row";
    EXPECT_EQ(points.row_of_item(5), 3U);
    EXPECT_EQ(points.row_of_item(4), std::nullopt);
    EXPECT_EQ(points.row_of_item(9), std::nullopt);
    EXPECT_TRUE(points.columns[2].idle) << "k says nothing in a grid";
    EXPECT_FALSE(points.columns[1].idle);
    Mesh::Parts two;
    two.x = Doubles{0, 1, 0, 5, 6, 5};
    two.y = Doubles{0, 0, 1, 0, 0, 1};
    two.z = Doubles(6, 0.0);
    two.first = {0, 3, 6};
    two.corners = {0, 1, 2, 4, 5, 3};
    two.part_starts = {0, 1};
    const Value posts = *Mesh::make(two);
    const Table vertices = columns_of(posts);
    EXPECT_EQ(vertices.columns[1].name, "part");
    EXPECT_EQ(vertices.item_of_row(2), 0U);
    EXPECT_EQ(vertices.item_of_row(4), 1U);
    EXPECT_EQ(vertices.row_of_item(1), 3U) << "its first vertex";
    EXPECT_EQ(vertices.row_of_item(2), std::nullopt);
    EXPECT_EQ(vertices.row_of_part({PartSort::vertex, 4}), 4U);
    EXPECT_EQ(vertices.row_of_part({PartSort::vertex, 6}), std::nullopt);
    EXPECT_EQ(vertices.row_of_part({PartSort::face, 1}), std::nullopt) << "rows are vertices";
    const Items parts = items_of(posts);
    EXPECT_EQ(parts.count, 2U);
    EXPECT_EQ(parts.title(1), "part 1 of 2");
    EXPECT_NEAR(parts.place(1).x, 16.0 / 3, 1e-12);
    EXPECT_EQ(items_of(holed).name(4), "1, 1");
    EXPECT_EQ(items_of(Value(Quantity{1, a_length})).count, 0U);
}

}  // namespace
}  // namespace plume
