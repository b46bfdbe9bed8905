#include "core/evaluation/file_contents.hpp"

#include <algorithm>
#include <utility>

#include "core/base/small_letters.hpp"
#include "core/evaluation/evaluator.hpp"

namespace plume {
namespace {

const SlotSpec* file_slot_of(const StepKind& kind) {
    const auto found = std::ranges::find(kind.slots, SlotType::file, &SlotSpec::type);
    return found == kind.slots.end() ? nullptr : &*found;
}

}  // namespace

std::vector<const StepKind*> kinds_that_read(const Catalogue& catalogue, const std::filesystem::path& path) {
    const std::string whole = ending_of(path), ending = whole.empty() ? whole : whole.substr(1);
    std::vector<std::pair<std::ptrdiff_t, const StepKind*>> found;
    for (const StepKind& kind : catalogue.kinds()) {
        const SlotSpec* slot = file_slot_of(kind);
        if (!slot) continue;
        const auto& endings = slot->files.endings;
        const auto named = std::ranges::find(endings, ending);
        if (named != endings.end()) found.emplace_back(named - endings.begin(), &kind);
    }
    std::ranges::stable_sort(found, {}, &std::pair<std::ptrdiff_t, const StepKind*>::first);
    std::vector<const StepKind*> kinds;
    kinds.reserve(found.size());
    for (const auto& [place, kind] : found)
        kinds.push_back(kind);
    return kinds;
}

Result<FileContents> contents_of(const StepKind& kind, const Catalogue& catalogue,
                                 const std::filesystem::path& path, const Run& run) {
    const SlotSpec* slot = file_slot_of(kind);
    if (!slot) return Error{ErrorCode::wrong_kind, kind.key, "reads no file", "Name a step that does."};
    Study study;
    auto step = std::make_shared<Step>();
    step->id = 1;
    step->kind = kind.key;
    step->name = kind.result_name;
    step->slots[slot->key] = FileName{std::filesystem::absolute(path).string()};
    study.items.emplace_back(StepPointer(step));
    EvaluationPlan plan;
    plan.catalogue = &catalogue;
    const Evaluation evaluation = evaluate(std::make_shared<const Study>(study), plan, run);
    const Outcome& outcome = *evaluation.outcome(step->id);
    FileContents contents{&kind, {}, {}, outcome.error};
    if (outcome.value) contents.outline = outline_text(*outcome.value, study.units);
    if (!outcome.inputs) return contents;
    auto offers = offers_of(kind, *outcome.inputs, run);
    if (offers) contents.offers = *std::move(offers);
    return contents;
}

}  // namespace plume
