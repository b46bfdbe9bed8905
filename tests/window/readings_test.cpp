// What stands under the page about the step in hand.

#include <QApplication>
#include <QFile>
#include <QHeaderView>
#include <QLabel>
#include <QScrollArea>
#include <QScrollBar>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>

#include "app/parts/steady_place.hpp"
#include "app/parts/wrapped_label.hpp"
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
    {"step": "outline.shape", "result": "square", "slots": {"shape": "rectangle"}},
    {"step": "points.move_formula", "result": "uneven", "slots": {"points": "ground", "formula": {"text": "to_x = x + 0.1 m * j * i^2"}}},
    {"step": "frame.lattice", "result": "net", "slots": {"points": "uneven"}},
    {"step": "frame.families", "result": "family", "slots": {"frame": "net", "tolerance": "1 mm"}}
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

// The model above stays as high as it is while lines come and go, as they do when a study plays.
TEST_F(Readings, ThePlaceForTextGetsLowerWithAnotherStepOnly) {
    auto* told = window->findChild<QScrollArea*>("readings-told");
    const QWidget* panel = told->parentWidget();
    take_in_hand("oval", "shape");
    Driver::settle(150);
    const int low = panel->height();
    take_in_hand("family", "frame");
    ASSERT_TRUE(Driver::until([&] { return panel->height() > low; }))
        << text("readings-details").toStdString();
    const int high = panel->height();
    EXPECT_EQ(told->verticalScrollBar()->maximum(), 0);
    QWidget* block = window->sheet().step_block(study().step("family")->id);
    driver.click(block->mapToGlobal(QPoint(block->width() - 14, block->height() - 4)));
    driver.key("m");
    ASSERT_TRUE(Driver::until([&] { return text("readings-details").contains("muted"); }));
    Driver::settle(150);
    EXPECT_LT(told->widget()->layout()->totalMinimumHeightForWidth(told->viewport()->width()),
              told->height());
    EXPECT_EQ(panel->height(), high);
    take_in_hand("oval", "shape");
    EXPECT_TRUE(Driver::until([&] { return panel->height() == low; })) << panel->height();
}

