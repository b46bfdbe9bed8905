// docs/study-format.md says what is read: every example in it is opened and computed.

#include <fstream>
#include <sstream>

#include "core/exchange/study_file.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume {
namespace {

struct Example {
    std::string label, text;  // ```json label
};

std::vector<Example> examples() {
    std::ifstream page(std::string(test::docs_folder) + "/study-format.md");
    EXPECT_TRUE(page);
    std::vector<Example> found;
    bool inside = false;
    for (std::string line; std::getline(page, line);) {
        if (line.starts_with("```")) {
            inside = line.starts_with("```json ");
            if (inside) found.push_back({line.substr(8), ""});
        } else if (inside) {
            found.back().text += line + '\n';
        }
    }
    return found;
}
std::string example(const char* label) {
    for (const Example& one : examples())
        if (one.label == label) return one.text;
    ADD_FAILURE() << "no example " << label;
    return {};
}

StudyPointer opened(const std::string& text) {
    const auto study = study_from_text(text);
    EXPECT_TRUE(study) << sentence(study.error());
    return std::make_shared<const Study>(in_form(**study, standard_catalogue()));
}

void expect_whole(const StudyPointer& study) {
    EXPECT_TRUE(unknown_parts(*study).empty());
    const Evaluation evaluation = test::run(study);
    for (const auto& [id, outcome] : evaluation.outcomes) {
        EXPECT_TRUE(outcome.value) << study->step(id)->name << ": "
                                   << (outcome.error ? sentence(*outcome.error) : "");
        for (const Remark& remark : outcome.remarks)
            EXPECT_FALSE(remark.loss) << study->step(id)->name << ": " << remark.text;
    }
    // Written and read again it is the same.
    const auto again = study_from_text(study_to_text(*study));
    ASSERT_TRUE(again);
    EXPECT_TRUE(same(**again, *study));
}

TEST(FormatPage, TheStudyIsOpenedAndComputed) {
    const StudyPointer study = opened(example("study"));
    expect_whole(study);
    EXPECT_EQ(study->items.size(), 7U);
    const Value roof = test::value_of(test::run(study), "roof");
    EXPECT_TRUE(std::holds_alternative<SurfaceSet>(roof));
}

TEST(FormatPage, ControlsStepsAndWhatIsShownGoTogether) {
    const StudyPointer study = opened("{\"plume\": 1, \"controls\": " + example("controls") +
                                      ", \"page\": " + example("page") + "}");
    expect_whole(study);
    const Evaluation evaluation = test::run(study);
    EXPECT_EQ(std::get<Mesh>(test::value_of(evaluation, "posts")).part_count(), 13U) << "12 bays";
    EXPECT_EQ(std::get<Mesh>(test::value_of(evaluation, "first")).part_count(), 4U);
    EXPECT_FALSE(study->step("posts")->show.edges);
    const StudyPointer shown =
        opened("{\"plume\": 1, \"page\": [{\"step\": \"lattice.rectangular\", \"result\": \"a\", \"show\": " +
               example("show") + "}]}");
    EXPECT_EQ(shown->step("a")->show.ramp.ramp, Ramp::dusk);
    EXPECT_EQ(shown->step("a")->show.ramp.steps, 6);
    EXPECT_TRUE(shown->step("a")->show.unknown.empty());
}

// Every kind of slot, key of a step and word of the page that the program knows is on it.
TEST(FormatPage, NothingIsMissing) {
    std::ifstream file(std::string(test::docs_folder) + "/study-format.md");
    std::stringstream page;
    page << file.rdbuf();
    const std::string text = page.str();
    for (int type = 0; type < slot_type_count; ++type)
        EXPECT_NE(text.find(key_of(static_cast<SlotType>(type))), std::string::npos)
            << key_of(static_cast<SlotType>(type));
    for (int colour = 0; colour < heading_colour_count; ++colour)
        EXPECT_NE(text.find("`" + std::string(key_of(static_cast<HeadingColour>(colour))) + "`"),
                  std::string::npos);
    for (int ramp = 0; ramp < ramp_count; ++ramp)
        EXPECT_NE(text.find("`" + std::string(key_of(static_cast<Ramp>(ramp))) + "`"), std::string::npos);
    for (const char* key : {"step", "result", "slots", "muted", "text_units", "show", "versions", "folded"})
        EXPECT_NE(text.find("`" + std::string(key) + "`"), std::string::npos) << key;
}

}  // namespace
}  // namespace plume
