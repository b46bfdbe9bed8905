// Values as tables: CSV and JSON.

#include <nlohmann/json.hpp>
#include <sstream>

#include "core/exchange/formats.hpp"
#include "core/exchange/value_table.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using Json = nlohmann::json;
using test::StudyMaker;
using test::value_of;

std::vector<std::string> csv_lines(const Value& value, LengthUnit unit = LengthUnit::metre) {
    std::string text;
    EXPECT_TRUE(write_csv(
        {value, "it", {}, unit}, [&](std::string_view piece) { text += piece; }, plume::Run()));
    std::vector<std::string> lines;
    std::istringstream stream(text);
    for (std::string line; std::getline(stream, line);)
        lines.push_back(line);
    return lines;
}
Json json_of(const Value& value, LengthUnit unit = LengthUnit::metre) {
    std::string text;
    EXPECT_TRUE(write_values_json(
        {value, "it \"here\"", {}, unit}, [&](std::string_view piece) { text += piece; }, plume::Run()));
    return Json::parse(text);
}
Value made(const StudyMaker& maker, const std::string& name) {
    return value_of(test::run(maker.study), name);
}

TEST(Tables, PlacementsHaveTheirAxes) {
    StudyMaker maker;
    maker.add("placement.frame", "frame");
    maker.number("frame", "turn", "90°").set("frame", "place", Places{{"p", "1 m", "2 m", "3 m", "1"}});
    const auto lines = csv_lines(made(maker, "frame"), LengthUnit::centimetre);
    ASSERT_EQ(lines.size(), 2U);
    EXPECT_EQ(lines[0],
              "i,j,k,x cm,y cm,z cm,along_x,along_y,along_z,across_x,across_y,across_z,up_x,up_y,up_z");
    const Json row = json_of(made(maker, "frame"))["rows"][0];
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
    maker.add("skin", "roof");
    maker.set("roof", "points", ResultName{"ground"});
    const Value roof = made(maker, "roof");
    const auto refused = table_of(roof);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::wrong_kind);
    EXPECT_EQ(table_of(Value(CurveSet{})).error().code, ErrorCode::nothing_to_write);
}

}  // namespace
}  // namespace plume
