#include "core/study/sentence.hpp"

#include <set>

#include "core/formula/rules_syntax.hpp"
#include "core/made_forms.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

std::vector<std::string> active(const test::StudyMaker& maker, const std::string& name) {
    const Step& step = *maker.study->step(name);
    std::vector<std::string> keys;
    for (const SlotSpec* slot : active_slots(*standard_catalogue().find(step.kind), step))
        keys.push_back(slot->key);
    return keys;
}

std::string text(const test::StudyMaker& maker, const std::string& name) {
    const Step& step = *maker.study->step(name);
    return sentence_text(*standard_catalogue().find(step.kind), step);
}

// What every declaration has to keep, so that sheet, file, command line and reference can be derived from it.
TEST(Catalogue, DeclarationsAreWhole) {
    std::set<std::string> keys;
    for (const StepKind& kind : standard_catalogue().kinds()) {
        EXPECT_TRUE(keys.insert(kind.key).second) << kind.key;
        EXPECT_FALSE(kind.verb.empty() || kind.help.empty() || kind.results.empty() ||
                     kind.result_name.empty())
            << kind.key;
        EXPECT_TRUE(kind.make) << kind.key;
        EXPECT_TRUE(check_name(kind.result_name)) << kind.key;
        std::set<std::string> slots;
        EXPECT_TRUE(kind.companion.empty() || standard_catalogue().find(kind.companion)) << kind.key;
        for (const SlotSpec& slot : kind.slots) {
            EXPECT_TRUE(slots.insert(slot.key).second) << kind.key << " " << slot.key;
            EXPECT_FALSE(slot.label.empty()) << kind.key << " " << slot.key;
            EXPECT_NE(kind.sentence.find("{" + slot.key + "}"), std::string::npos)
                << kind.key << " never shows " << slot.key;
            EXPECT_TRUE(!slot.numeric() || slot.type == SlotType::quantity ||
                        resolve_number(slot, slot.preset, Scope{}))
                << kind.key << " " << slot.key;
            EXPECT_TRUE(slot.type != SlotType::quantity || evaluate(slot.preset, Scope{}))
                << kind.key << " " << slot.key;
            EXPECT_TRUE(slot.type != SlotType::formula || slot.rules || parse_formula(slot.preset))
                << kind.key << " " << slot.key;
            EXPECT_TRUE(!slot.rules || parse_rules(slot.preset, *slot.rules)) << kind.key << " " << slot.key;
            EXPECT_TRUE(slot.type != SlotType::formula || kind.contexts.contains("formula")) << kind.key;
            EXPECT_TRUE(slot.type != SlotType::reference || !slot.accepts.empty());
        }
    }
    EXPECT_GT(keys.size(), 30U);
}

TEST(Sentence, ReadsAsWritten) {
    test::StudyMaker maker = test::canopy();
    EXPECT_EQ(text(maker, "lattice"),
              "Lay a lattice of 24 by 16 bays over 36 m by 24 m, on the XY plane from its centre.");
    EXPECT_EQ(text(maker, "pushed"), "Push lattice up by rise × 1, with a strength of 1.");
    maker.word("lattice", "sizing", "spaced");
    EXPECT_EQ(text(maker, "lattice"),
              "Lay a lattice of 24 by 16 bays spaced 1.5 m by 1.5 m, on the XY plane from its centre.");
}

TEST(Sentence, OnlyWhatItShowsCounts) {
    test::StudyMaker maker = test::canopy();
    EXPECT_EQ(active(maker, "lattice"),
              (std::vector<std::string>{"columns", "rows", "sizing", "width", "depth", "plane", "origin"}));
    EXPECT_EQ(active(maker, "reach"),
              (std::vector<std::string>{"points", "combination", "attractors", "response"}));
    maker.word("reach", "response", "bell");
    EXPECT_EQ(active(maker, "reach").back(), "reach");
}

