#include "core/study/typed_step.hpp"

#include "core/study/sentence.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

std::string filled(const char* key, const char* typed) {
    const StepKind& kind = *standard_catalogue().find(key);
    Step step;
    step.kind = key;
    return sentence_text(kind, with_numbers(kind, step, read_typed(typed).numbers));
}

bool starts(const std::string& text, std::string_view with) {
    return text.starts_with(with);
}

TEST(TypedStep, NamesEndWhereNumbersBegin) {
    EXPECT_EQ(read_typed("lay lattice 24 by 16").name, "lay lattice");
    EXPECT_EQ(read_typed("  skin  ").name, "skin");
    EXPECT_TRUE(read_typed("skin").numbers.empty());
    // Digits that are no number belong to the name, and so does a number that nothing stands before.
    EXPECT_EQ(read_typed("read 3mf").name, "read 3mf");
    EXPECT_EQ(read_typed("24 lattice").name, "24 lattice");
    EXPECT_EQ(read_typed("").name, "");
    ASSERT_EQ(read_typed("turn 30°").numbers.size(), 1U);
    EXPECT_EQ(read_typed("turn 30°").numbers.front().dimension, an_angle);
    EXPECT_EQ(read_typed("move 4 m up").numbers.front().text, "4 m");
    EXPECT_EQ(read_typed("move 4m up").numbers.front().axis, 'z');
    EXPECT_EQ(read_typed("grid 24×16").numbers.size(), 2U);
    EXPECT_EQ(read_typed("grid 24x16 over").numbers.size(), 2U);
}

TEST(TypedStep, NumbersFillTheSentenceInItsOrder) {
    EXPECT_TRUE(starts(filled("lattice.rectangular", "lattice 12 by 7"),
                       "Lay a lattice of 12 by 7 bays over 36 m by 24 m"));
    EXPECT_TRUE(starts(filled("lattice.rectangular", "lattice 12 by 7 over 30 m by 14 m"),
                       "Lay a lattice of 12 by 7 bays over 30 m by 14 m"));
    EXPECT_TRUE(starts(filled("lattice.rectangular", "lattice 30 m by 14 m"),
                       "Lay a lattice of 24 by 16 bays over 30 m by 14 m"));
    // A plain number for a length, where nothing counts.
    EXPECT_TRUE(starts(filled("body.extrude", "make bodies 4"), "Make bodies of nothing, 4 upwards") ||
                filled("body.extrude", "make bodies 4").find(", 4 ") != std::string::npos);
    EXPECT_NE(filled("thing.turn", "turn 45°").find("by 45°"), std::string::npos);
    // More numbers than slots, and units that nothing takes, are left out.
    EXPECT_EQ(filled("thing.turn", "turn 45° 30° 20° 10 m"), filled("thing.turn", "turn 45°"));
}

TEST(TypedStep, AxesHaveTheirSlots) {
    EXPECT_NE(filled("thing.move", "move 4 m up").find("by 0 m, 0 m, 4 m"), std::string::npos);
    EXPECT_NE(filled("thing.move", "move 4 m down").find("by 0 m, 0 m, -4 m"), std::string::npos);
    EXPECT_NE(filled("thing.move", "move 2 m across 3 m along").find("by 2 m, 3 m, 3 m"), std::string::npos);
    EXPECT_NE(filled("thing.move", "move 1 m 2 m 5 m").find("by 1 m, 2 m, 5 m"), std::string::npos);
    // Where a choice says the way, it is turned.
    const StepKind& extrude = *standard_catalogue().find("body.extrude");
    Step step;
    step = with_numbers(extrude, step, read_typed("make bodies 4 m across").numbers);
    EXPECT_EQ(std::get<WordKey>(step.slots.at("direction")).key, "x");
    EXPECT_EQ(std::get<NumberText>(step.slots.at("by")).text, "4 m");
}

}  // namespace
}  // namespace plume
