// Every word of every choice says something of its own: another result, or another sentence about it.

#include <cmath>

#include "core/base/hash.hpp"
#include "core/catalogue/every_kind.hpp"
#include "core/data/delivery.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// Numbers and readings that set words apart whose presets come to the same.
void set_apart(StudyMaker& maker, const StepKind& kind) {
    if (kind.key == "lattice.rectangular") maker.number("subject", "pitch_u", "2 m");
    if (kind.key == "placement.frame") maker.number("subject", "up_x", "1");
    if (kind.key == "numbers.list") maker.number("subject", "step", "2");
    if (kind.key == "field.combine")
        maker.set("subject", "b", ResultName{"rough"}).number("subject", "share", "0.3");
    if (kind.key == "points.sort") maker.set("subject", "numbers", ResultName{"rough"});
    if (kind.key == "growth.parts")
        maker.formula("subject", "a becomes\na, moved 3 m up, sized 0.5\nb, moved 2 m along")
            .number("subject", "reach", "60 m")
            .number("subject", "least", "0.2 m")
            .number("subject", "apart", "1 m");
    if (kind.key == "growth.faces")
        maker.formula("subject", "a becomes\nsplit 2\na")
            .number("subject", "reach", "60 m")
            .number("subject", "least", "3 m");
    if (kind.key == "growth.towards") maker.number("subject", "generations", "20");
    if (kind.key == "points.close_gaps") maker.set("subject", "points", ResultName{"kept"});
}

// Words that come to the same on a regular ground, and the tests that tell them apart.
bool told_elsewhere(const std::string& kind, const std::string& choice, const std::string& word) {
    static const std::set<std::string> known{
        "lattice.formula system cylindrical",  // shape_test
        "lattice.formula system spherical",    // shape_test
        "lattice.formula end_3 excluded",      // shape_test
        "lattice.formula end_3 closes",        // shape_test
        "growth.parts reading numbers",        // GrowthSteps.RulesReadNumbersAtTheirPlaces
        "growth.parts meeting boxes",          // Growth.BoxesTouchAndDoNotOverlap
        "growth.faces reading numbers",        // GrowthSteps.RulesOfFacesReadNumbersAtTheirMiddles
        "points.keep_near gaps close",         // Branches.PartsOfClosedLattices: all that keep share it
        "points.unique gaps close",            // the same
        "points.sort by y",
        "points.sort by order",         // Branches.PointsAreSortedEveryWay
        "curve.offset corners round",   // OffsetCurve.CornersOfARectangle
        "curve.arc facing back",        // CurveSteps.ArcsOnUprightPlanes
        "curve.over_base lift square",  // BaseLine.ToldAndPlacedAreInverse
        "points.centroids of line",     // CurveSteps.CentroidsOfTheAreaAndOfTheLine
        "body.extrude direction square",
        "body.extrude direction x",
        "body.extrude direction y",  // BodySteps.OutlinesOnUprightPlanesGoAlongTheirNormals
        "body.fill direction x",
        "body.fill direction y",
        "body.fill direction placed",  // FilledDown.AlongAnyDirection
        "body.between faces smooth",   // BlockBetween.ADistortedRoof
        "body.close ends capped",      // BodySteps.OpenTubesAreRefusedOrCapped
        "number.body axis x",
        "number.body axis y",  // BodyMoments.OfBoxesBallsAndRings
        "surface.trim direction x",
        "surface.trim direction y",       // TrimSteps.OutlinesAreCastAlongAnyAxis
        "thing.lay_along turning least",  // LayAlong.UprightStaysLevelAndCarriedDoesNot
        "mesh.thin rule deviation",
        "mesh.thin rims thinned",     // Thinned.WhatIsFlatNeedsAHandfulOfTriangles
        "mesh.on_sheets turned any",  // LaidPanels.GrainRunsUpOrAsItFits
        "curve.write times every",    // WriteSteps.AsOftenAsALineIsLong
        "thing.measure what area",
        "thing.measure what longest",
        "thing.measure what shortest",
        "thing.measure what flatness",  // MeasureSkin.FacesOfAMeshCarryTheirNumbers
        "frame.lattice ways k",
        "frame.lattice ways none",    // FramedLattices, of tubes and blocks
        "frame.link match share",     // LinkedRows.TwoResultsByNumberAndByShare
        "frame.link wrapping open",   // LinkedRows.EachRingToTheNextWithATurn
        "handoff.drawing cut place",  // where a section is picked: Drawings.SectionsPassThePlaceTheyAreGiven
        "handoff.drawing layout placed",  // Drawings.ViewsStandWhereTheyArePlaced
        "mesh.posts footprint polygon",   // numbers of posts that overlap: selection_test
        "mesh.even_edges on form",        // EvenEdges.TheStepGoesOntoAnotherForm
        "sheet.drape cloth linen",  // at the first moment all are alike: DrapeSteps.EveryClothFallsItsOwnWay
        "sheet.drape cloth felt",
        "sheet.drape cloth rubber",
        "sheet.drape cloth card",
        "sheet.drape falls up",  // DrapeSteps.ItFallsAnyWay
        "sheet.drape falls nowhere",
        "sheet.drape falls along",
        "sheet.drape grows by",  // DrapeSteps.ItGrowsByAFormula
        "sheet.drape drawn to",  // DrapeSteps.AttractorsDrawIt
        "sheet.drape lengths of",
        "sheet.drape blown wind",      // DrapeSteps.WindInflationGroundAndFormsCount
        "sheet.drape blown inflated",  // the same
        "sheet.drape below ground",
        "sheet.drape touching form",
        "threads.drop cord hemp",  // alike at the first moment, too: ThreadSteps.EachFallsItsOwnWay
        "threads.drop cord rubber",
        "threads.drop cord reed",
        "threads.drop cord willow",
        "threads.drop falls up",
        "threads.drop falls nowhere",
        "threads.drop falls along",
        "threads.drop grows by",
        "threads.drop drawn to",
        "threads.drop lengths of",
        "threads.drop blown wind",
        "threads.drop below ground",
        "threads.drop touching form",
    };
    return known.contains(kind + ' ' + choice + ' ' + word);
}

