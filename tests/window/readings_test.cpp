// What stands under the page about the step in hand.

#include <QFile>
#include <QLabel>

#include "window/fixture.hpp"

namespace plume::test {
namespace {

// A number that is infinite on one column of points, and points pushed by it.
constexpr const char* odd_study = R"json({
  "plume": 1,
  "page": [
    {"step": "lattice.rectangular", "result": "ground", "slots": {"columns": 4, "rows": 2}},
    {"step": "field.formula", "result": "odd", "slots": {"points": "ground", "formula": {"text": "1 / (i - 2)"
}
}
},
    {"step": "points.push", "result": "pushed", "slots": {"points": "ground", "amount": "odd"}},
    {"step": "outline.shape", "result": "oval", "slots": {"shape": "ellipse", "width": "4 m", "depth": "2 m"}},
    {"step": "outline.shape", "result": "square", "slots": {"shape": "rectangle"}}
  ]
})json";

class Readings : public WindowTest {
protected:
    Readings() {
        QFile made(file("odd.plume"));
        EXPECT_TRUE(made.open(QFile::WriteOnly));
        made.write(odd_study);
        made.close();
        reopen(made.fileName());
        computed();
    }
    QString text(const char* label) { return window->findChild<QLabel*>(label)->text(); }
    void take_in_hand(const std::string& result, const char* slot) {
        scroll_to(part(result, slot));
        driver.click(part(result, slot));
        driver.key("Escape");
        ASSERT_TRUE(Driver::until([&] { return text("readings-title").toStdString() == result; }));
    }
};

TEST_F(Readings, NumbersThatAreNotFiniteAreToldOnce) {
    take_in_hand("odd", "points");
    EXPECT_EQ(text("readings-details").count("not finite"), 1) << text("readings-details").toStdString();
    EXPECT_TRUE(
        text("readings-details").contains("3 numbers of ‘odd’ are not finite, the first at i 2, j 0."));
    EXPECT_FALSE(text("readings-details").contains("all numbers finite"));
    take_in_hand("pushed", "points");
    const QString below = text("readings-details");
    EXPECT_EQ(below.count("3 points have coordinates that are not finite"), 1) << below.toStdString();
    EXPECT_EQ(below.count("3 numbers of ‘odd’ are not finite"), 1)
        << "remarked on above, and said here, too: " << below.toStdString();
}

TEST_F(Readings, OfACurveThatBendsItsCurvatureIsAGraph) {
    auto* graph = window->findChild<QWidget*>("curve-graph");
    take_in_hand("square", "shape");
    EXPECT_FALSE(graph->isVisible()) << "straight from corner to corner";
    take_in_hand("oval", "shape");
    ASSERT_TRUE(Driver::until([&] { return graph->isVisible(); }));
    Driver::settle(150);
    const QImage before = graph->grab().toImage();
    driver.move_to(graph->mapToGlobal(graph->rect().center()));
    ASSERT_TRUE(Driver::until([&] { return graph->grab().toImage() != before; }))
        << "the cursor reads it off";
}

TEST_F(Readings, TheTitleKeepsItsFaceInTheDark) {
    const auto* title = window->findChild<QLabel*>("readings-title");
    const QFont face = title->font();
    ASSERT_TRUE(face.italic()) << "results are named in script";
    for (int round = 0; round < 2; ++round) {
        driver.key("ctrl+shift+d");
        Driver::settle(200);
        EXPECT_EQ(title->font().family(), face.family());
        EXPECT_EQ(title->font().pixelSize(), face.pixelSize());
        EXPECT_TRUE(title->font().italic());
    }
}

}  // namespace
}  // namespace plume::test
