#include "core/study/needed_steps.hpp"

#include "core/study/step_search.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

// Steps that want what only somebody who knows what for can say: a file, or two results that go together,
// as two curves beside each other. They stand there and say so.
bool wants_more(const std::string& kind) {
    static const std::set<std::string> known{"field.image",  "points.crossings", "curve.of_sheets",
                                             "thing.pull",   "mesh.on_sheets",   "mesh.keep_faces",
                                             "surface.loft", "surface.sweep",    "surface.trim",
                                             "surface.span", "body.between",     "points.keep_near"};
    return known.contains(kind);
}

StudyPointer with_all_that_is_needed(const Study& study, const StepOffer& offer) {
    const auto added = add_with_needed(study, standard_catalogue(), offer.needed, offered_step(offer, {}),
                                       study.items.size(), "");
    EXPECT_TRUE(added) << offer.kind->key << ": " << (added ? "" : sentence(added.error()));
    return added ? added->study : nullptr;
}

std::vector<std::string> kinds_needed(const Study& study, const char* verb) {
    const auto offers = step_offers({study, standard_catalogue(), study.items.size()}, verb);
    std::vector<std::string> kinds;
    for (const Step& step : offers.front().needed)
        kinds.push_back(step.kind);
    return kinds;
}

TEST(NeededSteps, TheShortestWayLeadsFromWhatIsThere) {
    using Kinds = std::vector<std::string>;
    const Study empty;
    EXPECT_EQ(kinds_needed(empty, "thicken a surface"), (Kinds{"lattice.rectangular", "skin"}));
    EXPECT_EQ(kinds_needed(empty, "lay a rectangular lattice"), Kinds{});
    test::StudyMaker points;
    points.add("lattice.rectangular", "deck");
    EXPECT_EQ(kinds_needed(*points.study, "thicken a surface"), Kinds{"skin"});
    EXPECT_EQ(kinds_needed(*points.study, "skin points"), Kinds{});
    EXPECT_EQ(kinds_needed(*points.study, "bring to a range"),
              (Kinds{"attractors.points", "field.distance"}));
    test::StudyMaker curve;
    curve.add("outline.shape", "foot");
    EXPECT_EQ(kinds_needed(*curve.study, "thicken a surface"), Kinds{"surface.extrude"});
}

// What stands above a step counts, and no more is added than it lacks.
TEST(NeededSteps, StandAboveTheStepThatReadsThem) {
    test::StudyMaker maker;
    maker.add("lattice.rectangular", "deck");
    maker.add("forces.hold", "held");
    StudyPointer study = maker.study;
    const ItemId held = study->step("held")->id;
    const SlotSpec& leads = *standard_catalogue().find("forces.hold")->slot("leads");
    EXPECT_TRUE(needed_above(*study, standard_catalogue(), held, leads).empty()) << "points are there";
    const SlotSpec& things = *standard_catalogue().find("sheet.drape")->slot("attractors");
    const std::vector<Step> needed = needed_above(*study, standard_catalogue(), held, things);
    ASSERT_EQ(needed.size(), 1U);
    EXPECT_EQ(needed.front().kind, "attractors.points");
    const Edited edited = read_from_above(*study, standard_catalogue(), needed, held, "leads");
    ASSERT_TRUE(edited);
    EXPECT_LT(*(*edited)->position((*edited)->step("attractors")->id), *(*edited)->position(held));
    EXPECT_EQ(std::get<ResultName>((*edited)->step("held")->slots.at("leads")).name, "attractors");
}

TEST(NeededSteps, HandlesStandWhereTheyAreAsked) {
    test::StudyMaker maker;
    maker.add("lattice.rectangular", "deck");
    maker.add("forces.hold", "held");
    Study study = *maker.study;
    study.units.length = LengthUnit::millimetre;
    const ItemId held = study.step("held")->id;
    const std::vector<Vec3> places{{1234.5, -0.25, 0}, {0, 0, 1e6}};
    const std::vector<Step> needed{handles_at(places, study.units)};
    Edited edited = read_from_above(study, standard_catalogue(), needed, held, "leads");
    ASSERT_TRUE(edited);
    const Evaluation evaluation = test::run(*edited);
    const Value made = test::value_of(evaluation, "handles");
    const auto& handles = std::get<Attractors>(made).items();
    ASSERT_EQ(handles.size(), 2U);
    for (std::size_t at = 0; at < 2; ++at)
        EXPECT_NEAR(length(handles[at].position - places[at]), 0, 1e-9);
    // Once more: their name is taken.
    edited = read_from_above(**edited, standard_catalogue(), needed, held, "leads");
    ASSERT_TRUE(edited);
    EXPECT_EQ(std::get<ResultName>((*edited)->step("held")->slots.at("leads")).name, "handles_2");
}

// In an empty study every step of the sheet can be added, with what it needs first, and nothing of it fails.
TEST(NeededSteps, EveryStepStandsOnWhatItIsOfferedWith) {
    const Study empty;
    ResultStore store(200'000'000);
    for (const StepOffer& offer : step_offers({empty, standard_catalogue()}, "")) {
        if (offer.fits) continue;
        if (wants_more(offer.kind->key)) continue;
        EXPECT_FALSE(offer.needed.empty()) << offer.kind->key;
        const StudyPointer study = with_all_that_is_needed(empty, offer);
        ASSERT_TRUE(study);
        const Evaluation evaluation = test::run(study, {}, &store);
        for (const Item& item : study->items)
            if (const Outcome* outcome = evaluation.outcome(step_of(item)->id); outcome->error)
                ADD_FAILURE() << offer.kind->key << ": " << step_of(item)->kind << ": "
                              << sentence(*outcome->error);
    }
}

}  // namespace
}  // namespace plume
