// The formula language: what it means, what it refuses and where.
#include "core/formula/formula.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <fstream>
#include <random>
#include <sstream>

#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/formula/functions.hpp"
#include "core/formula/program.hpp"
#include "folders.hpp"

namespace plume {
namespace {

FormulaSetting setting(Units units = {}) {
    FormulaSetting made;
    made.scope.units = units;
    made.scope.find = [](std::string_view name) -> std::optional<Quantity> {
        if (name == "swell") return Quantity{3, a_length};
        if (name == "lobes") return Quantity{5, plain_number};
        return {};
    };
    made.scope.known_names = {"swell", "lobes"};
    made.inputs = {{"x", a_length, 2.0, ""},
                   {"a", an_angle, M_PI / 6, ""},
                   {"φ", plain_number, 7.0, ""},
                   {"t", plain_number, InputRef{InputType::loop_value, 0}, ""}};
    return made;
}

// The value of the last line at t = 0.5.
Result<Quantity> value(std::string_view text, const FormulaSetting& where = setting()) {
    const auto formula = check_formula(text, where);
    if (!formula) return formula.error();
    Domain domain;
    domain.directions[0] = {1, 0.5, 0.5, false};
    const std::vector<NodeId> outputs{formula->terms.back().node};
    const auto result = evaluate(formula->graph, outputs, domain, Keep::columns, plume::Run());
    return Quantity{result->columns[0][0], formula->terms.back().dimension};
}

TEST(Formula, Values) {
    const std::pair<const char*, double> cases[] = {{"-2^2", -4},
                                                    {"2^3^2", 512},
                                                    {"2^-1", 0.5},
                                                    {"-2^-2", -0.25},
                                                    {"1 + 2 * 3", 7},
                                                    {"10 - 4 - 3", 3},
                                                    {"24 / 4 / 3", 2},
                                                    {"a1 = 2\nb1 = a1 * 3\nb1 + a1", 8},
                                                    {"a1 = 2; a1 * 4", 8},
                                                    {"# a note\n\nq = 3 # more\nq", 3},
                                                    {"q = (1 +\n 2)\nq * 2", 6},
                                                    {"if(1 < 2, 3, 4)", 3},
                                                    {"if(1 < 2 and not 2 < 1 or 0, 3, 4)", 3},
                                                    {"1 ≤ 2", 1},
                                                    {"2 ≠ 2", 0},
                                                    {"3 >= 4", 0},
                                                    {"2 == 2", 1},
                                                    {"2 × 3 ÷ 4 − 1", 0.5},
                                                    {"φ * 2", 14},
                                                    {"θ = 4\nθ + 1", 5},
                                                    {"sin(30)", 0.5},
                                                    {"sin(30°)", 0.5},
                                                    {"sin(a)", 0.5},
                                                    {"cos(pi * 1 rad)", -1},
                                                    {"tau / pi", 2},
                                                    {"ln(e)", 1},
                                                    {"asin(0.5) / 1°", 30},
                                                    {"atan2(1, 1) / 45°", 1},
                                                    {"log10(1000) + log2(8)", 6},
                                                    {"cbrt(-27)", -3},
                                                    {"mod(-1, 3)", 2},
                                                    {"min(3, 1, 2) + max(4, 5, 6)", 7},
                                                    {"clamp(5, 0, 1)", 1},
                                                    {"mix(2, 6, 0.25)", 3},
                                                    {"step(1, 2)", 1},
                                                    {"smoothstep(0, 2, 1)", 0.5},
                                                    {"hypot(2, 3, 6)", 7},
                                                    {"gauss(0)", 1},
                                                    {"gauss(2, 2)", std::exp(-0.5)},
                                                    {"gauss(x, 2 m)", std::exp(-0.5)},
                                                    {"saw(90°)", 0.5},
                                                    {"triangle(90)", 1},
                                                    {"square(270)", -1},
                                                    {"sign(-4) + abs(-4)", 3},
                                                    {"fract(2.25)", 0.25},
                                                    {"trunc(-2.5)", -2},
                                                    {"t * 2", 1},
                                                    {"t^0.5", std::sqrt(0.5)},
                                                    {"lobes * t", 2.5},
                                                    {"x / 1 m + 1", 3},
                                                    {"noise(4) + noise(1, 2) + noise(1, 2, 3)", 0},
                                                    {"swell / 1.5 m", 2}};
    for (const auto& [text, wanted] : cases) {
        const auto got = value(text);
        ASSERT_TRUE(got) << text << ": " << sentence(got.error());
        EXPECT_NEAR(got->value, wanted, 1e-12) << text;
        EXPECT_EQ(got->dimension, plain_number) << text;
    }
}

TEST(Formula, APlainNumberBesideAQuantityCountsStudyUnits) {
    EXPECT_DOUBLE_EQ(value("x + 1")->value, 3);
    EXPECT_EQ(value("x + 1")->dimension, a_length);
    EXPECT_NEAR(value("a + 30")->value, M_PI / 3, 1e-12) << "degrees, the study's angle unit";
    EXPECT_EQ(value("x^2 + 1")->dimension, (Dimension{2, 0}));
    EXPECT_EQ(value("sqrt(x^2 + swell^2)")->dimension, a_length);
    EXPECT_EQ(value("(x^2 + 1)^0.5")->dimension, a_length);
    EXPECT_EQ(value("max(x, 0)")->dimension, a_length);
    EXPECT_EQ(value("if(x > 1, x, 0)")->dimension, a_length);
}

TEST(Formula, TrigonometryFollowsTheAngleUnit) {
    const FormulaSetting radians = setting({LengthUnit::metre, AngleUnit::radian});
    EXPECT_NEAR(value("sin(pi / 2)", radians)->value, 1, 1e-15);
    EXPECT_NEAR(value("sin(30°)", radians)->value, 0.5, 1e-15);
    EXPECT_NEAR(value("sin(90)")->value, 1, 1e-15);
}

TEST(Formula, ErrorsSayWhatWhereAndHowToMend) {
    const struct {
        const char* text;
        ErrorCode code;
        const char* says;
        const char* part;  // what begin and end enclose
    } cases[] = {{"", ErrorCode::syntax, "empty", ""},
                 {"# only a note", ErrorCode::syntax, "empty", ""},
                 {"2x", ErrorCode::syntax, "operator is missing between ‘2’ and ‘x’ at column 2", "x"},
                 {"p = 1\nq = (2 t)", ErrorCode::syntax, "in line 2 at column 8", "t"},
                 {"p = 1 +", ErrorCode::syntax, "ends where", nullptr},
                 {"p = 1 +\nq = 2", ErrorCode::syntax, "in line 1", nullptr},
                 {"p = (1\n", ErrorCode::syntax, "closing bracket", nullptr},
                 {"p = 1)", ErrorCode::syntax, "‘)’ at column 6", ")"},
                 {"1 $ 2", ErrorCode::syntax, "‘$’ at column 3", "$"},
                 {"if(t = 2, 1, 0)", ErrorCode::syntax, "==", "="},
                 {"1 < 2 < 3", ErrorCode::syntax, "a < b and b < c", nullptr},
                 {"1\n2", ErrorCode::syntax, "used by nothing", "1"},
                 {"sin(1, 2)", ErrorCode::syntax, "takes one argument and has 2", "sin(1, 2)"},
                 {"clamp(1)", ErrorCode::syntax, "takes 3 arguments and has 1", "clamp(1)"},
                 {"noise()", ErrorCode::syntax, "takes 1 to 3 arguments and has 0", "noise()"},
                 {"swel", ErrorCode::unknown_name, "Did you mean ‘swell’?", "swel"},
                 {"sinn(2)", ErrorCode::unknown_name, "Did you mean ‘sin’?", "sinn"},
                 {"t(2)", ErrorCode::unknown_name, "Write * for a product", "t"},
                 {"p = q\nq = 2", ErrorCode::unknown_name, "used before it is defined", "q"},
                 {"p = q\nq = p", ErrorCode::unknown_name, "defined by itself", "q"},
                 {"p = p + 1", ErrorCode::unknown_name, "defined by itself", "p"},
                 {"p = q\nr = p\nq = r", ErrorCode::unknown_name, "defined by itself", "q"},
                 {"p = 1\np = 2", ErrorCode::name_clash, "a second time", "p"},
                 {"x = 2", ErrorCode::name_clash, "already names", "x"},
                 {"swell = 2", ErrorCode::name_clash, "control", "swell"},
                 {"sin = 2", ErrorCode::bad_name, "already means", "sin"},
                 {"x + a", ErrorCode::unit_mismatch, "cannot add a length and an angle", "x + a"},
                 {"x + x^2", ErrorCode::unit_mismatch, "cannot add", "x + x^2"},
                 {"sin(x)", ErrorCode::unit_mismatch, "360° * x / 4 m", "sin(x)"},
                 {"exp(x)", ErrorCode::unit_mismatch, "takes a plain number", "exp(x)"},
                 {"2 ^ x", ErrorCode::unit_mismatch, "power", "2 ^ x"},
                 {"x ^ t", ErrorCode::unit_mismatch, "varies", "x ^ t"},
                 {"t / 0", ErrorCode::division_by_zero, "zero", "t / 0"},
                 {"ln(0)", ErrorCode::not_finite, "finite", "ln(0)"},
                 {"field", ErrorCode::unknown_name, "not known", "field"},
                 {"field 3", ErrorCode::syntax, "operator is missing", "3"},
                 {"field t", ErrorCode::syntax, "field name = expression", "t"}};
    for (const auto& c : cases) {
        const auto formula = check_formula(c.text, setting());
        ASSERT_FALSE(formula) << c.text;
        const Error& error = formula.error();
        EXPECT_EQ(error.code, c.code) << c.text << ": " << sentence(error);
        EXPECT_NE(sentence(error).find(c.says), std::string::npos) << c.text << ": " << sentence(error);
        EXPECT_FALSE(error.mend.empty()) << c.text;
        if (c.part && *c.part) {
            EXPECT_EQ(std::string(c.text).substr(error.begin, error.end - error.begin), c.part) << c.text;
        }
    }
}

TEST(Formula, DepthAndLengthAreBounded) {
    const std::string deep = std::string(5000, '(') + "1" + std::string(5000, ')');
    EXPECT_EQ(check_formula(deep, setting()).error().code, ErrorCode::too_deep);
    EXPECT_EQ(check_formula(std::string(60'000, '-') + "1", setting()).error().code, ErrorCode::too_deep);
    EXPECT_EQ(check_formula(std::string(1'000'000, '1'), setting()).error().code, ErrorCode::too_long);
    std::string towers = "2";
    for (int level = 0; level < 5000; ++level)
        towers += "^2";
    EXPECT_EQ(check_formula(towers, setting()).error().code, ErrorCode::too_deep);
    // A long chain is no depth.
    std::string chain = "t";
    for (int link = 0; link < 15'000; ++link)
        chain += " + t";
    const auto formula = check_formula(chain, setting());
    ASSERT_TRUE(formula) << sentence(formula.error());
    EXPECT_DOUBLE_EQ(value(chain)->value, 0.5 * 15'001);
    EXPECT_EQ(printed(*parse_formula(chain)), chain);
}

TEST(Formula, MutedLinesBecomeNothing) {
    FormulaSetting where = setting();
    const char* text = "ripple = 0.3 * t\nrim = 2 + t\nr = (4 + ripple) * rim";
    EXPECT_NEAR(value(text, where)->value, (4 + 0.15) * 2.5, 1e-12);
    where.muted = {"ripple"};
    EXPECT_NEAR(value(text, where)->value, 4 * 2.5, 1e-12) << "added: 0";
    where.muted = {"rim"};
    EXPECT_NEAR(value(text, where)->value, 4.15, 1e-12) << "multiplied: 1";
    EXPECT_EQ(*check_formula(text, where)->find("rim")->muted_to, 1);
}

TEST(Formula, FieldsAndLinesAreKnown) {
    const auto formula = check_formula("field tip = t^2\nz = 2 * tip", setting());
    ASSERT_TRUE(formula);
    EXPECT_TRUE(formula->terms[0].field);
    EXPECT_EQ(formula->terms[0].name, "tip");
    EXPECT_FALSE(formula->find("z")->field);
    EXPECT_EQ(formula->find("nothing"), nullptr);
}

TEST(Formula, ResultsAreReadInTheUnitWanted) {
    auto formula = check_formula("l = 2\nq = x\narea = x^2\nturn = 30", setting());
    const Units units;
    EXPECT_TRUE(as_dimension(*formula, *formula->find("l"), a_length,
                             {.units = units, .find = {}, .known_names = {}}));
    EXPECT_TRUE(as_dimension(*formula, *formula->find("q"), a_length,
                             {.units = units, .find = {}, .known_names = {}}));
    const auto turn = as_dimension(*formula, *formula->find("turn"), an_angle,
                                   {.units = units, .find = {}, .known_names = {}});
    EXPECT_NEAR(formula->graph[*turn].value, M_PI / 6, 1e-15);
    const auto wrong = as_dimension(*formula, *formula->find("area"), a_length,
                                    {.units = units, .find = {}, .known_names = {}});
    ASSERT_FALSE(wrong);
    EXPECT_EQ(wrong.error().code, ErrorCode::unit_mismatch);
}

TEST(Formula, NamesInFormulasAreFoundAndRenamed) {
    const char* text = "p = swell * t # swell\nq = p + lobes\nfield s = sin(q)";
    EXPECT_EQ(names_used(text), (std::vector<std::string>{"swell", "t", "lobes"}));
    EXPECT_EQ(with_renamed(text, "swell", "rise"), "p = rise * t # swell\nq = p + lobes\nfield s = sin(q)");
    EXPECT_EQ(with_renamed(text, "p", "rise"), text) << "a name of its own";
}

// Any text gives a formula or an error with a place in it, and what can be read reads back the same when
// printed. A fixed seed makes a failure repeat.
TEST(Formula, AnyTextIsAnsweredAndPrintsBack) {
    const std::vector<std::string> pieces{
        "1",  "2.5", "t",   "x",    "+",    "-",  "*", "/", "^", "(",  ")",      ",", "<", "==",   "=", "and",
        "or", "not", "if(", "sin(", "max(", "\n", ";", "#", "°", " m", "field ", "p", "q", "\xff", "≥", " "};
    std::minstd_rand engine(99);
    const auto random = [&] { return engine() >> 8U; };
    int read = 0;
    for (int round = 0; round < 60'000; ++round) {
        std::string text;
        for (auto length = random() % 14; length > 0; --length)
            text += pieces[random() % pieces.size()] + (random() % 2 ? " " : "");
        const auto formula = check_formula(text, setting());
        if (!formula) {
            EXPECT_FALSE(formula.error().message.empty()) << text;
            EXPECT_FALSE(formula.error().mend.empty()) << text;
            EXPECT_LE(formula.error().begin, text.size()) << text;
        }
        const auto syntax = parse_formula(text);
        if (!syntax) continue;
        ++read;
        const std::string once = printed(*syntax);
        const auto again = parse_formula(once);
        ASSERT_TRUE(again) << text << " -> " << once << ": " << sentence(again.error());
        EXPECT_EQ(printed(*again), once) << text;
        EXPECT_EQ(again->tree.nodes().size(), syntax->tree.nodes().size()) << text << " -> " << once;
        const auto before = value(text), after = value(once);
        ASSERT_EQ(before.ok(), after.ok()) << text << " -> " << once;
        if (before && std::isfinite(before->value)) {
            EXPECT_EQ(before->value, after->value) << text << " -> " << once;
        }
    }
    EXPECT_GT(read, 500) << "the alphabet makes too few readable texts to prove anything";
}

TEST(Formula, ThePageAboutTheLanguageHasEveryFunction) {
    std::ifstream file(std::string(test::demo_folder) + "/../docs/formula-language.md");
    const std::string page{std::istreambuf_iterator<char>(file), {}};
    for (const FunctionSpec& function : formula_functions()) {
        std::ostringstream row;
        row << "| `" << function.name << '(' << function.arguments << ")` | " << function.help << " |";
        EXPECT_NE(page.find(row.str()), std::string::npos) << row.str();
    }
    for (const ConstantSpec& constant : formula_constants())
        EXPECT_NE(page.find(std::string("`").append(constant.name).append("`")), std::string::npos)
            << constant.name;
}

TEST(Formula, EveryFunctionIsExplainedAndCallable) {
    for (const FunctionSpec& function : formula_functions()) {
        EXPECT_FALSE(function.help.empty()) << function.name;
        std::string call = std::string(function.name) + "(0.5";
        for (int argument = 1; argument < function.least; ++argument)
            call += ", 0.7";
        const auto result = value((function.name == "acosh" ? "acosh(1.5" : call) + ")");
        EXPECT_TRUE(result) << function.name << ": " << sentence(result.error());
        EXPECT_EQ(check_name(function.name).error().code, ErrorCode::bad_name);
    }
}

}  // namespace
}  // namespace plume
