// Heads of scripts: read without running anything.

#include "core/script/script_head.hpp"

#include "core/support.hpp"

namespace plume::test {
namespace {

const std::string lifted =
    "-- Lift what lies low\n"
    "-- Whatever stands below a level is lifted.\n"
    "-- sentence: Lift {ground} by {by}, {how}, below {level}.\n"
    "-- ground: points\n"
    "-- by: length = 50 cm, from 0 m to 5 m\n"
    "-- level: length\n"
    "-- how: one of smoothly, at once\n"
    "-- result: points\n"
    "return ground\n"
    "-- more: count = 3\n";

TEST(ScriptHead, SaysWhatIsAskedForAndGiven) {
    const auto head = read_script_head(lifted);
    ASSERT_TRUE(head) << sentence(head.error());
    EXPECT_EQ(head->title, "Lift what lies low");
    EXPECT_EQ(head->help, "Whatever stands below a level is lifted.");
    EXPECT_EQ(head->result, ScriptType::points);
    ASSERT_EQ(head->inputs.size(), 4U);
    EXPECT_EQ(head->inputs[0].type, ScriptType::points);
    EXPECT_EQ(head->inputs[1].preset, "50 cm");
    EXPECT_EQ(head->inputs[1].least, "0 m");
    EXPECT_EQ(head->inputs[1].most, "5 m");
    EXPECT_EQ(head->inputs[2].preset, "1 m");
    EXPECT_EQ(head->inputs[3].words, (std::vector<std::string>{"smoothly", "at once"}));
}

TEST(ScriptHead, RefusesWithThePlaceAndTheMend) {
    const std::string begin = "-- Title\n", sentence_line = "-- sentence: Do {a}.\n",
                      end = "-- result: mesh\n";
    struct Case {
        std::string text;
        ErrorCode code;
        std::string at;
    };
    const Case cases[] = {
        {"", ErrorCode::syntax, ""},
        {"return 1", ErrorCode::syntax, ""},
        {begin + end, ErrorCode::syntax, "Title"},
        {begin + "-- sentence: Do it.\n", ErrorCode::syntax, "Title"},
        {begin + sentence_line + end, ErrorCode::unknown_name, "a"},
        {begin + sentence_line + "-- a: number\n-- b: number\n" + end, ErrorCode::unknown_name, "Do {a}."},
        {begin + sentence_line + "-- a: number\n-- a: count\n" + end, ErrorCode::name_clash, "a"},
        {begin + "-- sentence: Do {a} and {a}.\n-- a: number\n" + end, ErrorCode::unknown_name, "a"},
        {begin + "-- sentence: Do {a.\n-- a: number\n" + end, ErrorCode::unknown_name, "Do {a."},
        {begin + sentence_line + "-- a: colour\n" + end, ErrorCode::syntax, "colour"},
        {begin + sentence_line + "-- a: points = 3\n" + end, ErrorCode::syntax, "points = 3"},
        {begin + sentence_line + "-- a: number = 3, 0 to 1\n" + end, ErrorCode::syntax, "0 to 1"},
        {begin + sentence_line + "-- a: one of x,,y\n" + end, ErrorCode::syntax, "one of x,,y"},
        {begin + sentence_line + "-- a: one of x, x\n" + end, ErrorCode::name_clash, "x"},
        {begin + "-- sentence: Do {end}.\n-- end: number\n" + end, ErrorCode::bad_name, "end"},
        {begin + "-- sentence: Do {script}.\n-- script: number\n" + end, ErrorCode::bad_name, "script"},
        {begin + sentence_line + "-- a: number\n-- result: frames\n", ErrorCode::syntax, "frames"},
        {begin + sentence_line + "-- a: number\n-- interface: 2\n" + end, ErrorCode::file_newer, "2"},
        {begin + sentence_line + "-- a: number\n-- interface: soon\n" + end, ErrorCode::syntax, "soon"},
        {std::string(5'000'000, '-'), ErrorCode::too_long, ""},
    };
    for (const Case& each : cases) {
        const auto head = read_script_head(each.text);
        ASSERT_FALSE(head) << each.text;
        const Error& error = head.error();
        EXPECT_EQ(error.code, each.code) << each.text << sentence(error);
        EXPECT_FALSE(error.mend.empty());
        ASSERT_LE(error.end, each.text.size());
        EXPECT_EQ(each.text.substr(error.begin, error.end - error.begin), each.at)
            << each.text << sentence(error);
    }
}

}  // namespace
}  // namespace plume::test
