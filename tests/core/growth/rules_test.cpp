// Rules as text: what is read, and what is refused, with the place and the mend.

#include "core/growth/growth_rules.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

RulesSetting setting() {
    RulesSetting made;
    made.scope.find = [](std::string_view name) -> std::optional<Quantity> {
        if (name == "swell") return Quantity{2, a_length};
        return {};
    };
    made.scope.known_names = {"swell"};
    return made;
}

TEST(Rules, AreReadLineByLine) {
    const auto rules = check_rules(
        "lean = 20°   # of the first part\n"
        "field heft = size * 2\n"
        "\n"
        "trunk becomes\n"
        "    trunk, moved size up, turned lean about along,\n"
        "        sized 0.8, with lean = lean / 2\n"
        "    twig times 3, turned 360° * copy / copies about up, sized 10 cm\n"
        "or, chance 0.25\n"
        "    nothing\n",
        setting());
    ASSERT_FALSE(rules) << "a choice that is always taken, and another one behind it";
    const auto mended = check_rules(
        "lean = 20°\n"
        "field heft = size * 2\n"
        "trunk becomes, chance 0.75\n"
        "    trunk, moved size up, turned lean about along,\n"
        "        sized 0.8, with lean = lean / 2\n"
        "    twig times 3, turned 360° * copy / copies about up, sized 10 cm, where depth > 1\n"
        "otherwise\n"
        "    nothing\n",
        setting());
    ASSERT_TRUE(mended) << sentence(mended.error());
    EXPECT_EQ(mended->parts, (std::vector<std::string>{"trunk", "twig"}));
    ASSERT_EQ(mended->rules[0].size(), 2U);
    EXPECT_TRUE(mended->rules[1].empty());
    const GrownChoice& first = mended->rules[0][0];
    ASSERT_EQ(first.lines.size(), 2U);
    EXPECT_TRUE(first.conditions.chance);
    EXPECT_EQ(first.lines[0].clauses.size(), 4U);
    EXPECT_TRUE(first.lines[1].times);
    EXPECT_TRUE(first.lines[1].conditions.where);
    EXPECT_TRUE(first.lines[1].clauses[1].absolute);
    EXPECT_FALSE(first.lines[0].clauses[2].absolute);
    EXPECT_TRUE(mended->rules[0][1].lines.empty());
    ASSERT_EQ(mended->values.size(), 1U);
    EXPECT_EQ(mended->values[0].name, "lean");
    EXPECT_EQ(mended->values[0].dimension, an_angle);
    ASSERT_EQ(mended->fields.size(), 1U);
    EXPECT_EQ(mended->fields[0].dimension, a_length);
    EXPECT_EQ(mended->line_texts[2],
              "twig times 3, turned 360° * copy / copies about up, sized 10 cm, where depth > 1");
}

TEST(Rules, ReadWhatFormulasRead) {
    RulesSetting with = setting();
    with.attractors = true;
    with.inherited = {{"warmth", plain_number, InputRef{InputType::column, part_input::first_own}, ""}};
    const auto rules = check_rules(
        "rise = swell / 4 + to_attractor * warmth\n"
        "a becomes\n"
        "a, moved rise * random(3) up, bent 5° towards attractors, where leaning < 80° and share <= 1, "
        "with warmth = warmth / 2",
        with);
    ASSERT_TRUE(rules) << sentence(rules.error());
    EXPECT_EQ(rules->values.front().name, "warmth");
}

struct Refused {
    const char* text;
    ErrorCode code;
    const char* message;  // a part of it
    const char* about;    // the bytes that are marked
};

