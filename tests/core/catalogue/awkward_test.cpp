// The named corpus of awkward curves and surfaces, and every kind of step that reads such on each of them:
// what comes out is finite, can be shown and told, or is refused in a sentence with its place and mend.

#include <cmath>
#include <nlohmann/json.hpp>
#include <set>

#include "core/base/numbers.hpp"
#include "core/catalogue/every_kind.hpp"
#include "core/data/not_finite.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/picture/drawable.hpp"
#include "core/results/facts.hpp"

namespace plume {
namespace {

using test::StudyMaker;

using Corners = std::vector<std::array<double, 3>>;

void draw(StudyMaker& maker, const char* name, const Corners& corners, const char* ends, const char* degree,
          double metre = 1, double from = 0) {
    maker.add("curve.drawn", name);
    Places poles;
    for (const auto& [x, y, z] : corners) {
        const auto text = [&](double value) { return short_text(value * metre + from, 17) + " m"; };
        poles.push_back({"p" + std::to_string(poles.size()), text(x), text(y), text(z), "1"});
    }
    maker.set(name, "poles", std::move(poles)).word(name, "ends", ends).number(name, "degree", degree);
}

// Coincident poles, a cusp, a fold back on itself, a closed one that is a line, one that crosses itself, one
// that is nearly closed, near and far ones.
std::vector<std::string> add_curves(StudyMaker& maker) {
    draw(maker, "pinched", {{0, 0, 0}, {3, 2, 1}, {3, 2, 1}, {3, 2, 1}, {6, 0, 0}}, "open", "3");
    draw(maker, "ends_piled", {{0, 0, 0}, {0, 0, 0}, {0, 0, 0}, {2, 1, 0}, {5, 0, 1}}, "open", "3");
    draw(maker, "cusp", {{0, 0, 0}, {4, 4, 0}, {0, 4, 0}, {4, 0, 0}}, "open", "3");
    draw(maker, "forth_and_back", {{0, 0, 0}, {6, 0, 0}, {2, 0, 0}}, "open", "1");
    draw(maker, "straight_ring", {{0, 0, 0}, {3, 0, 0}, {6, 0, 0}, {3, 0, 0}}, "closed", "3");
    draw(maker, "eight", {{0, 0, 0}, {4, 4, 0}, {4, 0, 0}, {0, 4, 0}}, "closed", "3");
    draw(maker, "eight_of_lines", {{0, 0, 0}, {4, 4, 0}, {4, 0, 0}, {0, 4, 0}}, "closed", "1");
    draw(maker, "nearly_closed", {{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {0, 0, 1e-6}}, "open", "1");
    draw(maker, "knot", {{0, 0, 0}, {5, 1, 2}, {-1, 4, 3}, {2, -2, 5}, {3, 5, -1}, {0, 1, 4}}, "closed", "3");
    draw(maker, "far", {{0, 0, 0}, {3, 4, 1}, {6, 0, 2}, {9, 3, 0}}, "open", "3", 1, 1e9);
    draw(maker, "long", {{0, 0, 0}, {3, 4, 1}, {6, 0, 2}, {9, 3, 0}}, "open", "3", 1e8);
    draw(maker, "short", {{0, 0, 0}, {3, 4, 1}, {6, 0, 2}, {9, 3, 0}}, "open", "3", 1e-6);
    draw(maker, "calm", {{0, 0, 0}, {1, 1, 0}, {2, 0, 0}, {3, 1, 0}, {4, 0, 0}, {5, 2, 0}}, "open", "5");
    return {"pinched", "ends_piled",     "cusp",          "forth_and_back", "straight_ring",
            "eight",   "eight_of_lines", "nearly_closed", "knot",           "far",
            "long",    "short",          "calm"};
}

// A fold, poles where a side is one point, closed one way and both ways, a side on an axis, a strip that runs
// into itself, a sliver.
std::vector<std::string> add_surfaces(StudyMaker& maker) {
    draw(maker, "there", {{-4, 0, 0}, {0, 0, 1}, {4, 0, 0}}, "open", "2");
    draw(maker, "over", {{-4, 6, 0}, {0, 6, 1}, {4, 6, 0}}, "open", "2");
    draw(maker, "and_back", {{-4, 2, 2}, {0, 2, 3}, {4, 2, 2}}, "open", "2");
    maker.add("curve.arc", "half");
    maker.word("half", "shape", "arc");
    maker.set("half", "places",
              Places{{"a", "0 m", "0 m", "-3 m", "1"},
                     {"b", "3 m", "0 m", "0 m", "1"},
                     {"c", "0 m", "0 m", "3 m", "1"}});
    std::vector<std::string> names;
    const auto revolve = [&](const char* name, const char* curve) {
        maker.add("surface.revolve", name);
        maker.set(name, "curve", ResultName{curve});
        names.emplace_back(name);
    };
    revolve("ball", "half");
    revolve("cone", "forth_and_back");
    revolve("around_cusp", "cusp");
    revolve("around_knot", "knot");
    const auto loft = [&](const char* name, const char* first, const char* last) {
        maker.add("surface.loft", name);
        maker.set(name, "curve", ResultName{first}).set(name, "last", ResultName{last});
        names.emplace_back(name);
    };
    loft("strip", "there", "over");
    loft("crossing", "straight_ring", "eight");
    loft("sliver", "there", "pinched");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"eight"});
    names.emplace_back("wall");
    maker.add("surface.extrude", "flat_wall");
    maker.set("flat_wall", "curve", ResultName{"forth_and_back"}).word("flat_wall", "direction", "x");
    names.emplace_back("flat_wall");
    return names;
}

class Awkward : public testing::Test {
protected:
    Awkward() : base_(test::ground(4, 3)) {
        curves_ = add_curves(base_);
        surfaces_ = add_surfaces(base_);
        whole_ = test::run(base_.study, {}, &cache_);
    }
    const Outcome& outcome(const std::string& name) const { return *whole_.outcome(name); }

