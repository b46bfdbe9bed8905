#include "core/study/slot_help.hpp"

#include <set>

#include "core/support.hpp"

namespace plume {
namespace {

SlotTip tip(const StudyPointer& study, const char* result, const char* slot) {
    const Step& step = *study->step(result);
    return slot_tip(*study, standard_catalogue(), step, *standard_catalogue().find(step.kind)->slot(slot));
}

TEST(SlotHelp, SaysWhatASlotTakesAndItsLimits) {
    const StepKind& polar = *standard_catalogue().find("lattice.polar");
    const SlotHelp outer = slot_help(*polar.slot("outer"), {LengthUnit::millimetre, AngleUnit::degree});
    EXPECT_EQ(outer.takes, "a length");
    EXPECT_EQ(outer.limits, "above 0 mm");
    EXPECT_EQ(outer.preset, "12 m");
    EXPECT_EQ(slot_help(*polar.slot("angle"), {}).limits, "") << "bounds that nobody meets are not told";
    for (const StepKind& kind : standard_catalogue().kinds())
        for (const SlotSpec& slot : kind.slots) {
            const SlotHelp help = slot_help(slot, {});
            EXPECT_FALSE(help.takes.empty()) << kind.key << ' ' << slot.key;
            EXPECT_EQ(help.limits.find("1e+"), std::string::npos) << kind.key << ' ' << slot.key;
        }
}

// What is typed or drawn is explained; words and results are by what they are.
TEST(SlotHelp, EveryNumberTextAndPlaceHasAMeaning) {
    const std::set<std::string> clear{"Day", "Year", "Pixels wide", "Pixels high", "Steps"};
    for (const StepKind& kind : standard_catalogue().kinds()) {
        if (kind.derivation) continue;  // their own heads say it
        for (const SlotSpec& slot : kind.slots) {
            const bool typed = slot.numeric() || slot.type == SlotType::places ||
                               slot.type == SlotType::text || slot.type == SlotType::addresses ||
                               slot.type == SlotType::picks || slot.type == SlotType::seed;
            if (!typed || clear.contains(slot.label)) continue;
            EXPECT_FALSE(slot.help.empty()) << kind.key << '.' << slot.key << " (" << slot.label << ')';
            EXPECT_TRUE(slot.help.empty() || slot.help.ends_with('.')) << slot.help;
            EXPECT_LE(slot.help.size(), 90U) << slot.help;
        }
    }
    EXPECT_EQ(standard_catalogue().find("lattice.polar")->slot("inner")->help,
              "From the centre to the innermost ring; 0 begins in the centre.");
}

TEST(SlotHelp, ATipTellsOfTheStepThatStandsThere) {
    test::StudyMaker maker = test::canopy();
    maker.control("swell", 3.2, "m");
    maker.number("rise", "high_length", "swell * 2");
    const StudyPointer study = maker.study;
    const SlotTip high = tip(study, "rise", "high_length");
    EXPECT_EQ(high.now, "swell * 2 = 6.4 m");
    EXPECT_NE(high.follow.find("Read by "), std::string::npos);
    const SlotTip sizing = tip(study, "lattice", "sizing");
    EXPECT_EQ(sizing.takes, "a word");
    EXPECT_EQ(sizing.help, "over: the whole size is given.");
    EXPECT_EQ(tip(study, "lattice", "columns").now, "") << "a number says by itself what it is";
    const SlotTip read = tip(study, "reach", "points");
    EXPECT_EQ(read.now, "lattice: points");
    EXPECT_EQ(read.takes, "points");
    // What cannot be worked out is left out.
    maker.number("rise", "high_length", "nothing * 2");
    EXPECT_EQ(tip(maker.study, "rise", "high_length").now, "");
}

}  // namespace
}  // namespace plume
