// What the editor shows beside a formula, and the edits it makes.

#include "core/evaluation/formula_insight.hpp"

#include <cmath>

#include "core/formula/spans.hpp"
#include "core/measure/difference.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::run;
using test::StudyMaker;
using test::value_of;

const std::string waves =
    "wave = sin(360° * x / 4 m)\n# nothing\nfade = 1 - v\ny = 2 m * v\nz = wave * fade * 3 m";

// x from -2 m to 2 m in 41 points, y from 0 to 2 m in 11.
StudyMaker sheet(const std::string& formula) {
    StudyMaker maker;
    maker.add("lattice.formula", "form");
    maker.number("form", "from_1", "-2 m").number("form", "to_1", "2 m").number("form", "count_1", "41");
    maker.word("form", "name_2", "row").number("form", "from_2", "0").number("form", "to_2", "10");
    maker.number("form", "count_2", "11").formula("form", formula);
    return maker;
}

Result<FormulaInsight> insight_of(const StudyMaker& maker, const GraphWish& wish = {},
                                  const std::string& name = "form") {
    const Evaluation evaluation = run(maker.study);
    const Step& step = *maker.study->step(name);
    const Outcome& outcome = *evaluation.outcome(step.id);
    if (!outcome.inputs) return *outcome.error;
    return look_into_formula(*standard_catalogue().find(step.kind), *outcome.inputs, outcome.value.get(),
                             wish, plume::Run());
}

const StepKind& kind_of_form() {
    return *standard_catalogue().find("lattice.formula");
}

std::string text_of_form(const Study& study) {
    return std::get<FormulaText>(study.step("form")->slots.at("formula")).text;
}

TEST(FormulaInsight, RangesOfEveryLineOverTheWholeForm) {
    const auto insight = insight_of(sheet(waves));
    ASSERT_TRUE(insight) << sentence(insight.error());
    ASSERT_EQ(insight->terms.size(), 4U) << "a comment is no line";
    EXPECT_EQ(insight->terms[0].name, "wave");
    EXPECT_NEAR(insight->terms[0].survey.least, -1, 1e-12);
    EXPECT_NEAR(insight->terms[0].survey.most, 1, 1e-12);
    EXPECT_EQ(insight->terms[1].survey.least, 0);
    EXPECT_EQ(insight->terms[1].survey.most, 1);
    EXPECT_EQ(insight->terms[2].dimension, a_length);
    EXPECT_EQ(insight->terms[2].survey.most, 2);
    EXPECT_EQ(waves.substr(insight->terms[1].begin, 4), "fade");
    EXPECT_EQ(insight->directions[0].name, "x");
    EXPECT_EQ(insight->directions[0].dimension, a_length);
    EXPECT_EQ(insight->directions[0].first, -2);
    EXPECT_EQ(insight->directions[1].name, "row");
    EXPECT_EQ(insight->directions[1].last, 10);
}

TEST(FormulaInsight, GraphsRunAlongOneDirectionWithTheOthersHeld) {
    GraphWish wish;
    wish.held = {0.25, 0.3, 0};
    const auto along_x = insight_of(sheet(waves), wish);
    ASSERT_EQ(along_x->along.size(), 41U);
    for (std::size_t at = 0; at < 41; ++at) {
        const double x = -2 + 0.1 * static_cast<double>(at);
        EXPECT_NEAR(along_x->along[at], x, 1e-14);
        EXPECT_NEAR(along_x->terms[3].graph[at], std::sin(std::acos(-1.0) * x / 2) * 0.7 * 3, 1e-13);
        EXPECT_NEAR(along_x->terms[1].graph[at], 0.7, 1e-15);
    }
    EXPECT_EQ(along_x->directions[1].held, 3);
    EXPECT_NEAR(along_x->terms[0].at_held, std::sin(-std::acos(-1.0) / 2), 1e-14) << "at x = -1 m";
    wish.direction = 1;
    const auto along_rows = insight_of(sheet(waves), wish);
    ASSERT_EQ(along_rows->along.size(), 11U);
    for (std::size_t at = 0; at < 11; ++at)
        EXPECT_NEAR(along_rows->terms[1].graph[at], 1 - 0.1 * static_cast<double>(at), 1e-15);
    wish.direction = 2;
    EXPECT_EQ(insight_of(sheet(waves), wish)->direction, 0U) << "nothing runs along a third direction";
}

