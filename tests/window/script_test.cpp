// A script, by hand: written, wrong, mended, its head become a sentence.

#include <QPlainTextEdit>

#include "window/fixture.hpp"

namespace plume::test {
namespace {

class Scripts : public WindowTest {
protected:
    void write(const QStringList& lines) {
        scroll_to(part("computed", "script"));
        driver.click(part("computed", "script"));
        ASSERT_TRUE(Driver::until([&] { return child("lines") != nullptr; }));
        driver.key("ctrl+a");
        for (qsizetype at = 0; at < lines.size(); ++at) {
            if (at > 0) driver.key("Return");
            driver.type(lines[at]);
        }
        driver.key("ctrl+Return");
        computed();
    }
};

TEST_F(Scripts, AHeadBecomesASentenceAndAMistakeNamesItsLine) {
    continue_with("lattice");
    continue_with("script");
    computed();
    EXPECT_NEAR(document().results().shown("computed")->drawable->bounds.high.z, 0.5, 0.01);
    // What the head asks for is dragged and typed like any other slot.
    type_into("computed", "high", "2 m");
    EXPECT_NEAR(document().results().shown("computed")->drawable->bounds.high.z, 2, 0.05);
    const QStringList head{"-- Stairs", "-- sentence: Set {ground} in stairs of {rise}.", "-- ground: points",
                           "-- rise: length = 40 cm", "-- result: points"};
    write(head + QStringList{"local step = floor(ground.x / 3)", "return ground:with{z = stp * rise}"});
    const ItemId id = study().step("computed")->id;
    ASSERT_TRUE(document().results().shown(id)->error.has_value());
    EXPECT_NE(document().results().shown(id)->error->message.find("line 7"), std::string::npos)
        << document().results().shown(id)->error->message;
    EXPECT_TRUE(document().results().shown(id)->value) << "what was there last stays";
    write(head + QStringList{"local step = floor(ground.x / 3)", "return ground:with{z = step * rise}"});
    ASSERT_FALSE(document().results().shown(id)->error) << sentence(*document().results().shown(id)->error);
    EXPECT_EQ(slot_text_of("computed", "rise"), "40 cm") << "the new head has a slot of its own";
    EXPECT_EQ(document().kind_of(*study().step("computed"))->slot("high"), nullptr);
    EXPECT_NEAR(document().results().shown("computed")->drawable->bounds.high.z, 6 * 0.4, 1e-6);
    type_into("computed", "rise", "1 m");
    EXPECT_NEAR(document().results().shown("computed")->drawable->bounds.high.z, 6, 1e-6);
    driver.key("ctrl+z");
    computed();
    EXPECT_NEAR(document().results().shown("computed")->drawable->bounds.high.z, 6 * 0.4, 1e-6);
}

}  // namespace
}  // namespace plume::test
