#include "core/reference/choice_pictures.hpp"

#include <algorithm>
#include <cstdlib>
#include <optional>

#include "core/evaluation/evaluator.hpp"
#include "core/exchange/picture_file.hpp"
#include "core/exchange/study_file.hpp"
#include "core/reference/examples.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slots/slot_form.hpp"

namespace plume {
namespace {

constexpr std::size_t channels = 4;

// What is seen of an example, made with other words again and again.
class ExampleMaker {
public:
    ExampleMaker(const Catalogue& catalogue, const std::filesystem::path& folder) : store_(most_bytes) {
        plan_.catalogue = &catalogue;
        plan_.store = &store_;
        plan_.files = std::make_shared<FileStore>(folder);
    }

    // Nothing where a step fails, or where there is nothing to see.
    std::optional<Image> picture(const StudyPointer& study, const Run& run) {
        const Evaluation evaluation = evaluate(study, plan_, run);
        if (evaluation.problem_count() > 0) return {};
        PictureJob job;
        job.study_units = study->units;
        job.still.width = choice_picture_width;
        job.still.height = choice_picture_height;
        job.still.passes = 32;
        for (const Item& item : study->items) {
            const Step* step = step_of(item);
            const Outcome* outcome = step ? evaluation.outcome(step->id) : nullptr;
            if (outcome && outcome->value && step->show.visible)
                job.results.push_back({outcome->value, step->name, step->show});
        }
        const auto scene = picture_scene(job, run);
        if (!scene || !check_still(scene->items, scene->still)) return {};
        auto image = render_still(scene->items, scene->still, run);
        return image ? std::optional(*std::move(image)) : std::nullopt;
    }

private:
    static constexpr std::size_t most_bytes = 500'000'000;
    ResultStore store_;
    EvaluationPlan plan_;
};

// Whether whoever looks sees a difference: more than grain and the thickness of a line.
bool differ(const Image& a, const Image& b) {
    constexpr int visible = 24;
    constexpr double share = 0.015;
    std::size_t apart = 0;
    for (std::size_t pixel = 0; pixel < a.rgba.size(); pixel += channels)
        for (std::size_t channel = 0; channel < channels; ++channel)
            if (std::abs(int{a.rgba[pixel + channel]} - int{b.rgba[pixel + channel]}) > visible) {
                ++apart;
                break;
            }
    const std::size_t pixels = a.rgba.size() / channels;
    return static_cast<double>(apart) > share * static_cast<double>(pixels);
}

bool any_differ(const std::vector<std::optional<Image>>& pictures) {
    for (std::size_t one = 0; one < pictures.size(); ++one)
        for (std::size_t other = 0; other < one; ++other)
            if (pictures[one] && pictures[other] && differ(*pictures[one], *pictures[other])) return true;
    return false;
}

Image side_by_side(const std::vector<std::optional<Image>>& pictures) {
    Image strip;
    strip.width = choice_picture_width * static_cast<int>(pictures.size());
    strip.height = choice_picture_height;
    strip.rgba.assign(channels * static_cast<std::size_t>(strip.width * strip.height), 0);
    constexpr std::size_t row_bytes = channels * choice_picture_width;
    for (std::size_t at = 0; at < pictures.size(); ++at) {
        if (!pictures[at]) continue;
        for (std::size_t row = 0; row < choice_picture_height; ++row)
            std::copy_n(
                pictures[at]->rgba.begin() + static_cast<std::ptrdiff_t>(row * row_bytes), row_bytes,
                strip.rgba.begin() + static_cast<std::ptrdiff_t>((row * pictures.size() + at) * row_bytes));
    }
    return strip;
}

const Step* step_of_kind(const Study& study, const std::string& kind) {
    for (const Item& item : study.items)
        if (const Step* step = step_of(item); step && step->kind == kind) return step;
    return nullptr;
}

}  // namespace

Result<std::vector<ChoicePictures>> choice_pictures(const StepKind& kind, const Catalogue& catalogue,
                                                    const std::filesystem::path& folder, const Run& run) {
    std::vector<ChoicePictures> made;
    const Example* example = example_of(kind.key);
    const Result<StudyPointer> read =
        example ? study_from_text(example->text) : Result<StudyPointer>(nullptr);
    if (!example || !read) return made;
    const Study study = in_form(**read, catalogue);
    const Step* step = step_of_kind(study, kind.key);
    if (!step || !step->show.visible) return made;
    ExampleMaker maker(catalogue, folder);
    for (const SlotSpec* slot : active_slots(kind, *step)) {
        if (slot->type != SlotType::choice || slot->words.size() < 2) continue;
        std::vector<std::optional<Image>> pictures;
        for (const Word& word : slot->words) {
            if (run.cancelled()) return cancelled_error();
            const Edited chosen = set_slot(study, step->id, slot->key, WordKey{word.key});
            pictures.push_back(chosen ? maker.picture(*chosen, run) : std::nullopt);
        }
        if (any_differ(pictures)) made.push_back({slot->key, side_by_side(pictures)});
    }
    return made;
}

}  // namespace plume
