// Every kind of step can be asked about: a part of its example is followed, or it is said where that ends.
#include <gtest/gtest.h>

#include "core/exchange/study_file.hpp"
#include "core/reference/examples.hpp"
#include "core/results/items.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"
#include "core/tracing/trace.hpp"
#include "folders.hpp"

namespace plume {
namespace {

// Results that a step of a trace reads and of which it leads to no part, without a word of it.
std::string left_unsaid(const Trace& trace, const TracedStep& traced, const Study& study) {
    std::string said;
    for (const std::string& remark : traced.remarks)
        said += remark + ' ';
    for (const auto& [slot, value] : study.step(traced.step)->slots) {
        const auto* read = std::get_if<ResultName>(&value);
        const Step* from = read ? study.step(read->name) : nullptr;
        if (from && !trace.at(from->id) && said.find(from->name) == std::string::npos) return from->name;
    }
    return {};
}

void ask_about(const Evaluation& evaluation, const Step& step, std::size_t part) {
    const auto trace =
        trace_part(evaluation, standard_catalogue(), step.id, {PartSort::item, part}, plume::Run());
    ASSERT_TRUE(trace) << step.kind << ": " << sentence(trace.error());
    ASSERT_FALSE(trace->steps.empty());
    EXPECT_EQ(trace->steps.back().step, step.id);
    const TracedStep& asked = trace->steps.back();
    ASSERT_FALSE(asked.parts.empty()) << step.kind;
    EXPECT_FALSE(asked.parts[0].title.empty()) << step.kind;
    const Outcome& outcome = *evaluation.outcome(step.id);
    if (outcome.inputs && !step.muted) {
        const std::string silent = left_unsaid(*trace, asked, *evaluation.study);
        const Outcome* read = silent.empty() ? nullptr : evaluation.outcome(silent);
        EXPECT_TRUE(!read || !read->value || number_of(*read->value))
            << step.kind << " is silent about " << silent;
    }
}

TEST(TracedExamples, APartOfEveryKindIsFollowedOrItIsSaidWhereThatEnds) {
    std::size_t asked = 0;
    for (const auto& entry : std::filesystem::directory_iterator(test::examples_folder)) {
        if (entry.path().extension() != ".plume") continue;
        const auto read = load_study(entry.path());
        ASSERT_TRUE(read);
        const auto study = std::make_shared<const Study>(in_form(**read, standard_catalogue()));
        EvaluationPlan plan;
        plan.catalogue = &standard_catalogue();
        plan.files = std::make_shared<FileStore>(entry.path().parent_path());
        const Evaluation evaluation = evaluate(study, plan, plume::Run());
        for (const Item& item : study->items) {
            const Step* step = step_of(item);
            const Outcome* outcome = step ? evaluation.outcome(step->id) : nullptr;
            if (!outcome || !outcome->value || step->kind != entry.path().stem().string()) continue;
            const std::size_t count = items_of(*outcome->value).total();
            if (count == 0) continue;
            ++asked;
            for (const std::size_t part : {std::size_t{0}, count / 2, count - 1})
                ask_about(evaluation, *step, part);
        }
    }
    EXPECT_GT(asked, 120U);
}

}  // namespace
}  // namespace plume