    void look_at(const StudyMaker& maker, const std::string& what) {
        const Outcome outcome = test::outcome_of_subject(maker.study, cache_);
        if (outcome.error) {
            ++refused_;
            EXPECT_FALSE(outcome.error->mend.empty()) << what << ": " << sentence(*outcome.error);
            EXPECT_NE(outcome.error->code, ErrorCode::broken_invariant)
                << what << ": " << sentence(*outcome.error);
            return;
        }
        ASSERT_TRUE(outcome.value) << what;
        ++made_;
        if (!looked_at_.insert(outcome.key).second) return;
        // What is straight has no radius, a cusp no bend, and what nothing is below no height: the step says
        // so.
        if (what.starts_with("field.on_curve") || what.starts_with("field.of_form") ||
            what.starts_with("surface.measure"))
            return;
        SeenColumns seen;
        for (const std::string& odd : not_finite_sentences(*outcome.value, seen))
            ADD_FAILURE() << what << ": " << odd;
        const Box box = bounds_of(*outcome.value);
        EXPECT_TRUE(box.empty() || (is_finite(box.low) && is_finite(box.high))) << what;
        EXPECT_FALSE(facts_of(*outcome.value, Units{}).empty());
        DrawOptions few;
        few.surface_samples = 400;
        const auto drawable = make_drawable(*outcome.value, few, plume::Run());
        EXPECT_TRUE(drawable) << what << ": " << sentence(drawable.error());
    }

    StudyMaker base_;
    std::vector<std::string> curves_, surfaces_;
    ResultStore cache_{200'000'000};
    Evaluation whole_;
    std::set<Hash> looked_at_;
    int made_ = 0, refused_ = 0;
};

TEST_F(Awkward, TheCorpusIsThere) {
    for (const auto* names : {&curves_, &surfaces_})
        for (const std::string& name : *names)
            EXPECT_TRUE(outcome(name).value)
                << name << ": " << (outcome(name).error ? sentence(*outcome(name).error) : "");
}

class AwkwardKinds : public Awkward, public testing::WithParamInterface<std::string> {};

// In every word of its choices, one at a time.
TEST_P(AwkwardKinds, StandOnEveryCurveAndSurface) {
    for (const StepKind& kind : test::kinds_of(GetParam())) {
        const StudyMaker good = test::with_subject(base_, kind);
        std::vector<std::pair<StudyMaker, std::string>> ways{{good, ""}};
        for (const SlotSpec& choice : kind.slots)
            for (const Word& word : choice.words)
                ways.emplace_back(StudyMaker(good).word("subject", choice.key, word.key),
                                  choice.key + " " + word.key);
        for (const SlotSpec& slot : kind.slots) {
            if (slot.type != SlotType::reference) continue;
            for (const auto& [names, of] : {std::pair{&curves_, Kind::curves}, {&surfaces_, Kind::surface}}) {
                if (std::ranges::find(slot.accepts, of) == slot.accepts.end()) continue;
                for (const std::string& name : *names)
                    for (const auto& [way, words] : ways)
                        look_at(StudyMaker(way).set("subject", slot.key, ResultName{name}),
                                kind.key + " " + slot.key + " " + name + " " + words);
            }
        }
    }
    // None of these curves is an outline.
    EXPECT_TRUE(made_ > 0 || refused_ == 0 || GetParam() == "outline");
    // Of families that read many.
    static const std::map<std::string, std::pair<int, int>> least{
        {"curve", {900, 400}}, {"surface", {700, 500}}, {"thing", {1300, 100}}};
    if (const auto found = least.find(GetParam()); found != least.end()) {
        EXPECT_GT(made_, found->second.first);
        EXPECT_GT(refused_, found->second.second);
    }
}

INSTANTIATE_TEST_SUITE_P(Every, AwkwardKinds, testing::ValuesIn(test::families()), test::family_name);

}  // namespace
}  // namespace plume
