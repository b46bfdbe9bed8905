// Steps that compute, move, keep and split by formula.

#include <cmath>

#include "core/exchange/study_file.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::error_of;
using test::run;
using test::StudyMaker;
using test::value_of;

// A lattice of 4 by 3 points one study length apart with its corner at the origin, and a step on it.
StudyMaker on_lattice(const std::string& kind, const std::string& formula) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "3").number("ground", "rows", "2").number("ground", "width", "3 m");
    maker.number("ground", "depth", "2 m").word("ground", "origin", "corner");
    maker.add(kind, "out");
    maker.formula("out", formula);
    return maker;
}

PointLattice points_of(const StudyMaker& maker, const std::string& name = "out") {
    return *lattice_of(value_of(run(maker.study), name));
}

std::vector<double> numbers_in(const Column& column) {
    return {column.span().begin(), column.span().end()};
}

TEST(ComputeField, TheLastLineIsTheNumber) {
    const StudyMaker maker = on_lattice("field.formula", "d = hypot(x, y)\nfield near = d < 2 m\nd ^ 2");
    const Value value = value_of(run(maker.study), "out");
    const auto& field = std::get<FieldOnPoints>(value);
    EXPECT_EQ(field.field().dimension.length, 2);
    for (std::size_t index = 0; index < 12; ++index) {
        const Vec3 p = field.points.point(index);
        EXPECT_NEAR(field.field().values[index], p.x * p.x + p.y * p.y, 1e-14);
        EXPECT_EQ(field.points.field("near")->values[index], std::hypot(p.x, p.y) < 2 ? 1 : 0);
    }
}

TEST(ComputeField, EarlierFieldsCanBeRead) {
    StudyMaker maker = on_lattice("field.formula", "x + y");
    maker.add("field.formula", "twice");
    maker.formula("twice", "2 * out");
    const PointLattice twice = points_of(maker, "twice");
    for (std::size_t index = 0; index < 12; ++index)
        EXPECT_EQ(twice.field("twice")->values[index], 2 * (twice.x()[index] + twice.y()[index]));
}

TEST(ComputeField, RandomIsByPointAndSeed) {
    const PointLattice a = points_of(on_lattice("field.formula", "random(1)"));
    const PointLattice b = points_of(on_lattice("field.formula", "random(2)"));
    const PointLattice again = points_of(on_lattice("field.formula", "random(1)"));
    int same = 0;
    for (std::size_t index = 0; index < 12; ++index) {
        const double value = a.field("out")->values[index];
        EXPECT_TRUE(value >= 0 && value < 1);
        EXPECT_EQ(value, again.field("out")->values[index]);
        same += value == b.field("out")->values[index] ? 1 : 0;
    }
    EXPECT_EQ(same, 0);
    EXPECT_NE(a.field("out")->values[0], a.field("out")->values[1]);
}

// A turn by formula is a rotation matrix: it needs the old x while y is made, and the other way round.
TEST(MoveByFormula, EveryLineReadsTheOldCoordinates) {
    const StudyMaker maker = on_lattice(
        "points.move_formula", "to_x = x * cos(30°) - y * sin(30°)\nto_y = x * sin(30°) + y * cos(30°)");
    const PointLattice before = points_of(maker, "ground"), after = points_of(maker);
    const double c = std::sqrt(3.0) / 2, s = 0.5;
    for (std::size_t index = 0; index < 12; ++index) {
        const Vec3 p = before.point(index);
        EXPECT_NEAR(after.x()[index], p.x * c - p.y * s, 1e-14);
        EXPECT_NEAR(after.y()[index], p.x * s + p.y * c, 1e-14);
        EXPECT_EQ(after.z()[index], p.z);
    }
}

TEST(MoveByFormula, NoCoordinateIsAnError) {
    const Error error = error_of(run(on_lattice("points.move_formula", "up = 1 m").study), "out");
    EXPECT_EQ(error.code, ErrorCode::missing_input);
    EXPECT_NE(error.mend.find("to_z"), std::string::npos);
}

TEST(KeepWhere, GapsAreLeftOrClosedUp) {
    StudyMaker maker = on_lattice("points.keep_where", "i != 1");
    const PointLattice gaps = points_of(maker);
    EXPECT_EQ(gaps.address_count(), 12U);
    EXPECT_EQ(gaps.point_count(), 9U);
    maker.word("out", "gaps", "close");
    const PointLattice closed = points_of(maker);
    EXPECT_EQ(closed.arrangement(), Arrangement::grid) << "a whole column is gone, so a grid stays";
    EXPECT_EQ(closed.counts(), (std::array<std::size_t, 3>{3, 3, 1}));
    EXPECT_EQ(closed.x()[1], 2);
    maker.formula("out", "hypot(x, y) > 1.5 m");
    const PointLattice scatter = points_of(maker);
    EXPECT_EQ(scatter.arrangement(), Arrangement::scatter);
    EXPECT_EQ(scatter.point_count(), 8U);
    EXPECT_FALSE(scatter.has_gaps());
}

TEST(KeepWhere, NothingKeptIsASentence) {
    const Error error = error_of(run(on_lattice("points.keep_where", "x > 100 m").study), "out");
    EXPECT_EQ(error.code, ErrorCode::empty_input);
    EXPECT_EQ(sentence(error),
              "Formula keeps no point: its condition holds nowhere. Turn the comparison round, or change its "
              "number.");
}

