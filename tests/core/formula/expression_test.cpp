#include "core/formula/expression.hpp"

#include <gtest/gtest.h>

#include <bit>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

Scope scope(Units units = {}) {
    Scope made;
    made.units = units;
    made.find = [](std::string_view name) -> std::optional<Quantity> {
        if (name == "bays") return Quantity{24, plain_number};
        if (name == "swell") return Quantity{3.2, a_length};
        if (name == "turn") return Quantity{std::numbers::pi / 2, an_angle};
        if (name == "φ") return Quantity{5, plain_number};
        if (name == "odd") return Quantity{NAN, plain_number};
        return {};
    };
    made.known_names = {"bays", "swell", "turn", "φ"};
    return made;
}

TEST(Expression, Values) {
    const std::pair<const char*, double> cases[] = {{"24", 24},          {".5", 0.5},
                                                    {"1e3", 1000},       {"1 + 2 * 3", 7},
                                                    {"(1 + 2) * 3", 9},  {"-2^2", -4},
                                                    {"2^3^2", 512},      {"2^-1", 0.5},
                                                    {"10 - 4 - 3", 3},   {"24 / 4 / 3", 2},
                                                    {"--3", 3},          {"bays * 2", 48},
                                                    {"φ+1", 6},          {"min(3, 1, 2)", 1},
                                                    {"max(3,bays)", 24}, {"abs(-3)", 3},
                                                    {"floor(-1.5)", -2}, {"ceil(1.2)", 2},
                                                    {"round(2.5)", 3},   {"sqrt(16)", 4},
                                                    {"sin(30)", 0.5},    {"cos(60°)", 0.5},
                                                    {"tan(45 deg)", 1},  {"sin(pi/2 * 1 rad)", 1},
                                                    {"2 pi", 0},         {"pi", std::numbers::pi}};
    for (const auto& [text, value] : cases) {
        const auto result = evaluate(text, scope());
        if (std::string_view(text) == "2 pi") {
            EXPECT_FALSE(result) << "juxtaposition is no product";
            continue;
        }
        ASSERT_TRUE(result) << text << ": " << sentence(result.error());
        EXPECT_NEAR(result->value, value, 1e-12) << text;
    }
}

TEST(Expression, UnitsAreConvertedAndCarried) {
    const struct {
        const char* text;
        double value;
        Dimension dimension;
    } cases[] = {{"1.2 m", 1.2, a_length},
                 {"120 cm", 1.2, a_length},
                 {"1 ft", 0.3048, a_length},
                 {"12 in", 0.3048, a_length},
                 {"30°", std::numbers::pi / 6, an_angle},
                 {"swell * 2", 6.4, a_length},
                 {"swell / 1.6 m", 2, plain_number},
                 {"swell * swell", 10.24, {2, 0}},
                 {"sqrt(4 m * 1 m)", 2, a_length},
                 {"(2 m)^2", 4, {2, 0}},
                 {"2 m + 30 cm", 2.3, a_length},
                 {"bays * 1.5 m", 36, a_length},
                 {"1 / 2 m", 0.5, {-1, 0}},
                 {"12 m²", 12, {2, 0}},
                 {"2000 cm²", 0.2, {2, 0}},
                 {"25 m^2", 25, {2, 0}},
                 {"25 m ^ 2 / 5 m", 5, a_length},
                 {"8000000 cm^3", 8, {3, 0}},
                 {"6 kN/m^2", 6, {-2, 0, 1}},
                 {"5 kN", 5, a_force},
                 {"4 kN/m", 4, a_force_per_length},
                 {"4 kN/m * 2 m", 8, a_force},
                 {"3 kN / 2 m", 1.5, a_force_per_length},
                 {"6 kN/m²", 6, {-2, 0, 1}},
                 {"2 kN/mm", 2000, a_force_per_length},
                 {"6 kN / 3 kN/m", 2, a_length},
                 {"sqrt(4 kN * 1 kN)", 2, a_force}};
    for (const auto& c : cases) {
        const auto result = evaluate(c.text, scope());
        ASSERT_TRUE(result) << c.text << ": " << sentence(result.error());
        EXPECT_NEAR(result->value, c.value, 1e-12) << c.text;
        EXPECT_EQ(result->dimension, c.dimension) << c.text;
    }
    const Units feet{LengthUnit::foot, AngleUnit::degree};
    EXPECT_NEAR(evaluate("1 m", scope(feet))->value, 1 / 0.3048, 1e-12);
    EXPECT_NEAR(evaluate("1 kN/m", scope(feet))->value, 0.3048, 1e-12);
}

