// Forms made of formulas, by hand: typing, scrubbing, graphs, colours, versions, splitting.

#include <QLabel>
#include <QLineEdit>
#include <QScrollBar>
#include <QToolButton>
#include <cmath>
#include <utility>

#include <utility>
#include "app/formula/formula_block.hpp"
#include "app/formula/term_column.hpp"
#include "app/readings/term_graph.hpp"

#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Formula : public WindowTest {
protected:
    FormulaBlock& block(const std::string& result) {
        StepBlock* step = window->sheet().step_block(study().step(result)->id);
        if (!step->formula()) driver.click(part(result, "formula"));
        return *step->formula();
    }
    FormulaEditor& editor(const std::string& result) { return block(result).editor(); }
    // Replaces the whole formula, line by line.
    void write(const std::string& result, const QStringList& lines) {
        FormulaEditor& text = editor(result);
        scroll_to(&text);
        driver.click(&text);
        driver.key("ctrl+a");
        for (qsizetype at = 0; at < lines.size(); ++at) {
            if (at > 0) driver.key("Return");
            driver.type(lines[at]);
            driver.key("Escape");  // puts a list of names away
            text.setFocus();
        }
        computed();
        noted(result);
    }
    std::string text_of_formula(const std::string& result) {
        return std::get<FormulaText>(study().step(result)->slots.at("formula")).text;
    }
    // Waits for the readings of the present formula.
    void noted(const std::string& result) {
        const ItemId id = study().step(result)->id;
        EXPECT_TRUE(Driver::until([&] { return document().results().insight(id) != nullptr; }));
        Driver::settle(250);
    }
    const TermInsight& term(const std::string& result, const std::string& name) {
        for (const TermInsight& each : document().results().insight(study().step(result)->id)->terms)
            if (each.name == name) return each;
        throw std::runtime_error("no line " + name);
    }
    // The first letter of some words in the editor, on the screen.
    QPoint place_of(const std::string& result, const QString& words) {
        FormulaEditor& text = editor(result);
        QTextCursor cursor = text.textCursor();
        cursor.setPosition(static_cast<int>(text.toPlainText().indexOf(words)));
        return text.viewport()->mapToGlobal(text.cursorRect(cursor).center() + QPoint(4, 0));
    }
    QPoint graph_of(const std::string& result, const std::string& line) {
        TermColumn& terms = block(result).terms();
        return terms.mapToGlobal(terms.graph_rect(term(result, line)).center());
    }
    void form(const QStringList& lines) {
        continue_with("Shape by formula");
        computed();
        write("form", lines);
    }
};

const QStringList waves{"wave = sin(360 * x / 4 m)", "z = 0.5 * wave * y"};

TEST_F(Formula, ATypedFormulaShapesTheModel) {
    form(waves);
    EXPECT_EQ(text_of_formula("form"), "wave = sin(360 * x / 4 m)\nz = 0.5 * wave * y");
    // The preset loops: x from -6 to 6 m, y from -4 to 4 m; a turn of the wave every 4 m.
    EXPECT_NEAR(top_of("form"), 2, 1e-3);
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(text_of_formula("form"), "wave = sin(360 * x / 4 m)") << "a line is one step of the history";
    EXPECT_EQ(editor("form").toPlainText(), QString("wave = sin(360 * x / 4 m)"));
    driver.key("ctrl+shift+z");
    computed();
    EXPECT_EQ(text_of_formula("form"), "wave = sin(360 * x / 4 m)\nz = 0.5 * wave * y");
}

TEST_F(Formula, ErrorsAreUnderlinedWhereTheyAreAndTheLastFormStays) {
    form(waves);
    write("form", {"wave = sin(360 * x / 4 m)", "z = 0.5 * wawe * y"});
    const auto marks = editor("form").extraSelections();
    const auto wrong = std::ranges::find_if(marks, [](const QTextEdit::ExtraSelection& mark) {
        return mark.format.underlineStyle() == QTextCharFormat::WaveUnderline;
    });
    ASSERT_NE(wrong, marks.end());
    EXPECT_EQ(wrong->cursor.selectedText().toStdString(), "wawe");
    const Shown& shown = *document().results().shown("form");
    EXPECT_EQ(shown.state, StepState::failed);
    EXPECT_TRUE(shown.stale && shown.value) << "the last good form is still there";
    EXPECT_NE(shown.error->mend.find("wave"), std::string::npos);
}

