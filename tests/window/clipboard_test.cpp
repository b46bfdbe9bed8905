// Several steps selected, cut, copied and pasted; units changed; responses chosen by their pictures.

#include <QApplication>
#include <QClipboard>
#include <QLabel>
#include <QToolButton>

#include "core/exchange/study_file.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Clipboard : public WindowTest {
protected:
    std::vector<std::string> names() {
        std::vector<std::string> all;
        for (const Item& item : study().items)
            if (const Step* step = step_of(item)) all.push_back(step->name);
        return all;
    }
    // The empty corner of a step's block.
    QPoint corner(const std::string& result) {
        StepBlock* block = window->sheet().step_block(study().step(result)->id);
        scroll_to(block);
        return block->mapToGlobal(QPoint(block->width() - 14, block->height() - 4));
    }
    void press(const std::string& result) {
        driver.click(corner(result));
        Driver::settle(20);
    }
    QString message() { return window->findChild<QLabel*>("message")->text(); }
};

TEST_F(Clipboard, SeveralAreSelectedWithShiftCopiedAndPastedBelow) {
    build_canopy();
    press("reach");
    driver.key("shift+Down");
    driver.key("shift+Down");
    EXPECT_EQ(document().attention().selection().size(), 3U);
    driver.key("ctrl+c");
    const auto excerpt = study_from_text(QApplication::clipboard()->text().toStdString());
    ASSERT_TRUE(excerpt) << "the text is a study";
    EXPECT_EQ((*excerpt)->items.size(), 3U);
    driver.key("ctrl+v");
    computed();
    EXPECT_EQ(names(), (std::vector<std::string>{"lattice", "attractors", "reach", "ranged", "pushed",
                                                 "reach_2", "ranged_2", "pushed_2", "surface"}));
    EXPECT_EQ(slot_text_of("ranged_2", "field"), "reach_2") << "readings inside follow";
    EXPECT_EQ(slot_text_of("pushed_2", "points"), "lattice") << "those outside stay";
    EXPECT_EQ(document().results().problem_count(), 0U);
    EXPECT_EQ(document().attention().selection().size(), 3U) << "what came is selected";
    driver.key("ctrl+x");
    computed();
    EXPECT_EQ(names().size(), 6U);
    driver.key("ctrl+z");
    computed();
    EXPECT_EQ(names().size(), 9U);
}

TEST_F(Clipboard, ASecondLikeTheFirstWithNumbersOfItsOwnInTwoKeys) {
    continue_with("rectangular");
    driver.click(part("lattice", "width"), 3);
    choose("Make it a control");
    driver.key("Return");
    computed();
    ASSERT_EQ(study().controls.size(), 1U);
    const std::string control = study().controls[0]->name;
    press("lattice");
    driver.key("ctrl+c");
    driver.key("ctrl+shift+v");
    computed();
    ASSERT_EQ(study().controls.size(), 2U);
    EXPECT_EQ(names(), (std::vector<std::string>{"lattice", "lattice_2"}));
    EXPECT_EQ(slot_text_of("lattice", "width"), control);
    EXPECT_EQ(slot_text_of("lattice_2", "width"), control + "_2");
    // Between studies: the text on the clipboard is all there is.
    reopen();
    driver.key("ctrl+v");
    computed();
    EXPECT_EQ(names(), (std::vector<std::string>{"lattice"}));
    EXPECT_EQ(study().controls.size(), 1U) << "its control came along";
    EXPECT_EQ(document().results().problem_count(), 0U);
}

TEST_F(Clipboard, AControlIsCopiedAlone) {
    continue_with("rectangular");
    driver.click(part("lattice", "width"), 3);
    choose("Make it a control");
    driver.key("Return");
    computed();
    auto* row = window->sheet().findChild<ControlRow*>();
    ASSERT_TRUE(row);
    row->findChild<LivePart*>()->setFocus(Qt::TabFocusReason);
    driver.key("ctrl+c");
    const auto excerpt = study_from_text(QApplication::clipboard()->text().toStdString());
    ASSERT_TRUE(excerpt);
    EXPECT_TRUE((*excerpt)->items.empty());
    ASSERT_EQ((*excerpt)->controls.size(), 1U);
    reopen();
    driver.key("ctrl+v");
    EXPECT_EQ(study().controls.size(), 1U);
}

TEST_F(Clipboard, ShiftClickSelectsTheRangeAndAPlainClickOne) {
    build_canopy();
    press("attractors");
    driver.with_shift([&] { driver.click(corner("pushed")); });
    EXPECT_EQ(document().attention().selection().size(), 4U);
    press("reach");
    EXPECT_EQ(document().attention().selection().size(), 1U);
}

TEST_F(Clipboard, TextThatIsNoStudyIsSaidSo) {
    continue_with("rectangular");
    press("lattice");
    QApplication::clipboard()->setText("24 by 16 bays");
    driver.key("ctrl+v");
    EXPECT_TRUE(message().contains("no study")) << message().toStdString();
    EXPECT_EQ(names().size(), 1U);
}

TEST_F(Clipboard, InsideANumberTheKeysBelongToItsText) {
    continue_with("rectangular");
    computed();
    driver.click(part("lattice", "columns"));
    driver.key("ctrl+a");
    driver.key("ctrl+c");
    driver.key("Escape");
    EXPECT_EQ(QApplication::clipboard()->text(), "24");
}

TEST_F(Clipboard, OtherUnitsKeepTheFormAndSayWhatItsFormulaCounts) {
    continue_with("rectangular");
    continue_with("formula move");
    computed();
    const Box before = bounds_of(*document().results().shown("moved")->value);
    const QPoint seen = on_screen({3, 2, 0});
    driver.click(part("moved", "formula"));
    driver.click(child("units"));
    choose("feet");
    computed();
    const Box after = bounds_of(*document().results().shown("moved")->value);
    EXPECT_NEAR(after.size().x * 0.3048, before.size().x, 1e-9);
    EXPECT_NEAR(after.size().z * 0.3048, before.size().z, 1e-9);
    ASSERT_TRUE(study().step("moved")->text_units);
    EXPECT_LE((on_screen({3 / 0.3048, 2 / 0.3048, 0}) - seen).manhattanLength(), 2) << "it is seen as before";
    const auto* counts = window->findChild<QLabel*>("formula-units");
    ASSERT_TRUE(counts);
    EXPECT_TRUE(counts->text().endsWith("m, °")) << counts->text().toStdString();
}

TEST_F(Clipboard, AResponseIsChosenByItsPictureAndItsWavesByNumbers) {
    build_canopy();
    driver.click(part("ranged", "response"));
    auto* waves = qobject_cast<QToolButton*>(child("response-waves"));
    ASSERT_TRUE(waves);
    EXPECT_FALSE(waves->icon().isNull());
    driver.click(waves);
    driver.key("Escape");
    computed();
    ASSERT_TRUE(part("ranged", "periods"));
    type_into("ranged", "periods", "5");
    computed();
    EXPECT_EQ(slot_text_of("ranged", "periods"), "5");
    EXPECT_NEAR(document().results().shown("ranged")->figures->most, 3.2, 0.05)
        << "waves reach the upper end";
}

}  // namespace
}  // namespace plume::test