TEST(Split, EvenAndOddMakeTheWhole) {
    const StudyMaker maker = on_lattice("points.split", "mod(i + j, 2) == 0");
    ASSERT_EQ(maker.study->items.size(), 3U) << "the second result came along";
    const Step& rest = *step_of(maker.study->items[2]);
    EXPECT_EQ(rest.kind, "points.rest");
    const PointLattice even = points_of(maker), odd = points_of(maker, rest.name);
    EXPECT_EQ(even.point_count() + odd.point_count(), 12U);
    for (std::size_t index = 0; index < 12; ++index) {
        const Address at = even.address(index);
        EXPECT_EQ(even.present(index), (at.i + at.j) % 2 == 0);
        EXPECT_NE(even.present(index), odd.present(index));
    }
}

TEST(Split, ARestOfNothingAndOfAnotherLatticeAreRefused) {
    StudyMaker maker = on_lattice("points.split", "i >= 0");
    const std::string rest = step_of(maker.study->items[2])->name;
    EXPECT_EQ(error_of(run(maker.study), rest).code, ErrorCode::empty_input);
    maker.add("lattice.rectangular", "other");
    maker.study = *move_items(*maker.study, {maker.study->step("other")->id}, 0);
    maker.set(rest, "points", ResultName{"other"});
    EXPECT_EQ(error_of(run(maker.study), rest).code, ErrorCode::unlike_arrangement);
}

TEST(ListNumbers, ByEndAndByStep) {
    StudyMaker maker;
    maker.add("numbers.list", "list");
    maker.number("list", "count", "5").number("list", "from", "2").number("list", "to", "4");
    const auto numbers = [&] {
        const Value value = value_of(run(maker.study), "list");
        const auto& field = std::get<FieldOnPoints>(value);
        return numbers_in(field.field().values);
    };
    EXPECT_EQ(numbers(), (std::vector<double>{2, 2.5, 3, 3.5, 4}));
    maker.word("list", "rule", "step").number("list", "step", "-3");
    EXPECT_EQ(numbers(), (std::vector<double>{2, -1, -4, -7, -10}));
    maker.number("list", "from", "1 m");
    EXPECT_EQ(error_of(run(maker.study), "list").code, ErrorCode::unit_mismatch);
    maker.number("list", "step", "10 cm");
    EXPECT_DOUBLE_EQ(numbers()[4], 1.4);
    maker.number("list", "count", "1e8");
    EXPECT_EQ(error_of(run(maker.study), "list").code, ErrorCode::over_budget);
    maker.number("list", "count", "1e12");
    EXPECT_EQ(error_of(run(maker.study), "list").code, ErrorCode::out_of_range);
}

// The list feeds the others: filtered by a test, then by another.
TEST(ListNumbers, IsFilteredByATest) {
    StudyMaker maker;
    maker.add("numbers.list", "list");
    maker.number("list", "count", "20").number("list", "from", "1").number("list", "to", "20");
    maker.add("points.keep_where", "threes");
    maker.formula("threes", "mod(list, 3) == 0").word("threes", "gaps", "close");
    const PointLattice threes = points_of(maker, "threes");
    EXPECT_EQ(threes.arrangement(), Arrangement::row);
    const Column& left = threes.field("list")->values;
    EXPECT_EQ(numbers_in(left), (std::vector<double>{3, 6, 9, 12, 15, 18}));
}

TEST(FormulaSlots, SurviveTheStudyFile) {
    StudyMaker maker = on_lattice("points.move_formula", "");
    const FormulaText formula{"# höher\nlift = 1 m * \"?\"\nto_z = z + lift",
                              {"lift"},
                              {{"flat", "to_z = z"}, {"steep", "to_z = z\n\n+ 2 m"}}};
    maker.set("out", "formula", formula);
    const auto again = study_from_text(study_to_text(*maker.study));
    ASSERT_TRUE(again) << sentence(again.error());
    EXPECT_EQ(std::get<FormulaText>((*again)->step("out")->slots.at("formula")), formula);
    EXPECT_NE(study_to_text(*maker.study).find("\"to_z = z + lift\""), std::string::npos)
        << "a line is a line";
}

TEST(FormulaSlots, AMegabyteOfFormulaIsRefused) {
    std::string text;
    while (text.size() < 1'000'000)
        text.append("a").append(std::to_string(text.size())).append(" = 1 + 2\n");
    const Error error = error_of(run(on_lattice("field.formula", text + "1").study), "out");
    EXPECT_EQ(error.code, ErrorCode::too_long);
    const Error deep = error_of(run(on_lattice("field.formula", std::string(60'000, '(')).study), "out");
    EXPECT_EQ(deep.code, ErrorCode::too_deep);
}

TEST(MoveByFormula, ZIsTheOldOneAndTheMendSaysWhatTheNewOneIsCalled) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("points.move_formula", "moved");
    maker.formula("moved", "z = x / 2");
    const Error error = test::error_of(test::run(maker.study), "moved");
    EXPECT_EQ(error.code, ErrorCode::name_clash);
    EXPECT_NE(error.mend.find("to_z = "), std::string::npos) << error.mend;
}

}  // namespace
}  // namespace plume