TEST(Sentence, PartsStandThereForWhatIsPickedAndForWhatResultsAreGivenAs) {
    test::StudyMaker maker = test::boxes_of({}, "1 m", "1 m", "1 m");
    maker.add("handoff.drawing", "sheet");
    maker.set("sheet", "results", ResultList{ResultList::Of::listed, "", {{"boxes", ""}}});
    const auto shows = [&](const char* slot) {
        const std::vector<std::string> slots = active(maker, "sheet");
        return std::ranges::find(slots, slot) != slots.end();
    };
    EXPECT_FALSE(shows("cut") || shows("groups"));
    maker.word("sheet", "views", "in plan, section looking down");
    EXPECT_TRUE(shows("cut"));
    EXPECT_FALSE(shows("cut_x"));
    maker.word("sheet", "cut", "place");
    EXPECT_TRUE(shows("cut_x"));
    maker.set("sheet", "results", ResultList{ResultList::Of::listed, "", {{"boxes", "schedule"}}});
    EXPECT_TRUE(shows("groups"));
    maker.word("sheet", "views",
               "in plan, from the south, section looking down, section looking north, at an angle");
    EXPECT_NE(text(maker, "sheet").find("Draw boxes as a schedule, 5 views, cut through the place 0 m east"),
              std::string::npos)
        << text(maker, "sheet");
}

const SentencePart* part_of(const std::vector<SentencePart>& parts, std::string_view slot) {
    for (const SentencePart& part : parts)
        if (part.slot && part.slot->key == slot) return &part;
    return nullptr;
}

TEST(Sentence, WhatIsRarelyChangedWaitsAndCountsAllTheSame) {
    test::StudyMaker maker = test::canopy();
    maker.add("mesh.thin", "thinned");
    maker.add("mesh.remesh", "even");
    const StepKind& kind = *standard_catalogue().find("mesh.remesh");
    const auto parts = [&] { return sentence_parts(kind, *maker.study->step("even")); };
    ASSERT_TRUE(part_of(parts(), "angle"));
    EXPECT_TRUE(part_of(parts(), "angle")->waits);
    EXPECT_FALSE(part_of(parts(), "length")->waits);
    EXPECT_EQ(text(maker, "even").find("creases"), std::string::npos) << text(maker, "even");
    const std::vector<std::string> counted = active(maker, "even");
    EXPECT_NE(std::ranges::find(counted, "angle"), counted.end());
    maker.number("even", "angle", "30°");
    EXPECT_FALSE(part_of(parts(), "angle")->waits);
    EXPECT_NE(text(maker, "even").find(", keeping creases of more than 30°"), std::string::npos);
    maker.set("even", "angle", OddValue{"[1]"});
    EXPECT_FALSE(part_of(parts(), "angle")->waits) << "what cannot be read is shown";
}

// About two lines at the usual width of the sheet; the tests of the window measure them.
TEST(Sentence, NoneIsLongAsItBegins) {
    for (const StepKind& kind : standard_catalogue().kinds()) {
        const std::string begun = sentence_text(kind, Step());
        // Of loops each says from where to where it runs.
        EXPECT_LE(begun.size(), kind.key == "lattice.formula" ? 155U : 132U) << kind.key << ": " << begun;
        for (const SentencePart& part : sentence_parts(kind, Step()))
            EXPECT_FALSE(part.waits && part.slot && part.slot->type == SlotType::reference)
                << kind.key << " holds back a result it cannot do without";
    }
}

TEST(Sentence, AMissingSlotIsItsPresetAndAWrongOneIsShown) {
    const StepKind& kind = *standard_catalogue().find("lattice.rectangular");
    Step step;
    step.kind = kind.key;
    EXPECT_EQ(slot_text(*kind.slot("columns"), step), "24");
    step.slots["columns"] = WordKey{"nonsense"};
    EXPECT_EQ(slot_text(*kind.slot("columns"), step), "nonsense");
    step.slots["columns"] = OddValue{"null"};
    EXPECT_EQ(slot_text(*kind.slot("columns"), step), "null");
    step.slots["plane"] = WordKey{"zz"};
    EXPECT_EQ(slot_text(*kind.slot("plane"), step), "zz")
        << "an unknown word is shown as it is, and refused when evaluated";
}

}  // namespace
}  // namespace plume
