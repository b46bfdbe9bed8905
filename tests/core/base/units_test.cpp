// Another unit of a study is another way to say the same form.

#include <cmath>

#include "core/catalogue/every_kind.hpp"
#include "core/exchange/study_file.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

constexpr Units metres{LengthUnit::metre, AngleUnit::degree};
constexpr Units feet{LengthUnit::foot, AngleUnit::radian};

void expect_same_form(const StudyPointer& before, const StudyPointer& after, const std::string& name,
                      const std::string& what, double tolerance = 1e-9) {
    const Evaluation old = test::run(before), now = test::run(after);
    const Outcome* made = now.outcome(name);
    ASSERT_TRUE(made && made->value) << what << ": " << (made && made->error ? sentence(*made->error) : "");
    const std::vector<double> a = test::numbers_of(value_of(old, name), metres_per(before->units.length)),
                              b = test::numbers_of(*made->value, metres_per(after->units.length));
    ASSERT_EQ(a.size(), b.size()) << what;
    ASSERT_FALSE(a.empty());
    for (std::size_t at = 0; at < a.size(); ++at)
        if (a[at] == a[at]) {
            ASSERT_NEAR(a[at], b[at], tolerance * (1 + std::abs(a[at]))) << what << ", number " << at;
        }
}

TEST(Units, OtherUnitsKeepTheFormOfEveryKindOfStep) {
    const StudyMaker ground = test::ground(6, 5);
    for (const StepKind& kind : standard_catalogue().kinds()) {
        if (test::reads_file(kind)) continue;
        StudyMaker maker = test::with_subject(ground, kind);
        // Equal distances are equal only but for their last digit, and so is their order.
        if (kind.key == "points.sort") maker.word("subject", "by", "x");
        // Which of two places on a ridge is nearer goes by the last digit, and what is collapsed next by
        // that.
        if (kind.key == "mesh.remesh") continue;
        // Nothing of it crosses.
        if (kind.key == "mesh.crossings") continue;
        // Numbers are written in the unit of the study.
        if (kind.key == "curve.write") maker.word("subject", "what", "address");
        // A level that touches a rim does or does not, by its last digit.
        if (kind.key == "curve.isolines" || kind.key == "curve.section")
            maker.number("subject", "start", "0.12");
        const StudyPointer there = with_units(*maker.study, standard_catalogue(), feet);
        // Noise looks places up in a grid of its own; the last digits of a place move it along its slope.
        const double tolerance = kind.key == "field.noise" ? 1e-6 : 1e-8;
        ASSERT_NO_FATAL_FAILURE(expect_same_form(maker.study, there, "subject", kind.key, tolerance));
        const StudyPointer back = with_units(*there, standard_catalogue(), metres);
        EXPECT_FALSE(back->step("subject")->text_units) << kind.key;
        ASSERT_NO_FATAL_FAILURE(
            expect_same_form(maker.study, back, "subject", kind.key + ", back", tolerance));
    }
}

// Formulas that lean on what a plain number counts, in every way they can.
TEST(Units, PlainNumbersInFormulasGoOnCountingWhatTheyWereWrittenIn) {
    const char* formulas[] = {
        "to_z = 3",
        "to_z = x + 1",
        "to_z = max(x, 4) - 2 * 1.5",
        "to_z = 2 * sin(30)",
        "to_z = 3 * sin(90 * u)",
        "to_z = if(x > 2, 5, y)",
        "a = 4\nto_z = a * v + clamp(x, -3, 3)",
        "to_z = 2 * noise(x, y)",
        "to_z = floor(x * 1.37) + 0.5 * fract(y / 1.7)",
        "to_z = gauss(x, 4) * 3 + hypot(x, 2)",
        "to_z = n + x",
        "to_z = sqrt(x * x + 9) + cbrt(8)",
        "to_z = 1 m * round(atan2(y, 3) / 10) / 1°",
        "to_z = 4 * u",
    };
    for (const char* formula : formulas) {
        StudyMaker maker;
        maker.control("n", 3);
        maker.add("lattice.rectangular", "ground");
        maker.number("ground", "columns", "5").number("ground", "rows", "4");
        maker.add("points.move_formula", "moved");
        maker.formula("moved", formula);
        const StudyPointer there = with_units(*maker.study, standard_catalogue(), feet);
        EXPECT_EQ(std::get<FormulaText>(there->step("moved")->slots.at("formula")).text, formula)
            << "the text stays as it was typed";
        ASSERT_NO_FATAL_FAILURE(expect_same_form(maker.study, there, "moved", formula));
        const auto remarks = test::run(there).outcome("moved")->remarks;
        ASSERT_EQ(remarks.size(), 1U);
        EXPECT_EQ(remarks[0].text,
                  "Plain numbers here count metres and degrees, the units they were written in.");
        EXPECT_FALSE(remarks[0].loss);
    }
}

