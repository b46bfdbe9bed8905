// Small runnable examples of single kinds of step, each with a figure stated in its note.

#include <filesystem>

#include "core/exchange/study_file.hpp"
#include "core/reference/examples.hpp"
#include "core/study/edits/excerpt.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume {
namespace {

std::vector<std::filesystem::path> examples() {
    std::vector<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(test::examples_folder))
        if (entry.path().extension() == ".plume") files.push_back(entry.path());
    return files;
}

// What the result named is, as its line says it, begins with the figure.
void expect_figure(const Study& study, const Evaluation& evaluation, const std::string& file) {
    const auto stated = stated_figure(study);
    ASSERT_TRUE(stated) << file << ": " << sentence(stated.error());
    EXPECT_FALSE(stated->about.empty()) << file;
    const Outcome* outcome = evaluation.outcome(stated->result);
    ASSERT_TRUE(outcome && outcome->value) << file;
    const std::string told = outline_text(*outcome->value, study.units);
    EXPECT_TRUE(told.starts_with(stated->figure))
        << file << " says " << stated->figure << ", and it is " << told;
}

TEST(Examples, EachRunsShowsItsKindAndComesToItsFigure) {
    const auto files = examples();
    EXPECT_EQ(files.size(), standard_catalogue().kinds().size()) << "each kind has one";
    for (const std::filesystem::path& file : files) {
        const auto read = load_study(file);
        ASSERT_TRUE(read) << sentence(read.error());
        const auto study = std::make_shared<const Study>(in_form(**read, standard_catalogue()));
        EvaluationPlan plan;
        plan.catalogue = &standard_catalogue();
        plan.files = std::make_shared<FileStore>(file.parent_path());
        const Evaluation evaluation = evaluate(study, plan, plume::Run());
        EXPECT_EQ(evaluation.problem_count(), 0U) << file;
        const std::string kind = file.stem().string();
        EXPECT_TRUE(standard_catalogue().find(kind)) << file << " is named by a kind of step";
        bool shown = false;
        for (const Item& item : study->items)
            shown = shown || (step_of(item) && step_of(item)->kind == kind);
        EXPECT_TRUE(shown) << file;
        expect_figure(*study, evaluation, file.filename().string());
    }
}

// What one begins from among the steps: without errors, with a picture, in any study.
TEST(Examples, WhatOneBeginsFromRunsAndHasItsPicture) {
    std::size_t count = 0;
    for (const auto& entry : std::filesystem::directory_iterator(test::beginnings_folder)) {
        if (entry.path().extension() != ".plume") continue;
        ++count;
        const auto study = load_study(entry.path());
        ASSERT_TRUE(study) << sentence(study.error());
        EXPECT_FALSE((*study)->title.empty() || (*study)->note.find(" · ") == std::string::npos)
            << entry.path();
        std::filesystem::path picture = entry.path();
        EXPECT_TRUE(std::filesystem::exists(picture.replace_extension(".png"))) << entry.path();
        auto canopy = std::make_shared<Study>(*test::canopy().study);
        const auto pasted_in =
            pasted(*canopy, standard_catalogue(), **study, canopy->items.size(), PastedControls::own);
        ASSERT_TRUE(pasted_in) << sentence(pasted_in.error());
        EXPECT_EQ(test::run(pasted_in->study).problem_count(), 0U) << entry.path();
    }
    EXPECT_GE(count, 12U);
}

}  // namespace
}  // namespace plume
