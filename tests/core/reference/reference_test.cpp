#include "core/reference/reference_text.hpp"

#include <filesystem>

#include "core/base/file.hpp"
#include "core/reference/trade_words.hpp"
#include "core/study/subjects.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume {
namespace {

const Catalogue& catalogue() {
    return standard_catalogue();
}

std::string read_whole(const std::filesystem::path& path) {
    const auto read = read_file(path, 10'000'000);
    return read ? std::string(read->begin(), read->end()) : std::string();
}

TEST(Reference, EveryKindIsExplainedShownAndListed) {
    for (const StepKind& kind : catalogue().kinds()) {
        const ReferencePage page = reference_page(kind, catalogue());
        EXPECT_GE(page.help.size(), 20U) << kind.key;
        EXPECT_FALSE(page.gives.empty()) << kind.key;
        EXPECT_FALSE(page.subject.empty()) << kind.key;
        EXPECT_FALSE(page.related.empty()) << kind.key;
        ASSERT_TRUE(page.example && page.example->ok()) << kind.key << " has no example";
        const ReferenceExample& example = **page.example;
        EXPECT_LT(example.own, example.sentences.size()) << kind.key;
        EXPECT_NE(example.figure.about.find("Sallow Reach"), std::string::npos) << kind.key;
        EXPECT_TRUE(
            std::filesystem::exists(std::filesystem::path(test::examples_folder) / (kind.key + ".png")))
            << kind.key << " has no picture; run scripts/reference";
        for (const ReferenceSlot& slot : page.slots) {
            EXPECT_FALSE(slot.label.empty() || slot.takes.empty()) << kind.key;
            EXPECT_EQ(slot.takes.find("  "), std::string::npos) << kind.key << ": " << slot.takes;
        }
    }
}

TEST(Reference, PagesInDocsAreWhatTheProgramWrites) {
    const std::filesystem::path folder = std::filesystem::path(test::docs_folder) / "steps";
    for (const StepKind& kind : catalogue().kinds())
        EXPECT_EQ(read_whole(folder / (kind.key + ".md")),
                  page_text(reference_page(kind, catalogue()), links_in_docs()))
            << kind.key << ": run scripts/reference";
    EXPECT_EQ(read_whole(folder / "README.md"), contents_text(catalogue(), links_in_docs()));
    EXPECT_EQ(read_whole(folder / "words.md"), words_text(catalogue(), links_in_docs()));
    std::size_t pages = 0;
    for (const auto& entry : std::filesystem::directory_iterator(folder))
        pages += entry.path().extension() == ".md" ? 1 : 0;
    EXPECT_EQ(pages, catalogue().kinds().size() + 2) << "pages of kinds that are gone";
}

TEST(Reference, APageTellsTheWholeDeclaration) {
    const ReferencePage page = reference_page(*catalogue().find("lattice.polar"), catalogue());
    EXPECT_EQ(page.verb, "Lay a polar lattice");
    EXPECT_EQ(page.subject, "Lay points");
    EXPECT_TRUE(page.sentence.starts_with("Lay 36 spokes all around by 10 bays of rings from 2 m to 12 m"));
    const auto slot = [&](std::string_view label) {
        return *std::ranges::find(page.slots, label, &ReferenceSlot::label);
    };
    EXPECT_EQ(slot("Spokes").takes, "a whole number");
    EXPECT_EQ(slot("Spokes").limits, "at least 1");
    EXPECT_EQ(slot("Outer radius").limits, "above 0 m");
    EXPECT_EQ(slot("Outer radius").preset, "12 m");
    EXPECT_EQ(slot("Angle").preset, "120°");
    EXPECT_EQ(slot("Extent").words.size(), 2U);
    EXPECT_TRUE(std::ranges::any_of(page.refusals, [](const Refusal& refusal) {
        return refusal.slot == "Outer radius" && refusal.mend == "Type a larger radius.";
    }));
    const std::string text = page_text(page, {});
    EXPECT_TRUE(text.starts_with("# Lay a polar lattice\n"));
    EXPECT_EQ(text.find("!["), std::string::npos) << "no pictures where there are no links";
    EXPECT_NE(text.find("Type a larger radius."), std::string::npos);
}

TEST(TradeWords, EachIsASentenceWithAPictureAndIsMetSomewhere) {
    std::string before;
    for (const TradeWord& word : trade_words()) {
        EXPECT_LT(before, word.word) << "in the order of the alphabet";
        before = word.word;
        EXPECT_TRUE(word.meaning.ends_with('.')) << word.word;
        EXPECT_EQ(word.meaning.find(". "), std::string::npos) << word.word << " takes one sentence";
        EXPECT_LE(word.meaning.size(), 170U) << word.word;
        ASSERT_TRUE(catalogue().find(word.example)) << word.word << " is shown by " << word.example;
        EXPECT_TRUE(
            std::filesystem::exists(std::filesystem::path(test::examples_folder) / (word.example + ".png")));
        EXPECT_EQ(trade_word(word.word), &word);
        EXPECT_TRUE(std::ranges::any_of(catalogue().kinds(),
                                        [&](const StepKind& kind) {
                                            const auto met = trade_words_in(kind.verb + ' ' + kind.sentence +
                                                                            ' ' + kind.help);
                                            return std::ranges::find(met, &word) != met.end();
                                        }))
            << word.word << " is met nowhere";
    }
    EXPECT_EQ(trade_word("nothing"), nullptr);
}

TEST(TradeWords, AreFoundInTextsInTheirForms) {
    std::vector<std::string> met;
    for (const TradeWord* word : trade_words_in("Lay lattices of 24 bays; by force density. A skinny thing"))
        met.push_back(word->word);
    EXPECT_EQ(met, (std::vector<std::string>{"bay", "force density", "lattice"}));
    EXPECT_TRUE(trade_words_in("").empty());
    const std::string text =
        page_text(reference_page(*catalogue().find("skin"), catalogue()), links_in_docs());
    EXPECT_NE(text.find("[skin](words.md#skin)"), std::string::npos) << text;
    EXPECT_NE(words_text(catalogue(), links_in_docs()).find("\n## force density\n"), std::string::npos);
}

TEST(Reference, KindsReadByTheirLabels) {
    EXPECT_EQ(first_sentence(*catalogue().find("skin"), Step()), "Skin points with a smooth surface.");
}

// What would be a table's or a list's sign in Markdown stands for itself.
TEST(Reference, TextsOfKindsCannotBreakAPage) {
    StepKind kind = *catalogue().find("skin");
    kind.verb = "Skin *all* | [of](it) <b>";
    kind.slots.front().label = "a|b";
    const std::string text = page_text(reference_page(kind, catalogue()), {});
    EXPECT_TRUE(text.starts_with("# Skin \\*all\\* \\| \\[of](it) \\<b>\n")) << text.substr(0, 60);
    EXPECT_NE(text.find("| a\\|b | "), std::string::npos);
}

TEST(Examples, OneThatFailsIsNamedAndTheRestOfThePageStands) {
    ReferencePage page = reference_page(*catalogue().find("skin"), catalogue());
    ASSERT_TRUE(page.example && page.example->ok());
    const std::string whole = page_text(page, {});
    page.example =
        Error{ErrorCode::file_unreadable, "", "The example ends within line 3", "Install the program again."};
    const std::string text = page_text(page, {});
    EXPECT_NE(text.find("## An example\n\nThe example ends within line 3. Install the program again.\n"),
              std::string::npos)
        << text;
    const auto rest = [](const std::string& of) { return of.substr(of.find("## Its parts")); };
    EXPECT_EQ(rest(text), rest(whole));
}

TEST(Examples, OneThatStatesNoFigureSaysSo) {
    Study study;
    study.title = "Odd";
    study.note = "No figure here.";
    const auto stated = stated_figure(study);
    ASSERT_FALSE(stated);
    EXPECT_FALSE(stated.error().mend.empty());
    study.note = "A deck. → timber: 58 m";
    ASSERT_TRUE(stated_figure(study));
    EXPECT_EQ(stated_figure(study)->result, "timber");
    EXPECT_EQ(stated_figure(study)->figure, "58 m");
    EXPECT_EQ(stated_figure(study)->about, "A deck.");
}

TEST(Subjects, EveryKindHasOneAndFilesAreTheirOwn) {
    for (const StepKind& kind : catalogue().kinds())
        EXPECT_FALSE(subject_of(kind).title.empty()) << kind.key;
    EXPECT_EQ(subject_of(*catalogue().find("mesh.file")).key, "files");
    EXPECT_EQ(subject_of(*catalogue().find("skin")).key, "surfaces");
    for (const Subject& subject : subjects())
        EXPECT_TRUE(std::ranges::any_of(catalogue().kinds(),
                                        [&](const StepKind& kind) { return &subject_of(kind) == &subject; }))
            << subject.key << " has no kinds";
}

}  // namespace
}  // namespace plume
