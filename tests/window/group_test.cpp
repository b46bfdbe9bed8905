// Several steps made one, by hand, used, taken apart.

#include <QLineEdit>
#include <QTreeWidget>

#include "core/study/step_group.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Groups : public WindowTest {
protected:
    // A lattice, a formula's heights, the skin of what is pushed.
    void build_hill() {
        continue_with("lattice");
        continue_with("numbers by formula");
        continue_with("push points");
        computed();
    }
    void select_all_steps() {
        const auto& items = study().items;
        driver.click(window->sheet().step_block(id_of(items.front()))->mapToGlobal(QPoint(3, 12)));
        driver.with_shift([&] {
            driver.click(window->sheet().step_block(id_of(items.back()))->mapToGlobal(QPoint(3, 12)));
        });
    }
};

TEST_F(Groups, SeveralStepsBecomeOneWithTheSlotsThatStayOpen) {
    build_hill();
    const std::string last = step_of(study().items.back())->name;
    const double before = top_of(last);
    select_all_steps();
    driver.key("ctrl+j");
    ASSERT_TRUE(Driver::until([&] { return child("group-name") != nullptr; }));
    // Nameless it is refused.
    driver.key("Return");
    ASSERT_TRUE(child("group-name"));
    driver.type("Raise a shell");
    auto* slots = qobject_cast<QTreeWidget*>(child("group-slots"));
    const auto rows = slots->findItems("bays along i of", Qt::MatchStartsWith);
    ASSERT_EQ(rows.size(), 1);
    const QRect row = slots->visualItemRect(rows.front());
    driver.click(slots->viewport()->mapToGlobal(QPoint(row.left() + 10, row.center().y())));
    auto* reads = qobject_cast<QLineEdit*>(child("group-sentence"));
    EXPECT_EQ(reads->text(), "Raise a shell: columns {columns}");
    driver.click(button_in_popup("Make one step"));
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 1; }));
    computed();
    EXPECT_NEAR(top_of(last), before, 1e-9);
    EXPECT_EQ(slot_text_of(last, "steps"), "3 steps");
    type_into(last, "columns", "9");
    EXPECT_EQ(document().results().problem_count(), 0U);
    // What is inside is read, and stands on the sheet again.
    driver.click(part(last, "steps"));
    ASSERT_TRUE(Driver::until([&] { return button_in_popup("Take apart") != nullptr; }));
    driver.click(button_in_popup("Take apart"));
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 3; }));
    computed();
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_EQ(std::get<NumberText>(step_of(study().items.front())->slots.at("columns")).text, "9");
    // Made one again, as it was: its name, its sentence and what was ticked are known.
    driver.key("ctrl+j");
    ASSERT_TRUE(Driver::until([&] { return child("group-name") != nullptr; }));
    EXPECT_EQ(qobject_cast<QLineEdit*>(child("group-name"))->text(), "Raise a shell");
    EXPECT_EQ(qobject_cast<QLineEdit*>(child("group-sentence"))->text(), "Raise a shell: columns {columns}");
    slots = qobject_cast<QTreeWidget*>(child("group-slots"));
    int ticked = 0;
    for (int at = 0; at < slots->topLevelItemCount(); ++at)
        ticked += slots->topLevelItem(at)->checkState(0) == Qt::Checked ? 1 : 0;
    EXPECT_EQ(ticked, 1);
    driver.click(button_in_popup("Make one step"));
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 1; }));
    computed();
    EXPECT_EQ(slot_text_of(last, "columns"), "9");
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 3; }));
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 1; }));
    driver.key("ctrl+z");
    driver.key("ctrl+z");
    ASSERT_TRUE(Driver::until([&] { return study().items.size() == 3; }));
}

}  // namespace
}  // namespace plume::test
