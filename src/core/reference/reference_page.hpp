#pragma once
// What is told of a kind of step: all of it from its declaration, from its example, and from what it said
// when it was tried.

#include <optional>
#include <string>
#include <vector>

#include "core/reference/examples.hpp"
#include "core/reference/refusals.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

struct ReferenceSlot {
    std::string label, takes, limits, preset;
    std::string help;         // what it means; may be empty
    std::vector<Word> words;  // that it is chosen from
};

struct ReferenceExample {
    StatedFigure figure;
    std::vector<std::string> sentences;  // of its steps, in their order
    std::size_t own = 0;                 // the sentence of the kind itself
};

struct ReferenceLink {
    std::string kind, verb;
};

struct ReferencePage {
    std::string kind, verb, subject, help;
    std::string sentence;  // as it is first written; what it reads by its label
    std::vector<ReferenceSlot> slots;
    std::vector<std::string> gives;  // "points", "a mesh"
    std::vector<std::string> words;  // it is also found by
    std::vector<Refusal> refusals;   // with the label of their slot in place of its key
    std::vector<ReferenceLink> related;
    std::optional<Result<ReferenceExample>> example;  // the error of one that cannot be read
};

ReferencePage reference_page(const StepKind& kind, const Catalogue& catalogue);

// The sentence of a step as it is first written, what it reads by its label: "Skin points with a smooth
// surface."
std::string first_sentence(const StepKind& kind, const Step& step);

}  // namespace plume