TEST_F(Formula, NamesAreCompleted) {
    form({"z = 0"});
    driver.key("ctrl+a");
    driver.type("z = 1 * smo");
    driver.key("Tab");
    driver.type("0, 6, x)");
    computed();
    EXPECT_EQ(text_of_formula("form"), "z = 1 * smoothstep(0, 6, x)");
    EXPECT_NEAR(top_of("form"), 1, 1e-12);
    driver.key("ctrl+a");
    driver.type("z = 1 * hyp");
    driver.key("Return");
    driver.type("u, v)");
    driver.key("Return");
    driver.type("# end");
    EXPECT_EQ(text_of_formula("form"), "z = 1 * hypot(u, v)\n# end");
}

TEST_F(Formula, ANumberIsDraggedSidewaysInOneStroke) {
    form({"z = 2 * u"});
    const QPoint at = place_of("form", "2 * u");
    driver.drag(at, at + QPoint(40, 0));
    computed();
    const std::string dragged = text_of_formula("form");
    EXPECT_NE(dragged, "z = 2 * u");
    const double number = std::stod(dragged.substr(4));
    EXPECT_GT(number, 2.1);
    EXPECT_NEAR(top_of("form"), number, 1e-9);
    editor("form").setFocus();
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(text_of_formula("form"), "z = 2 * u");
    driver.key("Home");
    for (int step = 0; step < 4; ++step)
        driver.key("Right");
    driver.key("alt+Up");
    EXPECT_EQ(text_of_formula("form"), "z = 2.01 * u");
}

TEST_F(Formula, ALiteralBecomesAControl) {
    form({"z = 2 * u"});
    driver.click(place_of("form", "2 * u"), 3);
    choose("Make 2 a control");
    Driver::settle(100);
    driver.key("ctrl+a");
    driver.type("steep");
    driver.key("Return");
    computed();
    ASSERT_TRUE(study().control("steep"));
    EXPECT_EQ(study().control("steep")->value, 2);
    EXPECT_EQ(text_of_formula("form"), "z = steep * u");
}

TEST_F(Formula, RangesAndGraphsAreReadOff) {
    form(waves);
    TermColumn& terms = block("form").terms();
    EXPECT_EQ(terms.range_text(term("form", "wave")), "-1 … 1");
    EXPECT_EQ(terms.range_text(term("form", "z")), "-2 … 2 m");
    const ItemId id = study().step("form")->id;
    for (const char* line : {"wave", "z"}) {
        scroll_to(&terms);
        // What is looked at is computed anew, which may still move the page.
        QPoint at = graph_of("form", line);
        EXPECT_TRUE(Driver::until([&] {
            Driver::settle(60);
            return std::exchange(at, graph_of("form", line)) == at;
        }));
        driver.click(at);
        EXPECT_TRUE(Driver::until([&] {
            return !document().attention().graphed(id).empty() &&
                   document().attention().graphed(id).back() == line;
        })) << line;
    }
    auto* large = window->findChild<TermGraph*>("term-graph");
    ASSERT_TRUE(Driver::until([&] { return large->isVisible(); }));
    EXPECT_EQ(document().attention().graphed(id), (std::vector<std::string>{"wave", "z"}));
    // Dragging on the small graph holds x elsewhere.
    const QPoint middle = graph_of("form", "wave");
    driver.drag(middle, middle + QPoint(10, 0));
    noted("form");
    const FormulaInsight& insight = *document().results().insight(id);
    EXPECT_GT(insight.directions[0].held, 1);
    EXPECT_NEAR(term("form", "wave").at_held, std::sin(std::acos(-1.0) / 2 * insight.directions[0].held),
                1e-12);
    // The wheel sees a part of the direction larger.
    const GraphWish before = document().attention().graph_wish(id);
    driver.move_to(large->mapToGlobal(QPoint(large->width() / 3, large->height() / 3)));
    driver.press(4);
    driver.release(4);
    EXPECT_TRUE(Driver::until([&] {
        const GraphWish now = document().attention().graph_wish(id);
        return now.to - now.from < before.to - before.from;
    }));
    // Along the other loop.
    driver.click(child("formula-along"));
    choose("Along y");
    noted("form");
    EXPECT_EQ(document().results().insight(id)->direction, 1U);
}

