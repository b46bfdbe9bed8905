#include "core/reference/reference_page.hpp"

#include <algorithm>

#include "core/base/small_letters.hpp"
#include "core/exchange/study_file.hpp"
#include "core/study/related_kinds.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slot_help.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/study/step_words.hpp"
#include "core/study/subjects.hpp"

namespace plume {
namespace {

constexpr std::size_t most_related = 6;

ReferenceSlot told(const SlotSpec& slot) {
    SlotHelp help = slot_help(slot, Units());
    return {slot.label, std::move(help.takes), std::move(help.limits), std::move(help.preset), slot.help,
            slot.words};
}

std::vector<Refusal> labelled_refusals(const StepKind& kind) {
    std::vector<Refusal> refusals;
    for (Refusal refusal : refusals_of(kind.key)) {
        const SlotSpec* slot = kind.slot(refusal.slot);
        refusal.slot = slot ? slot->label : "";
        refusals.push_back(std::move(refusal));
    }
    return refusals;
}

Result<ReferenceExample> told(const Example& example, const Catalogue& catalogue) {
    const Result<StudyPointer> read = study_from_text(example.text);
    if (!read) return error_at(read.error(), "The example");
    const Study study = in_form(**read, catalogue);
    Result<StatedFigure> figure = stated_figure(study);
    if (!figure) return figure.error();
    ReferenceExample page{*std::move(figure), {}, 0};
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        const StepKind* kind = step ? catalogue.find(*step) : nullptr;
        if (!kind) continue;
        if (step->kind == example.kind) page.own = page.sentences.size();
        page.sentences.push_back(step->name + " — " + sentence_text(*kind, *step));
    }
    return page;
}

}  // namespace

std::string first_sentence(const StepKind& kind, const Step& step) {
    std::string text;
    for (const SentencePart& part : sentence_parts(kind, step)) {
        const bool read =
            part.slot && (part.slot->type == SlotType::reference || part.slot->type == SlotType::results ||
                          part.slot->type == SlotType::file);
        text += !part.slot ? part.text
                : read     ? in_small_letters(part.slot->label)
                           : slot_text(*part.slot, step);
    }
    return text;
}

ReferencePage reference_page(const StepKind& kind, const Catalogue& catalogue) {
    ReferencePage page;
    page.kind = kind.key;
    page.verb = kind.verb;
    page.subject = subject_of(kind).title;
    page.help = kind.help;
    page.sentence = first_sentence(kind, Step());
    for (const SlotSpec& slot : kind.slots)
        page.slots.push_back(told(slot));
    for (const Kind result : kind.results)
        page.gives.push_back(with_article(result));
    page.words = small_words(kind.synonyms);
    page.refusals = labelled_refusals(kind);
    for (const StepKind* other : related_kinds(kind, catalogue, most_related))
        page.related.push_back({other->key, other->verb});
    if (const Example* example = example_of(kind.key)) page.example = told(*example, catalogue);
    return page;
}

}  // namespace plume