TEST(Expression, ForcesAreToldWithTheirUnits) {
    EXPECT_EQ(quantity_text({2.5, a_force}, {}), "2.5 kN");
    EXPECT_EQ(quantity_text({0.4, a_force_per_length}, {}), "0.4 kN/m");
    EXPECT_EQ(quantity_text({0.4, {-2, 0, 1}}, {LengthUnit::millimetre, AngleUnit::degree}), "0.4 kN/mm²");
    EXPECT_EQ(quantity_text({3, {1, 0, 1}}, {}), "3 kN·m");
    EXPECT_EQ(quantity_text({3, {-1, 0}}, {}), "3 m⁻¹");
    EXPECT_EQ(dimension_name(a_force, {}), "a force");
    EXPECT_DOUBLE_EQ(*evaluate_as(a_force, "2", scope()), 2);
    for (const char* odd : {"2 kN + 1 m", "sin(2 kN)", "noise(2 kN)", "2 kN/", "2 /kN", "kN", "3 kN/swell m"})
        EXPECT_FALSE(evaluate(odd, scope())) << odd;
    EXPECT_EQ(evaluate_as(a_force, "2 m", scope()).error().code, ErrorCode::unit_mismatch);
    EXPECT_TRUE(names_used("3 kN/m * bays") == std::vector<std::string>{"bays"});
    EXPECT_EQ(read_literal("4 kN/m")->unit, "kN/m");
    EXPECT_EQ(literal_text(*read_literal("-4 kN / m")), "-4 kN/m");
    EXPECT_FALSE(read_literal("4 kN/m/bays"));
}

TEST(Expression, ReadAsWhatASlotWants) {
    EXPECT_DOUBLE_EQ(*evaluate_as(a_length, "36", scope()), 36) << "a bare number stands for study units";
    EXPECT_DOUBLE_EQ(*evaluate_as(an_angle, "180", scope()), std::numbers::pi);
    EXPECT_DOUBLE_EQ(*evaluate_as(an_angle, "2", scope({LengthUnit::metre, AngleUnit::radian})), 2);
    EXPECT_EQ(evaluate_as(a_length, "30°", scope()).error().code, ErrorCode::unit_mismatch);
    EXPECT_EQ(evaluate_as(plain_number, "1 m", scope()).error().code, ErrorCode::unit_mismatch);
}

TEST(Expression, ErrorsWithCodeAndPlace) {
    const struct {
        const char* text;
        ErrorCode code;
        const char* says;
    } cases[] = {{"", ErrorCode::syntax, "empty"},
                 {"   ", ErrorCode::syntax, "empty"},
                 {"2x", ErrorCode::syntax, "operator is missing"},
                 {"1 +", ErrorCode::syntax, "ends where"},
                 {"(1", ErrorCode::syntax, "closing bracket"},
                 {"1)", ErrorCode::syntax, "column 2"},
                 {"1 $ 2", ErrorCode::syntax, "‘$’ at column 3"},
                 {"bayz", ErrorCode::unknown_name, "Did you mean ‘bays’?"},
                 {"sin", ErrorCode::unknown_name, "brackets"},
                 {"foo(1)", ErrorCode::unknown_name, "no function"},
                 {"m", ErrorCode::unknown_name, "unit follows"},
                 {"swell + 1", ErrorCode::unit_mismatch, "for example 1 m"},
                 {"swell - turn", ErrorCode::unit_mismatch, "subtract"},
                 {"min(1, swell)", ErrorCode::unit_mismatch, "compare"},
                 {"2 ^ swell", ErrorCode::unit_mismatch, "power"},
                 {"swell ^ 0.5", ErrorCode::unit_mismatch, "power"},
                 {"sin(swell)", ErrorCode::unit_mismatch, "angle"},
                 {"sqrt(swell)", ErrorCode::unit_mismatch, "root"},
                 {"1 / 0", ErrorCode::division_by_zero, "zero"},
                 {"1/(bays-24)", ErrorCode::division_by_zero, "zero"},
                 {"sqrt(-1)", ErrorCode::not_finite, "finite"},
                 {"10^400", ErrorCode::not_finite, "finite"},
                 {"odd * 1", ErrorCode::not_finite, "finite"},
                 {"1e999", ErrorCode::bad_number, "out of reach"},
                 {"sin(1, 2)", ErrorCode::syntax, "one argument"},
                 {"φφ", ErrorCode::unknown_name, "column 1"}};
    for (const auto& c : cases) {
        const auto result = evaluate(c.text, scope());
        ASSERT_FALSE(result) << c.text;
        EXPECT_EQ(result.error().code, c.code) << c.text << ": " << sentence(result.error());
        EXPECT_NE(sentence(result.error()).find(c.says), std::string::npos)
            << c.text << ": " << sentence(result.error());
        EXPECT_FALSE(result.error().mend.empty()) << c.text;
    }
}