// waves: a wave along x, a fade and a place along the rows, wave and fade together.
TEST(FormulaInsight, SmallGraphsRunAlongWhatTheirLineDependsOn) {
    GraphWish wish;
    wish.held = {0.25, 0.3, 0};
    wish.from = 0.5;  // a part of the large graph is all the same to the small ones
    const auto insight = insight_of(sheet(waves), wish);
    const auto& terms = insight->terms;
    EXPECT_EQ(terms[0].small.direction, 0U);
    EXPECT_FALSE(terms[0].small.other);
    EXPECT_EQ(terms[1].small.direction, 1U) << "the fade, though the graphs run along x";
    EXPECT_NEAR(terms[1].small.values.front(), 1, 1e-15);
    EXPECT_NEAR(terms[1].small.values.back(), 0, 1e-15);
    EXPECT_EQ(terms[2].small.direction, 1U);
    EXPECT_EQ(terms[3].small.direction, 0U);
    ASSERT_TRUE(terms[3].small.other);
    EXPECT_EQ(*terms[3].small.other, 1U);
    // Held at x = -1 m, where the wave is -1, and fading from row to row.
    EXPECT_NEAR(terms[3].small.other_values.front(), -3, 1e-12);
    EXPECT_NEAR(terms[3].small.other_values.back(), 0, 1e-12);
    wish.direction = 1;
    const auto along_rows = insight_of(sheet(waves), wish);
    EXPECT_EQ(along_rows->terms[0].small.direction, 0U);
    EXPECT_EQ(along_rows->terms[3].small.direction, 1U);
    EXPECT_EQ(along_rows->terms[3].small.other, std::optional<std::size_t>(0));
}

TEST(FormulaInsight, APartOfADirectionIsSeenLarger) {
    GraphWish wish;
    wish.from = 0.5;
    wish.to = 0.75;
    wish.most_samples = 3;
    const auto insight = insight_of(sheet(waves), wish);
    EXPECT_EQ(insight->along.size(), 3U);
    EXPECT_NEAR(insight->along.front(), 0, 1e-14);
    EXPECT_NEAR(insight->along.back(), 1, 1e-14);
}

// A point's random number is the same in the graph and in the form.
TEST(FormulaInsight, GraphsMeanTheVeryPointsOfTheForm) {
    const StudyMaker maker = sheet("y = 0\nz = 1 m * random(7) + 0.1 m * j\nfield r = random(7)");
    GraphWish wish;
    wish.held = {0, 0.5, 0};
    const auto insight = insight_of(maker, wish);
    const auto form = std::get<PointLattice>(value_of(run(maker.study), "form"));
    for (std::size_t at = 0; at < 41; ++at)
        EXPECT_DOUBLE_EQ(insight->terms[1].graph[at], form.z()[form.index({at, 5, 0})]);
}

TEST(FormulaInsight, WhatIsNotFiniteIsCountedAndLocated) {
    const auto insight = insight_of(sheet("y = 0\nz = 1 m / (row - 4) + 0 * x"));
    EXPECT_EQ(insight->terms[1].survey.not_finite, 41U);
    EXPECT_EQ(insight->terms[1].first_not_finite, (Address{0, 4, 0}));
}

TEST(FormulaInsight, AnErrorLeavesWhatCanBeReadForCompletion) {
    const auto insight = insight_of(sheet("y = 0\nz = wav * 2"));
    ASSERT_TRUE(insight);
    ASSERT_TRUE(insight->error);
    EXPECT_EQ(insight->error->begin, 10U);
    EXPECT_EQ(insight->error->end, 13U);
    EXPECT_TRUE(std::ranges::any_of(insight->inputs, [](const FormulaInput& i) { return i.name == "row"; }));
    EXPECT_EQ(insight->results.front().name, "x");
}