TEST_F(Readings, TextThatIsVeryLongScrolls) {
    auto* label = wrapped_label("told", QFont());
    label->setText(QString("a line of many words that is told of a step ").repeated(60));
    auto* content = new QWidget;
    (new QVBoxLayout(content))->addWidget(label);
    SteadyPlace place(content, 200);
    place.show();
    QScrollBar& bar = *place.verticalScrollBar();
    ASSERT_TRUE(Driver::until([&] { return bar.maximum() > 0; }));
    EXPECT_LT(place.sizeHint().height(), 300);
    EXPECT_LE(content->width(), place.viewport()->width()) << "not a word lies under the bar";
    const auto turn_wheel = [&] { driver.click(place.mapToGlobal(place.rect().center()), 5); };
    ASSERT_TRUE(Driver::until([&] {
        turn_wheel();  // what is just shown is not under the mouse at once
        return bar.value() > 0;
    }));
    place.activateWindow();
    ASSERT_TRUE(Driver::until([&] { return place.isActiveWindow(); }));
    bar.clearFocus();
    const QImage without = bar.grab().toImage();
    driver.key("Tab");
    ASSERT_TRUE(Driver::until([&] { return bar.hasFocus(); }));
    EXPECT_NE(bar.grab().toImage(), without) << "shows that it has the keyboard";
    driver.key("End");
    EXPECT_TRUE(Driver::until([&] { return bar.value() == bar.maximum(); }));
    label->setText("a line");
    place.begin();
    EXPECT_EQ(bar.value(), 0) << "the next is seen from its top";
    EXPECT_TRUE(Driver::until([&] { return place.sizeHint().height() < 100; }));
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

TEST_F(Readings, FamiliesAgainstTheToleranceAreDragged) {
    auto* graph = window->findChild<QWidget*>("family-graph");
    take_in_hand("oval", "shape");
    EXPECT_FALSE(graph->isVisible());
    take_in_hand("family", "frame");
    ASSERT_TRUE(Driver::until([&] { return graph->isVisible(); }));
    Driver::settle(150);
    const auto families = [&] {
        const auto remarks = document().results().shown("family")->remarks;
        return std::stoi(remarks.front().text);
    };
    const int before = families();
    ASSERT_GT(before, 3);
    const QPoint middle = graph->mapToGlobal(graph->rect().center());
    driver.drag(middle, middle + QPoint(graph->width() / 3, 0));
    computed();
    EXPECT_LT(families(), before);
    EXPECT_NE(slot_text_of("family", "tolerance"), "1 mm");
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(slot_text_of("family", "tolerance"), "1 mm") << "the drag is one stroke";
}

TEST_F(Readings, AColumnThatIsClickedSortsTheRows) {
    take_in_hand("net", "points");
    auto* table = window->findChild<QTableView*>("values");
    ASSERT_TRUE(Driver::until([&] { return table->isVisible(); }));
    Driver::settle(150);
    const auto numbers = [&](int column) {
        std::vector<double> all;
        for (int row = 0; row < table->model()->rowCount(); ++row)
            all.push_back(table->model()->index(row, column).data().toString().toDouble());
        return all;
    };
    const std::vector<double> as_made = numbers(1);
    ASSERT_FALSE(std::ranges::is_sorted(as_made));
    // Apart enough not to be one double click.
    const auto click_length = [&] {
        Driver::settle(QApplication::doubleClickInterval() + 50);
        const QHeaderView* head = table->horizontalHeader();
        driver.click(head->mapToGlobal(
            QPoint(head->sectionViewportPosition(1) + head->sectionSize(1) / 2, head->height() / 2)));
    };
    click_length();
    ASSERT_TRUE(Driver::until([&] { return std::ranges::is_sorted(numbers(1)); }));
    click_length();
    ASSERT_TRUE(Driver::until([&] { return std::ranges::is_sorted(numbers(1), std::greater()); }));
    // The row under the cursor is the member that is marked in the model.
    driver.move_to(table->viewport()->mapToGlobal(QPoint(20, 30)));
    const int row = table->rowAt(30);
    const auto frame = std::get<BarFrame>(*document().results().shown("net")->value);
    ASSERT_TRUE(Driver::until([&] {
        const Hovered& hovered = document().attention().hovered();
        return hovered.step != 0 && member_mark(frame, frame.members()[hovered.index]) ==
                                        table->model()->index(row, 0).data().toString().toStdString();
    }));
    click_length();
    EXPECT_TRUE(Driver::until([&] { return numbers(1) == as_made; })) << "the third click lets go";
}

TEST_F(Readings, RowsAreMembersOrNodesOrGroupsOfThem) {
    take_in_hand("net", "points");
    auto* table = window->findChild<QTableView*>("values");
    ASSERT_TRUE(Driver::until([&] { return table->isVisible(); }));
    Driver::settle(150);
    const auto frame = std::get<BarFrame>(*document().results().shown("net")->value);
    const auto rows = [&] { return static_cast<std::size_t>(table->model()->rowCount()); };
    const auto click = [&](const char* name) {
        auto* button = window->findChild<QWidget*>(name);
        ASSERT_TRUE(button && button->isVisible()) << name;
        driver.click(button);
    };
    EXPECT_EQ(rows(), frame.member_count());
    click("rows-nodes");
    ASSERT_TRUE(Driver::until([&] { return rows() == frame.node_count(); }));
    // The row under the cursor is the node that is marked in the model.
    driver.move_to(table->viewport()->mapToGlobal(QPoint(20, 30)));
    const std::string mark = table->model()->index(table->rowAt(30), 0).data().toString().toStdString();
    ASSERT_TRUE(Driver::until([&] {
        const Hovered& hovered = document().attention().hovered();
        return hovered.step != 0 && hovered.index >= frame.member_count() &&
               node_mark(frame, hovered.index - frame.member_count()) == mark;
    }));
    click("rows-members");
    ASSERT_TRUE(Driver::until([&] { return rows() == frame.member_count(); }));
    click("group-rows");
    ASSERT_TRUE(Driver::until([] { return QApplication::activePopupWidget() != nullptr; }));
    // Not grouped, by mark, by way.
    for (int down = 0; down < 3; ++down)
        driver.key("Down");
    driver.key("Return");
    ASSERT_TRUE(Driver::until([&] { return rows() < frame.member_count(); }));
    double members = 0;
    for (std::size_t row = 0; row < rows(); ++row)
        members += table->model()->index(static_cast<int>(row), 1).data().toString().toDouble();
    EXPECT_EQ(members, static_cast<double>(frame.member_count()));
    EXPECT_EQ(table->model()->headerData(0, Qt::Horizontal, Qt::DisplayRole).toString(), "way");
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