TEST(Expression, DepthAndLengthAreBounded) {
    EXPECT_EQ(evaluate(std::string(200, '(') + "1" + std::string(200, ')'), scope()).error().code,
              ErrorCode::too_deep);
    EXPECT_EQ(evaluate(std::string(2000, '-') + "1", scope()).error().code, ErrorCode::too_deep);
    EXPECT_EQ(evaluate(std::string(100'000, '1'), scope()).error().code, ErrorCode::too_long);
}

// Any text gives a value or an error; a fixed seed makes a failure repeat.
TEST(Expression, AnyTextIsAnswered) {
    const std::string_view alphabet = "0123456789.+-*/^(), abmeφ°sinrtx\t$\xff\xc2";
    std::uint32_t state = 12345;
    for (int round = 0; round < 20'000; ++round) {
        std::string text;
        for (int length = round % 23; length > 0; --length) {
            state = state * 1664525U + 1013904223U;
            text += alphabet[(state >> 16U) % alphabet.size()];
        }
        const auto result = evaluate(text, scope());
        EXPECT_TRUE(result ? std::isfinite(result->value) : !result.error().message.empty()) << text;
    }
}

TEST(Expression, NamesUsedAndRenamed) {
    EXPECT_EQ(names_used("bays * sin(turn) + 2 m - bays"), (std::vector<std::string>{"bays", "turn"}));
    EXPECT_EQ(with_renamed("bays*bays2 + max(bays, 1 m)", "bays", "count"), "count*bays2 + max(count, 1 m)");
    EXPECT_TRUE(names_used("1 $").empty());
    EXPECT_EQ(with_renamed("1 $", "a", "b"), "1 $");
}

// Bare numbers are read by themselves: brackets around them make them expressions, which have to say the
// same.
TEST(Expression, ABareNumberIsWhatItIsInBrackets) {
    for (const LengthUnit length : {LengthUnit::metre, LengthUnit::millimetre}) {
        Scope scope;
        scope.units.length = length;
        for (const char* text : {"0", "-0", "7", "0.1", "-1.5 m", "1.5m", "2e-3 mm", "2E3 cm", "1.", "30°",
                                 "-30 °", "1.2 rad", "4 kN", "4 kN/m", "3 m²", "0.1 m³", "1e300", "2   m"}) {
            const auto bare = evaluate(text, scope),
                       bracketed = evaluate("(" + std::string(text) + ")", scope);
            ASSERT_TRUE(bare && bracketed) << text;
            EXPECT_EQ(std::bit_cast<std::uint64_t>(bare->value),
                      std::bit_cast<std::uint64_t>(bracketed->value))
                << text;
            EXPECT_EQ(bare->dimension, bracketed->dimension) << text;
            EXPECT_TRUE(names_used(text).empty()) << text;
        }
        for (const char* text : {"1e", "1 x", "1 2", "0x10", "1e999", "1 m m", "1..2", "--1 m +", "1 m/",
                                 "nan", "inf", "1 m/s", "1,5"}) {
            const auto bare = evaluate(text, scope),
                       bracketed = evaluate("(" + std::string(text) + ")", scope);
            EXPECT_FALSE(bare) << text;
            EXPECT_FALSE(bracketed) << text;
        }
    }
    Scope in_mm;
    in_mm.units.length = LengthUnit::millimetre;
    EXPECT_FALSE(evaluate("1e307 m³", in_mm));
    EXPECT_EQ(names_used("2 bays"), std::vector<std::string>{"bays"});
}

TEST(Expression, LiteralsAndTheirText) {
    EXPECT_EQ(read_literal("-3.2 m")->number, -3.2);
    EXPECT_EQ(read_literal("-3.2m")->unit, "m");
    EXPECT_EQ(read_literal("30°")->unit, "°");
    for (const char* text : {"", "bays", "1 + 2", "m", "1 x", "-"})
        EXPECT_FALSE(read_literal(text)) << text;
    EXPECT_EQ(literal_text({3.2, "m"}), "3.2 m");
    EXPECT_EQ(literal_text({30, "°"}), "30°");
    EXPECT_EQ(literal_text({24, ""}), "24");
}

TEST(Names, WhatCanBeAName) {
    for (const char* good : {"a", "swell_2", "φ", "_x", "Größe"})
        EXPECT_TRUE(check_name(good)) << good;
    for (const char* bad : {"", "2a", "a b", "a-b", "m", "kN", "m²", "sin", "pi", "°", " a"})
        EXPECT_EQ(check_name(bad).error().code, ErrorCode::bad_name) << bad;
    EXPECT_EQ(check_name(std::string(81, 'a')).error().code, ErrorCode::bad_name);
}

}  // namespace
}  // namespace plume