TEST(FormulaInsight, EveryStepWithAFormulaHasOne) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("field.formula", "d");
    maker.add("points.move_formula", "moved");
    maker.add("points.keep_where", "kept");
    maker.add("curve.formula", "path");
    maker.add("mesh.tube", "rail");
    maker.word("rail", "thickness", "formula");
    for (const char* name : {"d", "moved", "kept", "path", "rail"}) {
        const auto insight = insight_of(maker, {}, name);
        ASSERT_TRUE(insight) << name << ": " << sentence(insight.error());
        EXPECT_FALSE(insight->error) << name;
        ASSERT_FALSE(insight->terms.empty()) << name;
        EXPECT_GT(insight->along.size(), 10U) << name;
        EXPECT_EQ(insight->terms.back().graph.size(), insight->along.size()) << name;
        EXPECT_GE(insight->terms.back().survey.most, insight->terms.back().survey.least) << name;
    }
}

// ---------------------------------------------------------------------------------------------------------
// edits

TEST(FormulaEdits, LinesAreMutedByNameUntilTheyAreGone) {
    StudyMaker maker = sheet(waves);
    const ItemId id = maker.study->step("form")->id;
    maker.study = *set_line_muted(*maker.study, kind_of_form(), id, "fade", true);
    EXPECT_EQ(insight_of(maker)->terms[1].muted_to, 1.0);
    maker.study = *set_formula_text(*maker.study, kind_of_form(), id, "y = 0 m\nz = 2 m");
    EXPECT_TRUE(std::get<FormulaText>(maker.study->step("form")->slots.at("formula")).muted.empty());
}

TEST(FormulaEdits, VersionsAreKeptTakenAndRemoved) {
    StudyMaker maker = sheet(waves);
    const ItemId id = maker.study->step("form")->id;
    const StudyPointer kept = *keep_version(*maker.study, kind_of_form(), id, "waves");
    const StudyPointer flat = *set_formula_text(*kept, kind_of_form(), id, "y = 2 m * v\nz = 0 m");
    const StudyPointer back = *take_version(*flat, kind_of_form(), id, "waves");
    EXPECT_EQ(text_of_form(*back), waves);
    EXPECT_EQ(take_version(*flat, kind_of_form(), id, "hills").error().code, ErrorCode::unknown_name);
    EXPECT_EQ(keep_version(*flat, kind_of_form(), id, "").error().code, ErrorCode::bad_name);
    EXPECT_EQ(take_version(**remove_version(*flat, kind_of_form(), id, "waves"), kind_of_form(), id, "waves")
                  .error()
                  .code,
              ErrorCode::unknown_name);
    // The two differ by |3 m * wave * fade|: at most 3 m.
    const auto apart = difference(value_of(run(back), "form"), value_of(run(flat), "form"));
    ASSERT_TRUE(apart);
    EXPECT_NEAR(apart->largest, 3, 1e-12);
    EXPECT_EQ(apart->compared, 41U * 11);
    EXPECT_GT(apart->mean, 0.5);
}

TEST(FormulaEdits, ALiteralBecomesAControl) {
    const StudyMaker maker = sheet(waves);
    const ItemId id = maker.study->step("form")->id;
    const std::size_t at = waves.find("4 m");
    const StudyPointer promoted = *promote_literal(*maker.study, kind_of_form(), id, at, at + 3, "period");
    EXPECT_EQ(promoted->control("period")->value, 4);
    EXPECT_EQ(promoted->control("period")->unit, "m");
    EXPECT_NE(text_of_form(*promoted).find("x / period)"), std::string::npos);
    EXPECT_EQ(std::get<PointLattice>(value_of(run(promoted), "form")).z()[15],
              std::get<PointLattice>(value_of(run(maker.study), "form")).z()[15]);
    EXPECT_EQ(promote_literal(*maker.study, kind_of_form(), id, 0, 4, "period").error().code,
              ErrorCode::bad_number);
    EXPECT_EQ(promote_literal(*maker.study, kind_of_form(), id, 0, 9999, "p").error().code,
              ErrorCode::bad_number);
}