TEST(Rules, AreRefusedWhereTheyAreWrong) {
    const Refused cases[] = {
        {"", ErrorCode::syntax, "has no rule", ""},
        {"# only a remark", ErrorCode::syntax, "has no rule", "k"},
        {"branch", ErrorCode::syntax, "stands before any rule", "branch"},
        {"branch becomes", ErrorCode::syntax, "makes nothing", "branch becomes"},
        {"branch becomes\n\nbranch becomes\nnothing", ErrorCode::syntax, "makes nothing", "branch becomes"},
        {"a becomes\nb\na becomes\nb", ErrorCode::name_clash, "a second rule for ‘a’", "a"},
        {"or\na", ErrorCode::syntax, "stands before any rule", "or"},
        {"a becomes\nb\nor\nb", ErrorCode::syntax, "never reached", "or"},
        {"a becomes, chance 0.5\nb\notherwise, chance 2\nb", ErrorCode::syntax, "takes no condition", ","},
        {"a becomes b", ErrorCode::syntax, "not expected there", "b"},
        {"a becomes\nb moved 1 m up", ErrorCode::syntax, "not expected there", "moved"},
        {"a becomes\nb, moved 1 m", ErrorCode::syntax, "a way is missing", "m"},
        {"a becomes\nb, moved 1 m sideways", ErrorCode::syntax, "a way is missing", "sideways"},
        {"a becomes\nb, turned 30°", ErrorCode::syntax, "has no axis", "°"},
        {"a becomes\nb, turned 30° up", ErrorCode::syntax, "has no axis", "up"},
        {"a becomes\nb, bent 3° towards home", ErrorCode::syntax, "a goal is missing", "home"},
        {"a becomes\nb, bent 3° up", ErrorCode::syntax, "has no goal", "up"},
        {"a becomes\nb, bent 3° towards attractors", ErrorCode::missing_input, "has none",
         "bent 3° towards attractors"},
        {"a becomes\nb, shrunk 2", ErrorCode::syntax, "not expected there", "shrunk"},
        {"a becomes\nb, with 3", ErrorCode::syntax, "needs a name", "3"},
        {"a becomes\nb, with heat = 3", ErrorCode::unknown_name, "no such value", "with heat = 3"},
        {"heat = 1\na becomes\nb, with heat = 3 m", ErrorCode::unit_mismatch, "has to be", "3 m"},
        {"field heat = 1\na becomes\nb, with heat = 3", ErrorCode::name_clash, "a field anyway",
         "field heat = 1"},
        {"a becomes\nb, moved 30° up", ErrorCode::unit_mismatch, "has to be a length", "30°"},
        {"a becomes\nb, turned 3 m about up", ErrorCode::unit_mismatch, "has to be an angle", "3 m"},
        {"a becomes\nb, sized 30°", ErrorCode::unit_mismatch, "has to be", "30°"},
        {"a becomes\nb times 2 m", ErrorCode::unit_mismatch, "has to be", "2 m"},
        {"a becomes\nb, where nowhere > 1", ErrorCode::unknown_name, "‘nowhere’", "nowhere"},
        {"a becomes\nb, where depth > 1, where depth < 2", ErrorCode::syntax, "a second ‘where’", "where"},
        {"a becomes\nb times copy", ErrorCode::unknown_name, "‘copy’ and ‘copies’", "copy"},
        {"q = copy\na becomes\nb, moved q up", ErrorCode::unknown_name, "‘copy’ and ‘copies’", "q = copy"},
        {"a becomes, where copies > 1\nb", ErrorCode::unknown_name, "‘copy’ and ‘copies’", "copies > 1"},
        {"a becomes\nb\nw = 3", ErrorCode::syntax, "stands below a rule", "w"},
        {"a becomes\nnothing\nb", ErrorCode::syntax, "below ‘nothing’", "b"},
        {"a becomes\nb\nnothing", ErrorCode::syntax, "below a part", "nothing"},
        {"size becomes\nb", ErrorCode::name_clash, "a number that rules read", "size"},
        {"swell becomes\nb", ErrorCode::name_clash, "a control", "swell"},
        {"w = 1\na becomes\nw", ErrorCode::name_clash, "a value of the rules", "w"},
        {"moved becomes\nb", ErrorCode::bad_name, "already has a meaning", "moved"},
        {"a becomes\nsin", ErrorCode::bad_name, "already has a meaning", "sin"},
        {"a becomes\n3", ErrorCode::syntax, "the name of a part is expected", "3"},
        {"size = 1\na becomes\nb", ErrorCode::name_clash, "already names something", "size"},
        {"a becomes\nb, moved 1/0 up", ErrorCode::division_by_zero, "divides by zero", "1/0"},
        {"a becomes\nb, turned 3 about", ErrorCode::syntax, "a way is missing", "t"},
        {"a becomes\nb, moved (1 m up", ErrorCode::syntax, "", "up"},
        {"a becomes\nb !", ErrorCode::syntax, "has no meaning here", ""},
    };
    for (const Refused& each : cases) {
        const auto rules = check_rules(each.text, setting());
        ASSERT_FALSE(rules) << each.text;
        EXPECT_EQ(rules.error().code, each.code) << each.text << "\n" << sentence(rules.error());
        EXPECT_NE(rules.error().message.find(each.message), std::string::npos) << each.text << "\n"
                                                                               << sentence(rules.error());
        EXPECT_FALSE(rules.error().mend.empty()) << each.text;
        const std::string marked =
            std::string(each.text).substr(rules.error().begin, rules.error().end - rules.error().begin);
        if (*each.about) {
            EXPECT_EQ(marked, each.about) << each.text << "\n" << sentence(rules.error());
        }
    }
}

TEST(Rules, OfTooManyLettersAreRefusedAndDeepBracketsToo) {
    EXPECT_EQ(check_rules(std::string(70'000, 'a'), setting()).error().code, ErrorCode::too_long);
    const std::string deep =
        "a becomes\nb, moved " + std::string(100, '(') + "1" + std::string(100, ')') + " up";
    EXPECT_EQ(check_rules(deep, setting()).error().code, ErrorCode::too_deep);
}

TEST(Rules, OfPartsThatNobodyMakesAreTold) {
    const auto rules = check_rules("a becomes\na\ntwig becomes\na", setting());
    ASSERT_TRUE(rules);
    EXPECT_EQ(unmade_parts(*rules), std::vector<std::string>{"twig"});
}

}  // namespace
}  // namespace plume::test
