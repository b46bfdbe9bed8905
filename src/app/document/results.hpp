#pragma once
// Results: what came of the study in hand, step by step, and what was found out about it. Hands snapshots to
// the core's worker and takes over what it brings; computes nothing itself.

#include <QObject>
#include <QTimer>
#include <atomic>
#include <map>
#include <memory>

#include "app/document/evaluation_notes.hpp"
#include "core/evaluation/background_evaluator.hpp"
#include "core/results/presentation.hpp"

namespace plume::app {

class Document;

// What is known of one step's result. Keeps the last good one while a step fails, marked stale.
struct Shown : Outcome, Presentation {
    bool stale = false;
};

class Results : public QObject {
    Q_OBJECT

public:
    explicit Results(const Document& document);
    ~Results() override;

    const Shown* shown(ItemId id) const;
    const Shown* shown(std::string_view result_name) const;
    // The numbers of the study that expressions can read, by name.
    NumbersByName numbers() const;

    // What the worker found out about formulas, the ghost, the response whose editor is open, the result that
    // is read, surfaces.
    const FormulaInsight* insight(ItemId id) const;
    const Ghost& ghost() const { return notes_.ghost; }
    const ResponseNumbers* response_numbers(ItemId id) const;
    // What the step has to choose from, while Attention wishes to know; nullptr while that is not known.
    const StepOffers* offers(ItemId id) const;
    const Details* details(ItemId id) const;
    // Of what is asked; empty until it is known.
    const std::vector<ToldWhy>& told_why() const { return notes_.told_why; }
    const Closer& closer() const { return notes_.closer; }
    // What would be handed off, while Attention wishes to know; and why that cannot be told.
    const std::shared_ptr<const HandOffPlan>& hand_off() const { return notes_.hand_off; }
    const std::map<ItemId, std::shared_ptr<const Drawable>>& handed() const { return notes_.handed; }
    const std::shared_ptr<const Drawable>& gone() const { return notes_.gone; }
    const std::optional<Error>& hand_off_error() const { return notes_.hand_off_error; }

    bool live() const { return live_; }
    void set_live(bool live);
    void compute();
    void cancel();
    void permit(ItemId id);
    BackgroundEvaluator::Progress progress() const { return evaluator_->progress(); }
    // The step that long work is at; 0 when there is none.
    ItemId in_hand() const { return in_hand_; }
    double last_seconds() const { return last_seconds_; }
    std::size_t problem_count() const { return problems_; }
    // Whether what is shown belongs to an older study.
    bool behind() const { return behind_; }
    // Whether what is told is older than what is seen: while results follow each other quickly.
    bool untold() const { return untold_; }

    // The study is another one.
    void forget_all();
    // What is shown is of an older study from now on; computed anew, while live, or at once.
    void mark_behind() { behind_ = true; }
    void follow_edit();
    // What went on from how it was before a change is made from its beginning.
    void begin_at_beginning();
    // Nothing of the study changed, but what is to be found out of it.
    void look_again();
    // The study at another moment.
    void follow_moment();
    // While moments only pass, nothing is found out about them.
    void set_passing(bool passing);
    // How the study in hand is computed, for whoever computes it beside. Outlived by the document.
    EvaluationPlan plan();
    // Frames at which the result of a step is kept, at the rate of the study.
    std::vector<std::size_t> kept_frames(ItemId id) const;

Q_SIGNALS:
    // What is told of results: not for each of those that follow each other quickly, but always for the last.
    void evaluation_changed();
    // What is seen is there, before what is told of it; evaluation_changed() follows.
    void pictures_changed();
    void notes_changed();
    void progress_changed();
    void in_hand_changed();

private:
    struct Brought;
    void follow_progress();
    void take(const std::shared_ptr<Brought>& brought);
    bool is_quick() const;
    // Whether that is what is looked at now, and how long it took.
    void follow(const Brought& brought);
    void tell(bool seen_already = false);
    void say();
    void take_notes(EvaluationNotes notes);
    const StudyPointer& computed_study() const;
    void bring(const std::shared_ptr<Brought>& brought);
    std::shared_ptr<Brought> prepare_pictures(const Evaluation& evaluation, const Run& run);
    std::shared_ptr<Brought> prepare(const Evaluation& evaluation, const Run& run);
    void finished(const Evaluation& evaluation, const Run& run);

    const Document& document_;
    std::map<ItemId, Shown> shown_;
    EvaluationNotes notes_;
    bool live_ = true, behind_ = false;
    std::atomic<bool> passing_ = false;
    mutable StudyPointer recipes_of_;  // the study that the recipes are of
    mutable std::map<ItemId, Hash> recipes_;
    mutable std::map<ItemId, std::vector<std::size_t>> kept_frames_;  // as they were told last
    ItemId in_hand_ = 0;
    Budget budget_;
    double last_seconds_ = 0;
    std::pair<StudyPointer, Moment> timed_;  // what that was of
    std::pair<StudyPointer, Moment> seen_;   // of which all that is seen was there, before the rest
    std::size_t problems_ = 0;
    QTimer progress_timer_;
    QTimer told_timer_;  // runs until what is seen was painted, and a moment from each time that something
                         // was told
    bool untold_ = false, notes_untold_ = false;
    Presenter presenter_;    // used by the worker only
    StudyPointer prepared_;  // last, by the worker
    static constexpr std::size_t store_bytes = 1'500'000'000;
    ResultStore store_{store_bytes};
    EvaluationNotesMaker notes_maker_;
    std::unique_ptr<BackgroundEvaluator> evaluator_;  // last: its thread uses the members above
};

}  // namespace plume::app