std::string told(const MillingWishes& milling) {
    std::string text = milling.seen + milling.cutter + milling.way + milling.rough_cutter;
    for (const double number : {milling.corner, milling.apart, milling.ridge, milling.rough_diameter})
        text += ' ' + std::to_string(number);
    return text;
}

std::string told(const CuttingWishes& cutting) {
    return cutting.by + ' ' + std::to_string(cutting.kerf);
}

std::string told(const PictureWishes& picture) {
    std::string text = picture.ground + picture.lines + (picture.clay ? " clay" : "");
    const Vec3 sun = picture.sun.value_or(Vec3{});
    for (const double number : {picture.width, picture.passes, picture.turn_pictures, sun.x, sun.y, sun.z,
                                picture.seen.camera.azimuth_rad, picture.seen.camera.elevation_rad})
        text += ' ' + std::to_string(number);
    return text;
}

std::string told(const FilmWishes& film) {
    const auto [from, until] = film.part.value_or(std::pair(-1.0, -1.0));
    return std::to_string(from) + ' ' + std::to_string(until) + ' ' + std::to_string(film.turn_rad);
}

std::string told(const Outcome& outcome) {
    if (outcome.error) return "error: " + sentence(*outcome.error);
    std::string text = outline_text(*outcome.value, {});
    if (const auto* delivery = std::get_if<Delivery>(&*outcome.value)) {
        const DeliveryWishes& wishes = (*delivery)->wishes;
        text += wishes.rows + (wishes.picture ? told(*wishes.picture) : "") +
                (wishes.film ? told(*wishes.film) : "") + (wishes.exact ? " exact" : "") + wishes.paper +
                (wishes.dashed ? " dashed" : "") + (wishes.cut ? " cut" : "") +
                sheet_places_text(wishes.placed) + std::to_string(wishes.contour_step) +
                (wishes.milling ? told(*wishes.milling) : "") + std::to_string(wishes.within) +
                (wishes.cutting ? told(*wishes.cutting) : "") + std::to_string(wishes.scale) +
                std::string(symbol(wishes.unit));
    }
    for (const double number : test::numbers_of(*outcome.value))
        text += std::isnan(number) ? " nan" : ' ' + std::to_string(number);
    for (const Remark& remark : outcome.remarks)
        text += " | " + remark.text;
    return text;
}

class WordsOfKinds : public testing::TestWithParam<std::string> {};

TEST_P(WordsOfKinds, EachMakesADifference) {
    StudyMaker ground = test::ground(5, 4);
    ground.add("field.formula", "rough");
    ground.set("rough", "points", ResultName{"hills"}).formula("rough", "0.7 m * i - 3 m * j");
    ResultStore cache(100'000'000);
    for (const StepKind& kind : test::kinds_of(GetParam())) {
        if (test::reads_file(kind)) continue;
        for (const SlotSpec& choice : kind.slots) {
            if (choice.words.size() < 2) continue;
            // Some words matter only beside another one: each is tried beside every word of every other
            // choice.
            std::set<std::size_t> without_difference;
            for (std::size_t word = 1; word < choice.words.size(); ++word)
                without_difference.insert(word);
            const auto try_beside = [&](const StudyMaker& base) {
                const auto result = [&](std::size_t word) {
                    StudyMaker maker = base;
                    const std::string& key = choice.words[word].key;
                    maker.word("subject", choice.key, key == "drawn" ? "drawn 0:0 0.4:0.8 1:1" : key);
                    return told(test::outcome_of_subject(maker.study, cache));
                };
                std::vector<std::string> results;
                for (std::size_t word = 0; word < choice.words.size(); ++word)
                    results.push_back(result(word));
                std::erase_if(without_difference, [&](std::size_t word) {
                    return std::ranges::count(results, results[word]) == 1;
                });
            };
            StudyMaker base = test::with_subject(ground, kind);
            set_apart(base, kind);
            try_beside(base);
            for (const SlotSpec& other : kind.slots) {
                if (&other == &choice) continue;
                for (const Word& word : other.words) {
                    if (without_difference.empty()) break;
                    StudyMaker beside = base;
                    beside.word("subject", other.key, word.key);
                    try_beside(beside);
                }
            }
            for (const std::size_t word : without_difference)
                EXPECT_TRUE(told_elsewhere(kind.key, choice.key, choice.words[word].key))
                    << kind.key << ' ' << choice.key << ' ' << choice.words[word].key << " changes nothing";
        }
    }
}

INSTANTIATE_TEST_SUITE_P(Every, WordsOfKinds, testing::ValuesIn(test::families()), test::family_name);

}  // namespace
}  // namespace plume