TEST(Units, AFormulaWhoseNumbersAllHaveUnitsSaysNothing) {
    for (const char* formula :
         {"to_z = z + 0.5 m * sin(360° * x / 6 m)", "to_z = 2 m * u + if(i > 3, 1 m, y)"}) {
        StudyMaker maker;
        maker.add("lattice.rectangular", "ground");
        maker.add("points.move_formula", "moved");
        maker.formula("moved", formula);
        const StudyPointer there = with_units(*maker.study, standard_catalogue(), feet);
        ASSERT_NO_FATAL_FAILURE(expect_same_form(maker.study, there, "moved", formula));
        EXPECT_TRUE(test::run(there).outcome("moved")->remarks.empty()) << formula;
    }
    const StudyMaker canopy = test::canopy();
    const StudyPointer there = with_units(*canopy.study, standard_catalogue(), feet);
    EXPECT_TRUE(test::run(there).outcome("pushed")->remarks.empty()) << "it is pushed by lengths";
}

TEST(Units, TypedPointsKeepTheirPlacesAndTheirUnits) {
    StudyMaker maker;
    maker.add("points.typed", "posts");
    maker.set("posts", "rows",
              Lines{"x [cm], y, z, height [mm], share\n100, 2, 3, 500, 0.5\n4, 5, 6, 20, 1"});
    const StudyPointer there = with_units(*maker.study, standard_catalogue(), feet);
    expect_same_form(maker.study, there, "posts", "typed");
    const Value value = value_of(test::run(there), "posts");
    const PointLattice& points = *lattice_of(value);
    EXPECT_NEAR(points.x()[0], 1 / 0.3048, 1e-12);
    EXPECT_NEAR(points.y()[1], 5 / 0.3048, 1e-12);
    EXPECT_NEAR(points.field("height")->values[0], 0.5 / 0.3048, 1e-12);
    EXPECT_EQ(points.field("share")->values[0], 0.5) << "a plain number is no length";
}

TEST(Units, SlotsThatLeanOnPlainNumbersKeepTheirMeaning) {
    StudyMaker maker;
    maker.control("n", 3);
    maker.add("lattice.rectangular", "ground");
    maker.add("numbers.list", "list");
    maker.add("number.statistic", "few");
    maker.word("few", "statistic", "count");
    const struct {
        const char* text;
        const char* becomes;
    } cases[] = {
        {"12", "39.3700787402"},
        {"n * 2", "(n * 2) * 1 m"},
        {"few / 10", "(few / 10) * 1 m"},
        {"7 m", "7 m"},
        {"8 m * cos(60)", "8 m * cos(60°)"},
        {"8 m * cos(n * 10 + sin(30))", "8 m * cos((n * 10 + sin(30°)) * 1°)"},
        {"8 m * sin(1 rad)", "8 m * sin(1 rad)"},
    };
    for (const auto& c : cases) {
        StudyMaker one = maker;
        one.add("lattice.rectangular", "pad");
        one.number("pad", "width", c.text);
        const NumbersByName numbers{{"few", {11, plain_number}}};
        const StudyPointer there = with_units(*one.study, standard_catalogue(), feet, numbers);
        EXPECT_EQ(std::get<NumberText>(there->step("pad")->slots.at("width")).text, c.becomes);
        ASSERT_NO_FATAL_FAILURE(expect_same_form(one.study, there, "pad", c.text));
    }
}

TEST(Units, ANewFormulaCountsTheStudysUnitsAndAnOldOneCanToo) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("points.move_formula", "moved");
    maker.formula("moved", "to_z = 3");
    const StudyPointer there = with_units(*maker.study, standard_catalogue(), feet);
    const auto height = [](const StudyPointer& study) {
        const Evaluation evaluation = test::run(study);
        return lattice_of(value_of(evaluation, "moved"))->z()[0];
    };
    EXPECT_NEAR(height(there), 3 / 0.3048, 1e-12);
    const Edited now = set_text_units(*there, there->step("moved")->id, {});
    ASSERT_TRUE(now);
    EXPECT_EQ(height(*now), 3);
}

TEST(Units, FilesKeepWhatPlainNumbersCount) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("points.move_formula", "moved");
    const StudyPointer there = with_units(*maker.study, standard_catalogue(), feet);
    const auto read = study_from_text(study_to_text(*there));
    ASSERT_TRUE(read);
    EXPECT_EQ((*read)->step("moved")->text_units, std::optional(metres));
    EXPECT_TRUE(same(**read, *there));
    const auto wrong = study_from_text(
        R"({"plume": 1, "page": [{"step": "points.move_formula", "result": "a", "text_units": {"length": "ell"}}]})");
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().message.find("unit"), std::string::npos);
}

}  // namespace
}  // namespace plume
