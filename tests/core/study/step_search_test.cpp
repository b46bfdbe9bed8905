#include "core/study/step_search.hpp"

#include "core/support.hpp"

namespace plume {
namespace {

std::vector<std::string> keys(const Study& study, std::string_view typed, std::string_view in_hand = {}) {
    std::vector<std::string> found;
    const StepPlace end{study, standard_catalogue(), study.items.size(), in_hand};
    for (const StepOffer& offer : step_offers(end, typed))
        if (offer.fits) found.push_back(offer.kind->key);
    return found;
}

TEST(StepSearch, TheVerbSaysMoreThanWhatFits) {
    const StudyPointer canopy = test::canopy().study;
    const struct {
        const char *typed, *in_hand, *first;
    } cases[] = {
        {"attractors", "lattice", "attractors.points"},
        {"lattice", "", "lattice.rectangular"},
        {"distance", "perches", "field.distance"},
        {"range", "reach", "field.range"},
        {"push", "rise", "points.push"},
        {"skin", "pushed", "skin"},
        {"ski", "pushed", "skin"},
        {"SKIN", "pushed", "skin"},
        {"draw outline", "", "outline.drawn"},
        {"draw a curve", "", "curve.drawn"},
        {"draw a formula", "", "curve.formula"},
        {"throw", "lattice", "field.random"},
        {"posts", "lattice", "mesh.posts"},
        {"move", "roof", "thing.move"},
        {"move up", "roof", "thing.move"},  // words that say where to are passed over where none has them
        {"push down", "rise", "points.push"},
        {"fill down", "lattice", "body.fill"},
        {"honeycomb", "", "lattice.hexagonal"},  // a word that stands for the verb
        {"rotate", "roof", "thing.turn"},
    };
    for (const auto& c : cases) {
        const auto found = keys(*canopy, c.typed, c.in_hand);
        ASSERT_FALSE(found.empty()) << c.typed;
        EXPECT_EQ(found.front(), c.first) << c.typed;
    }
}

TEST(StepSearch, NothingTypedOffersWhatReadsTheResultInHandFirst) {
    const StudyPointer canopy = test::canopy().study;
    const auto offers = step_offers({*canopy, standard_catalogue(), canopy->items.size(), "perches"}, "");
    const auto of_the_sheet = std::ranges::count_if(standard_catalogue().kinds(), [](const StepKind& kind) {
        return kind.offered && page_of(kind) == Page::sheet;
    });
    EXPECT_EQ(offers.size(), static_cast<std::size_t>(of_the_sheet));
    // The other page has its own, of which each gives something that is there: but there are no lines.
    const auto leaving =
        step_offers({*canopy, standard_catalogue(), canopy->items.size(), "", Page::hand_off}, "");
    const auto offered = std::ranges::count(standard_catalogue().kinds(), true, &StepKind::offered);
    EXPECT_EQ(leaving.size() + offers.size(), static_cast<std::size_t>(offered));
    for (const StepOffer& offer : leaving)
        EXPECT_EQ(offer.fits, offer.kind->key != "handoff.cutting") << offer.kind->key;
    const auto reads_perches = [](const StepOffer& offer) {
        return std::ranges::any_of(offer.kind->slots, [](const SlotSpec& slot) {
            return std::ranges::find(slot.accepts, Kind::attractors) != slot.accepts.end();
        });
    };
    EXPECT_TRUE(reads_perches(offers.front()));
    const Study empty;
    bool seen_unfit = false;
    for (const StepOffer& offer : step_offers({empty, standard_catalogue()}, "")) {
        EXPECT_EQ(offer.fits, !offer.missing);
        EXPECT_FALSE(seen_unfit && offer.fits) << "what fits stands before what does not";
        seen_unfit = seen_unfit || !offer.fits;
    }
    EXPECT_TRUE(seen_unfit);
}

TEST(StepSearch, EveryWordTypedHasToNameTheStep) {
    const Study empty;
    EXPECT_TRUE(step_offers({empty, standard_catalogue()}, "zzzz").empty());
    EXPECT_TRUE(step_offers({empty, standard_catalogue()}, "lattice zzzz").empty());
    const auto polar = step_offers({empty, standard_catalogue()}, "  polar   lattice ");
    ASSERT_EQ(polar.size(), 1U);
    EXPECT_EQ(polar.front().kind->key, "lattice.polar");
}

// Every step is found first by its own verb.
TEST(StepSearch, AVerbTypedWholeIsItsStep) {
    const Study empty;
    for (const StepKind& kind : standard_catalogue().kinds()) {
        if (!kind.offered) continue;
        const auto found = step_offers({empty, standard_catalogue(), 0, "", page_of(kind)}, kind.verb);
        ASSERT_FALSE(found.empty()) << kind.verb;
        EXPECT_EQ(found.front().kind->key, kind.key) << kind.verb;
    }
}

std::string first_key(std::string_view typed, std::vector<std::string> lately = {}) {
    const StudyPointer canopy = test::canopy().study;
    const auto offers = step_offers({.study = *canopy,
                                     .catalogue = standard_catalogue(),
                                     .position = canopy->items.size(),
                                     .lately = lately},
                                    typed);
    return offers.empty() ? "" : offers.front().kind->key;
}

TEST(StepSearch, MistypedWordsAreUnderstood) {
    EXPECT_EQ(first_key("skn"), "skin");
    EXPECT_EQ(first_key("latice"), "lattice.rectangular");
    EXPECT_EQ(first_key("lattcie hex"), "lattice.hexagonal");
    EXPECT_EQ(first_key("attarctors"), "attractors.points");
    EXPECT_EQ(first_key("thicekn"), "body.thicken");
    EXPECT_EQ(first_key("distence"), "field.distance");
    // A slip of a word that names nothing, not a word that names something else.
    EXPECT_EQ(first_key("zkin"), "");
    EXPECT_EQ(first_key("skkkn"), "");
}

TEST(StepSearch, OfEqualsTheOneUsedLastComesFirst) {
    const std::string usual = first_key("figure");
    const StudyPointer canopy = test::canopy().study;
    const auto all = step_offers({*canopy, standard_catalogue(), canopy->items.size()}, "figure");
    // The last of those that are as well named and fit as well.
    std::string other;
    for (const StepOffer& offer : all)
        if (offer.fits == all.front().fits && offer.reads_in_hand == all.front().reads_in_hand)
            other = offer.kind->key;
    ASSERT_NE(other, usual);
    EXPECT_EQ(first_key("distance", {"thing.move", "mesh.posts"}), "field.distance") << "its name says more";
    EXPECT_EQ(first_key("", {"mesh.posts", "thing.move"}), first_key("", {"mesh.posts"}));
    EXPECT_EQ(first_key("", {"thing.move"}), "thing.move");
}

TEST(StepSearch, WordsAreNamedByTheirBeginnings) {
    EXPECT_TRUE(are_named("Line that fills a square · hilbert", "hilb"));
    EXPECT_TRUE(are_named("Line that fills a square", "square LINE"));
    EXPECT_FALSE(are_named("Line that fills a square", "square lines"));
    EXPECT_FALSE(are_named("Line that fills a square", "quare"));
    EXPECT_FALSE(are_named("Line", "  "));
}

}  // namespace
}  // namespace plume
