// Rules of faces as text: what is refused, where and how it is mended.

#include "core/growth/growth_rules.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

RulesSetting setting() {
    RulesSetting made;
    made.language = RulesLanguage::faces;
    return made;
}

TEST(FaceRules, ReadWhatIsDoneAndWhatPiecesBecome) {
    const auto rules = check_rules(
        "lift = 20 cm\n"
        "wall becomes, where area > 2 m^2\n"
        "  split ceil(width / 1 m) along, 2 across\n"
        "  door, where i == 0, chance 0.5\n"
        "  wall, with lift = lift / 2\n"
        "or, chance 0.3\n"
        "  nothing\n"
        "otherwise\n"
        "  raised lift, tapered 0.5\n"
        "  cap, above\n"
        "  nothing, beside, where number == 1",
        setting());
    ASSERT_TRUE(rules) << sentence(rules.error());
    EXPECT_EQ(rules->parts, (std::vector<std::string>{"wall", "door", "cap", "rest"}));
    const auto& choices = rules->rules[0];
    ASSERT_EQ(choices.size(), 3U);
    EXPECT_EQ(choices[0].act->type, FaceAct::Type::split);
    EXPECT_TRUE(choices[0].act->along && choices[0].act->across);
    EXPECT_EQ(choices[0].lines.size(), 2U);
    EXPECT_FALSE(choices[1].act);
    EXPECT_EQ(choices[2].act->type, FaceAct::Type::raised);
    EXPECT_EQ(choices[2].lines[0].on, PiecePlace::above);
    EXPECT_EQ(choices[2].lines[1].part, GrownLine::left_out);
    EXPECT_EQ(rules->line_texts.back(), "nothing, beside, where number == 1");
}

TEST(FaceRules, MeanASharePlainAndALengthWithItsUnit) {
    const auto absolute = [](const std::string& act) {
        const auto rules = check_rules("tile becomes\n" + act + "\npiece", setting());
        EXPECT_TRUE(rules) << sentence(rules.error());
        return rules->rules[0][0].act->absolute;
    };
    EXPECT_FALSE(absolute("inset 0.2"));
    EXPECT_TRUE(absolute("inset 20 cm"));
    EXPECT_FALSE(absolute("cut 0.2 along"));
    EXPECT_TRUE(absolute("cut width / 4 across"));
}

TEST(FaceRules, RefuseWithThePlaceAndTheMend) {
    struct Case {
        std::string text;
        ErrorCode code;
        std::string has, mend;
    };
    const Case cases[] = {
        {"tile becomes", ErrorCode::syntax, "makes nothing", "Name what it becomes"},
        {"tile becomes\nsplit 2", ErrorCode::syntax, "makes nothing", "Name what it becomes"},
        {"tile becomes\npiece", ErrorCode::syntax,
         "‘piece’ in line 2 at column 1 is not what can be done to a face",
         "Begin with split, cut, inset or raised"},
        {"tile becomes\nsplit 2 up\npiece", ErrorCode::syntax, "‘up’ in line 2 at column 9 is no way",
         "Write along or across"},
        {"tile becomes\nsplit 2 along, 3 along\npiece", ErrorCode::syntax, "a second ‘along’",
         "Split along and across"},
        {"tile becomes\ncut 0.5\npiece", ErrorCode::syntax, "a way is missing", "Write along or across"},
        {"tile becomes\nraised 1 m, sized 2\npiece", ErrorCode::syntax, "‘sized’", "Write , tapered 0.6"},
        {"tile becomes\nsplit 2\npiece, inside", ErrorCode::syntax, "there is nothing ‘inside’",
         "of a face that is inset"},
        {"tile becomes\ninset 0.1\npiece, above", ErrorCode::syntax, "there is nothing ‘above’",
         "of a face that is inset"},
        {"tile becomes\ninset 0.1\npiece, inside, around", ErrorCode::syntax, "a second place",
         "Write a line for each"},
        {"tile becomes\nsplit 2\npiece, moved 1 m up", ErrorCode::syntax, "‘moved’", "inside, around, above"},
        {"tile becomes\nsplit 2\nsplit", ErrorCode::bad_name, "‘split’", "another name"},
        {"tile becomes\nnothing\npiece", ErrorCode::syntax, "stands below ‘nothing’", "Take one of them out"},
        {"tile becomes\nsplit 2 m along\npiece", ErrorCode::unit_mismatch, "a plain number", ""},
        {"tile becomes\nraised 0.5 kg\npiece", ErrorCode::syntax, "", ""},
        {"tile becomes\ninset 20 deg\npiece", ErrorCode::syntax, "", ""},
        {"tile becomes\nsplit 2\narea", ErrorCode::name_clash, "a number that rules read", "another name"},
        {"tile becomes\nsplit copies\npiece", ErrorCode::unknown_name, "copies", ""},
    };
    for (const Case& each : cases) {
        const auto rules = check_rules(each.text, setting());
        ASSERT_FALSE(rules) << each.text;
        const std::string told = sentence(rules.error());
        EXPECT_NE(told.find(each.has), std::string::npos) << told;
        EXPECT_NE(told.find(each.mend), std::string::npos) << told;
        EXPECT_LE(rules.error().end, each.text.size());
    }
}

}  // namespace
}  // namespace plume::test