TEST_F(Formula, ALineUnderTheCursorColoursTheModel) {
    form(waves);
    const ItemId id = study().step("form")->id;
    const StudyPointer before = document().snapshot();
    driver.move_to(place_of("form", "sin("));
    EXPECT_TRUE(Driver::until([&] {
        const Shown* shown = document().results().shown(id);
        return shown->drawable && shown->drawable->colour_field == "wave";
    }));
    driver.move_to(window->mapToGlobal(QPoint(900, 300)));
    EXPECT_TRUE(
        Driver::until([&] { return document().results().shown(id)->drawable->colour_field.empty(); }));
    EXPECT_EQ(document().snapshot(), before) << "looking changes nothing";
}

TEST_F(Formula, ALineIsMutedByItsDot) {
    form({"lift = 3 * u", "z = lift + 1"});
    EXPECT_NEAR(top_of("form"), 4, 1e-12);
    TermColumn& terms = block("form").terms();
    driver.click(terms.mapToGlobal(terms.mute_rect(term("form", "lift")).center()));
    computed();
    noted("form");
    EXPECT_NEAR(top_of("form"), 1, 1e-12);
    EXPECT_EQ(terms.range_text(term("form", "lift")), "muted: 0");
    editor("form").setFocus();
    driver.key("ctrl+Home");
    driver.key("ctrl+m");
    computed();
    EXPECT_NEAR(top_of("form"), 4, 1e-12);
}

TEST_F(Formula, VersionsSwitchAndLieOverTheModelAsGhosts) {
    form({"z = 1 + 0 * u"});
    driver.click(child("formula-versions"));
    choose("Keep");
    Driver::settle(100);
    driver.key("ctrl+a");
    driver.type("flat");
    driver.key("Return");
    write("form", {"z = 1 + 2 * u"});
    driver.click(child("formula-versions"));
    choose("flat");
    choose("Lay its ghost");
    auto* said = window->findChild<QLabel*>("formula-ghost");
    EXPECT_TRUE(Driver::until([&] { return said->isVisible(); }));
    EXPECT_EQ(said->text(), "Ghost ‘flat’: at most 2 m apart, 1 m on average");
    EXPECT_EQ(document().results().ghost().drawables.size(), 1U);
    driver.click(child("formula-versions"));
    choose("flat");
    choose("Switch");
    computed();
    EXPECT_EQ(text_of_formula("form"), "z = 1 + 0 * u");
}

TEST_F(Formula, EvenAndOddAreSplit) {
    continue_with("rectangular");
    computed();
    continue_with("Split points by a test");
    computed();
    ASSERT_EQ(study().items.size(), 3U);
    const auto points = [&](const char* name) {
        return lattice_of(*document().results().shown(name)->value)->point_count();
    };
    EXPECT_EQ(points("even") + points("odd"), 25U * 17);
    EXPECT_EQ(points("even"), 213U);
    EXPECT_TRUE(document().results().shown("even")->drawable && document().results().shown("odd")->drawable);
    write("even", {"i < 5"});
    EXPECT_EQ(points("even"), 5U * 17);
    EXPECT_EQ(points("odd"), 20U * 17);
}

TEST_F(Formula, TheLanguageIsExplainedInTheWindow) {
    form({"z = 0"});
    driver.click(child("formula-help"));
    EXPECT_TRUE(Driver::until([&] { return child("language-help") != nullptr; }));
}

}  // namespace
}  // namespace plume::test
