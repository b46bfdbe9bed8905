#include "core/study/edits/scrub.hpp"

#include "core/study/slots/slot_rules.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

const SlotSpec& slot(const char* key) {
    return *standard_catalogue().find("lattice.rectangular")->slot(key);
}

TEST(Scrub, IncrementFollowsTheMagnitude) {
    const std::pair<double, double> cases[] = {{36, 0.1}, {3.2, 0.01},  {250, 1},
                                               {0, 0.01}, {0.65, 0.01}, {-36, 0.1}};
    for (const auto& [value, increment] : cases) {
        EXPECT_DOUBLE_EQ(scrub_increment(value, ScrubPace::usual), increment) << value;
        EXPECT_DOUBLE_EQ(scrub_increment(value, ScrubPace::fine), increment / 10);
        EXPECT_DOUBLE_EQ(scrub_increment(value, ScrubPace::coarse), increment * 10);
    }
}

TEST(Scrub, TextKeepsItsUnitAndStaysInRange) {
    const Units units;
    EXPECT_EQ(*scrubbed_text(slot("width"), "36 m", 10, ScrubPace::usual, units), "37 m");
    EXPECT_EQ(*scrubbed_text(slot("width"), "36 m", 10, ScrubPace::fine, units), "36.1 m");
    EXPECT_EQ(*scrubbed_text(slot("width"), "3600 cm", -5, ScrubPace::usual, units), "3550 cm");
    EXPECT_EQ(*scrubbed_text(slot("columns"), "24", 10, ScrubPace::usual, units), "26");
    EXPECT_EQ(*scrubbed_text(slot("columns"), "24", -10'000, ScrubPace::usual, units), "1");
    EXPECT_FALSE(scrubbed_text(slot("columns"), "bays * 2", 3, ScrubPace::usual, units));
    const auto smallest = scrubbed_text(slot("width"), "0.05 m", -10'000, ScrubPace::usual, units);
    EXPECT_TRUE(resolve_number(slot("width"), *smallest, Scope{units, {}, {}}))
        << *smallest << " has to stay above zero";
}

TEST(Scrub, KeysStepCountsByWholeNumbers) {
    const Units units;
    EXPECT_EQ(*stepped_text(slot("columns"), "24", 1, ScrubPace::usual, units), "25");
    EXPECT_EQ(*stepped_text(slot("columns"), "24", -1, ScrubPace::coarse, units), "14");
    EXPECT_EQ(*stepped_text(slot("width"), "36 m", 1, ScrubPace::usual, units), "36.1 m");
}

TEST(Scrub, ControlsKeepTheirStepAndRange) {
    Control control;
    control.least = 0;
    control.most = 8;
    control.step = 0.05;
    EXPECT_DOUBLE_EQ(scrubbed_value(control, 3.2, 4, ScrubPace::usual), 3.4);
    EXPECT_DOUBLE_EQ(scrubbed_value(control, 3.2, 1e6, ScrubPace::usual), 8);
    EXPECT_DOUBLE_EQ(value_at_share(control, 0.5), 4);
    EXPECT_DOUBLE_EQ(share_of_value(control, 3.2), 0.4);
}

}  // namespace
}  // namespace plume