TEST(FormulaEdits, ColouringByALineReachesWhatIsMadeOfIt) {
    StudyMaker maker = sheet(waves);
    maker.add("skin", "cover");
    maker.word("cover", "surface", "flat");
    const ItemId id = maker.study->step("form")->id;
    const StudyPointer coloured = *coloured_by_line(*maker.study, kind_of_form(), id, waves.find("fade"));
    EXPECT_EQ(coloured->step("cover")->show.colour_by, "fade");
    const auto cover = std::get<Mesh>(value_of(run(coloured), "cover"));
    ASSERT_EQ(cover.fields().size(), 1U);
    EXPECT_EQ(cover.fields()[0].name, "fade");
    EXPECT_FALSE(coloured_by_line(*maker.study, kind_of_form(), id, 3));
}

// ---------------------------------------------------------------------------------------------------
// difference

TEST(Difference, OfNumbersCurvesAndUnlikeThings) {
    const PointLattice a = test::grid(3, 3).with_field({"f", Doubles(9, 1.0), a_length});
    const PointLattice b = test::grid(3, 3).with_field({"f", Doubles(9, 1.5), a_length});
    const auto numbers = difference(FieldOnPoints{a, "f"}, FieldOnPoints{b, "f"});
    EXPECT_EQ(numbers->largest, 0.5);
    EXPECT_EQ(numbers->mean, 0.5);
    EXPECT_FALSE(difference(a, test::grid(3, 4)));
    EXPECT_FALSE(difference(a, FieldOnPoints{b, "f"}));
    StudyMaker one, other;
    for (StudyMaker* maker : {&one, &other})
        maker->add("curve.formula", "path");
    one.formula("path", "x = 3 m * cos(t)\ny = 3 m * sin(t)\nz = 0 m");
    other.formula("path", "x = 5 m * cos(t)\ny = 5 m * sin(t)\nz = 0 m").number("path", "tolerance", "1 mm");
    const auto circles = difference(value_of(run(one.study), "path"), value_of(run(other.study), "path"));
    EXPECT_NEAR(circles->largest, 2, 0.02);
    EXPECT_NEAR(circles->mean, 2, 0.02);
}

// --------------------------------------------------------------------------------------------------------
// spans

TEST(Spans, WordsAreWhatTheyAre) {
    const std::string text = "rim = if(φ > 30° and e < 1.5 m, sin(k), 2) # edge";
    std::vector<std::pair<std::string, SpanType>> found;
    for (const TextSpan& span : formula_spans(text))
        if (span.type != SpanType::sign)
            found.emplace_back(text.substr(span.begin, span.end - span.begin), span.type);
    const std::vector<std::pair<std::string, SpanType>> expected{
        {"rim", SpanType::given_name}, {"if", SpanType::function}, {"φ", SpanType::name},
        {"30", SpanType::number},      {"°", SpanType::unit},      {"and", SpanType::keyword},
        {"e", SpanType::constant},     {"1.5", SpanType::number},  {"m", SpanType::unit},
        {"sin", SpanType::function},   {"k", SpanType::name},      {"2", SpanType::number},
        {"# edge", SpanType::comment}};
    EXPECT_EQ(found, expected);
}

TEST(Spans, UnfinishedLinesAreReadAsFarAsTheyGo) {
    EXPECT_EQ(formula_spans("a = 2 $ 3\nb = 1").size(), 6U);
    EXPECT_TRUE(formula_spans("").empty());
    EXPECT_FALSE(formula_spans("\xff\xfe\n((((").empty());
}

TEST(Spans, LiteralsAndBrackets) {
    const std::string text = "a = (2.5 m + f(x, 30°))";
    const auto spans = formula_spans(text);
    const auto length_literal = literal_at(spans, 6);
    ASSERT_TRUE(length_literal);
    EXPECT_EQ(text.substr(length_literal->begin, length_literal->end - length_literal->begin), "2.5 m");
    EXPECT_EQ(text.substr(literal_at(spans, 18)->begin, 4), "30°");
    EXPECT_FALSE(literal_at(spans, 0));
    EXPECT_EQ(matching_bracket(text, spans, 4), text.size() - 1);
    EXPECT_EQ(matching_bracket(text, spans, text.size() - 1), 4U);
    EXPECT_EQ(matching_bracket(text, spans, 14), text.size() - 2);
    EXPECT_FALSE(matching_bracket("(a", formula_spans("(a"), 0));
}

}  // namespace
}  // namespace plume
