#pragma once
// What the worker finds out once an evaluation is over: ranges and graphs of every line of formulas, the
// ghost of another version, the numbers through a response, surfaces for whoever looks closely. Wishes are
// set from the window, the rest is the worker's.

#include <map>
#include <memory>
#include <mutex>

#include "core/evaluation/evaluator.hpp"
#include "core/evaluation/formula_insight.hpp"
#include "core/measure/difference.hpp"
#include "core/picture/drawable.hpp"

namespace plume::app {

// A version of a step's formula that is laid over the model.
struct GhostWish {
    ItemId step = 0;  // 0: none
    std::string version;
    bool operator==(const GhostWish&) const = default;
};

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

struct EvaluationNotes {
    std::map<ItemId, std::shared_ptr<const FormulaInsight>> insights;
    Ghost ghost;
    std::optional<std::pair<ItemId, ResponseNumbers>> response;  // of the response whose editor is open
    Closer closer;
};

class EvaluationNotesMaker {
public:
    // Versions share nearly all their results with the study in hand: one cache serves both.
    EvaluationNotesMaker(const Catalogue& catalogue, ResultCache& cache)
        : catalogue_(catalogue), cache_(cache) {}

    // Any thread.
    // The study notes are wanted of: one that is only looked at has its lines elsewhere.
    void set_noted(StudyPointer study);
    void set_wish(ItemId step, const GraphWish& wish);
    GraphWish wish(ItemId step) const;
    void set_ghost(const GhostWish& wish);
    // Another study: its steps may have the same numbers.
    void forget_wishes();
    GhostWish ghost() const;
    void set_response_wish(ItemId step);
    // Returns the number of the view.
    std::size_t set_view(const DrawnView& view);
    void set_files(std::shared_ptr<FileStore> files);
    void set_budget(Budget budget);
    // How the study in hand is evaluated, but for its cache.
    EvaluationPlan plan() const;

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
    Ghost make_ghost(const Evaluation& evaluation, const Run& run);
    Closer make_closer(const Evaluation& evaluation, const Run& run);

    const Catalogue& catalogue_;
    mutable std::mutex mutex_;
    StudyPointer noted_;
    std::map<ItemId, GraphWish> wishes_;
    GhostWish ghost_;
    ItemId response_ = 0;
    std::optional<DrawnView> view_;
    std::size_t view_number_ = 0;
    Closer closer_;  // what was made last; the worker's
    std::shared_ptr<FileStore> files_;
    std::map<ItemId, Known> known_;
    ResultCache& cache_;
    Budget budget_;
};

}  // namespace plume::app
