#pragma once
// What the worker finds out once an evaluation is over: ranges and graphs of every line of formulas, the
// ghost of another version, the numbers through a response, surfaces for whoever looks closely. Wishes are
// set from the window, the rest is the worker's.

#include <map>
#include <memory>
#include <mutex>

#include "app/document/attention.hpp"
#include "core/evaluation/evaluator.hpp"
#include "core/evaluation/formula_insight.hpp"
#include "core/measure/difference.hpp"
#include "core/picture/drawable.hpp"
#include "core/results/curvature_graph.hpp"
#include "core/tracing/trace.hpp"

namespace plume::app {

struct Ghost {
    GhostWish wish;
    std::vector<std::shared_ptr<const Drawable>> drawables;
    std::optional<Difference> difference;  // to the step's present result
    std::optional<Error> error;            // why there is none
};

// Surfaces drawn as finely as a view of them needs.
struct Closer {
    std::size_t view = 0;  // number of the view; 0: none was asked for
    struct Drawn {
        Hash key;  // of the result
        std::string colour_by;
        std::shared_ptr<const Drawable> drawable;  // null: it is drawn finely enough anyway
    };
    std::map<ItemId, Drawn> surfaces;
};

// What is worth knowing of a result beyond its outline.
struct Details {
    Hash key;  // of the result
    Units units;
    std::vector<std::string> lines;
    std::shared_ptr<const CurvatureGraph> graph;   // null: there is none
    std::shared_ptr<const FamilyCounts> families;  // null: it groups nothing
};

// What a step has to choose from, by slot; or why that cannot be told.
struct StepOffers {
    ItemId step = 0;
    std::map<std::string, Offers> by_slot;
    std::optional<Error> error;
};

// Why a part is as it is; or why that cannot be told.
struct ToldWhy {
    AskedPart asked;
    std::optional<Trace> trace;
    std::optional<Error> error;
};

struct EvaluationNotes {
    std::map<ItemId, std::shared_ptr<const FormulaInsight>> insights;
    Ghost ghost;
    std::optional<std::pair<ItemId, ResponseNumbers>> response;  // of the response whose editor is open
    std::optional<StepOffers> offers;                            // of the step a list is open of
    std::optional<Details> details;                              // of the step whose readings are shown
    std::vector<ToldWhy> told_why;                               // of what is asked, in that order
    Closer closer;
    std::shared_ptr<const HandOffPlan> hand_off;  // nullptr: nobody asked, or it cannot be planned
    std::optional<Error> hand_off_error;          // why it cannot
    // What the sentence in hand gives, coloured by what is new or changed; by the steps that made it.
    std::map<ItemId, std::shared_ptr<const Drawable>> handed;
    std::shared_ptr<const Drawable> gone;  // where parts were that it no longer gives; nullptr: none
};

class EvaluationNotesMaker {
public:
    // Versions share nearly all their results with the study in hand: one store serves both.
    EvaluationNotesMaker(const Catalogue& catalogue, ResultStore& store)
        : catalogue_(catalogue), store_(store) {}

    // What is to be found out, of which study, and how the study is evaluated.
    struct Order {
        StudyPointer study;
        Wishes wishes;
        std::shared_ptr<FileStore> files;
        Budget budget;
        Moment moment;
    };
    // Any thread.
    void set(Order order);

    // The worker's. Nothing of another study, or when it was cancelled on the way.
    std::optional<EvaluationNotes> make(const Evaluation& evaluation, const Run& run);

private:
    struct Known {
        Hash key;
        GraphWish wish;
        std::shared_ptr<const FormulaInsight> insight;
    };
    std::shared_ptr<const FormulaInsight> insight_of(const Evaluation& evaluation, const Step& step,
                                                     const Run& run);
    std::optional<std::pair<ItemId, ResponseNumbers>> make_response_numbers(const Evaluation& evaluation,
                                                                            const Run& run);
    std::optional<StepOffers> make_offers(const Evaluation& evaluation, const Run& run);
    std::shared_ptr<const FamilyCounts> make_families(const Evaluation& evaluation, const Run& run);
    std::optional<Details> make_details(const Evaluation& evaluation, const Run& run);
    std::vector<ToldWhy> make_told_why(const Evaluation& evaluation, const Run& run) const;
    Ghost make_ghost(const Evaluation& evaluation, const Run& run);
    void make_hand_off(const Evaluation& evaluation, const Run& run, EvaluationNotes& notes);
    void make_handed(const Study& study, const HandOffEntry& entry, const Run& run);
    Closer make_closer(const Evaluation& evaluation, const Run& run);

    const Catalogue& catalogue_;
    std::mutex mutex_;
    Order ordered_;
    // The worker's.
    Order order_;
    Closer closer_;  // what was made last
    KeptParts kept_parts_;
    Hash handed_key_;  // of what is drawn of the sentence in hand: its state, and those of its parts
    std::map<ItemId, std::shared_ptr<const Drawable>> handed_;
    std::shared_ptr<const Drawable> gone_;
    std::optional<Details> details_;
    std::map<ItemId, Known> known_;
    ResultStore& store_;
};

}  // namespace plume::app
