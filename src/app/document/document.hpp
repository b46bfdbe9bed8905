#pragma once
// Document: the study in hand, its history, what its evaluation brought, and what is selected and hovered.
// Widgets show it and send it edits; it computes nothing itself but hands snapshots to the core's worker.

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <map>
#include <memory>

#include "app/document/evaluation_notes.hpp"
#include "core/evaluation/background_evaluator.hpp"
#include "core/measure/statistics.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/thumbnail.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/history.hpp"

namespace plume::app {

// The picture a step reads, made small, and the part of it that is sampled.
struct Thumbnail {
    Image image;
    PictureArea area;
};

// What is known of one step's result. Keeps the last good one while a step fails, marked stale.
struct Shown {
    StepState state = StepState::cancelled;
    ValuePointer value;
    std::shared_ptr<const Drawable> drawable;   // only of visible results
    std::shared_ptr<const Statistics> figures;  // of the field in hand
    Box bounds;
    std::vector<Remark> remarks;                 // about the value
    std::vector<std::string> not_finite;         // sentences about it that are remarks of a step above
    std::shared_ptr<const Thumbnail> thumbnail;  // of the picture it reads
    std::optional<Error> error;
    ItemId cause = 0;  // of a step that waits: the one to be mended
    double seconds = 0;
    bool from_cache = false;
    bool stale = false;
    Hash key;
};

struct Hovered {
    ItemId step = 0;
    std::size_t index = 0;  // flat address in the step's lattice, or item of its attractors
    bool operator==(const Hovered&) const = default;
};

class Document : public QObject {
    Q_OBJECT

public:
    explicit Document(const Catalogue& catalogue, QObject* parent = nullptr);
    ~Document() override;

    const Catalogue& catalogue() const { return catalogue_; }
    const Study& study() const { return *history_.current(); }
    const StudyPointer& snapshot() const { return history_.current(); }
    const StepKind* kind_of(const Step& step) const { return catalogue_.find(step.kind); }
    const Shown* shown(ItemId id) const;
    const Shown* shown(std::string_view result_name) const;

    // Takes an edit over; an error goes to message() and nothing changes. Edits of one stroke are one undo
    // step.
    bool apply(const Edited& edited, const QString& label, const std::string& stroke = {});
    void end_stroke();
    // Other units, the same form.
    void set_units(Units units);
    bool can_undo() const { return history_.can_undo(); }
    bool can_redo() const { return history_.can_redo(); }
    QString undo_label() const { return QString::fromStdString(history_.undo_label()); }
    QString redo_label() const { return QString::fromStdString(history_.redo_label()); }
    void undo();
    void redo();

    // Another study; history starts anew.
    void replace(const StudyPointer& study, const QString& path);
    // The study came from elsewhere than its file: counts as edited.
    void mark_unsaved() {
        recovered_ = true;
        Q_EMIT saved_changed();
    }
    void mark_saved(const QString& path);
    bool saved() const { return history_.saved() && !recovered_; }
    const QString& path() const { return path_; }

    // The item in hand; of several selected the last one reached.
    ItemId selected() const { return selected_; }
    void select(ItemId id);
    // From the item that was selected first to this one, and all between on the page.
    void extend_selection(ItemId id);
    ItemIds selection() const;
    bool is_selected(ItemId id) const;
    const Hovered& hovered() const { return hovered_; }
    void hover(const Hovered& hovered);
    void show_message(const QString& text) { Q_EMIT message(text); }

    // Formulas: what the worker found out about the lines, and what it is asked to look at.
    FormulaText formula(ItemId id) const;  // of a step that has one
    const FormulaInsight* insight(ItemId id) const;
    GraphWish graph_wish(ItemId id) const { return notes_maker_.wish(id); }
    void set_graph_wish(ItemId id, const GraphWish& wish);
    const Ghost& ghost() const { return notes_.ghost; }
    GhostWish ghost_wish() const { return notes_maker_.ghost(); }
    void set_ghost(const GhostWish& wish);
    // Asks for surfaces as fine as this view needs; closer() has them some time later, under this number.
    std::size_t look_from(const DrawnView& view);
    const Closer& closer() const { return notes_.closer; }
    // How numbers go through the response of a step, while its editor is open. 0: none.
    void set_response_wish(ItemId id);
    const ResponseNumbers* response_numbers(ItemId id) const;
    // Linked files: those that are no longer as they were read; insight them again.
    std::vector<std::string> changed_files() const;
    void read_again(const std::string& name);
    // The study's folder; empty while it was never saved.
    std::string folder() const;
    // A path as it is kept: relative to the study's folder where it lies in it or below.
    std::string linked_name(const QString& path) const;
    // Asks whoever shows the model to let corners be drawn, or points be picked, for a slot.
    void ask_to_draw(ItemId id, const std::string& slot) { Q_EMIT drawing_wanted(id, slot); }
    void ask_to_pick(ItemId id, const std::string& slot) { Q_EMIT picking_wanted(id, slot); }
    // Colours the model by a line of a step's formula while it is looked at.
    void look_at_line(ItemId id, std::size_t begin);
    void look_away();
    // Lines drawn in the large graph.
    const std::vector<std::string>& graphed(ItemId id) const;
    void toggle_graphed(ItemId id, const std::string& line);

    bool live() const { return live_; }
    void set_live(bool live);
    void compute();
    void cancel();
    void permit(ItemId id);
    BackgroundEvaluator::Progress progress() const { return evaluator_->progress(); }
    double last_seconds() const { return last_seconds_; }
    std::size_t problem_count() const { return problems_; }
    // Whether what is shown belongs to an older study.
    bool behind() const { return behind_; }

Q_SIGNALS:
    void replaced();  // by another study
    void study_changed();
    void evaluation_changed();
    void selection_changed();
    void hover_changed();
    void notes_changed();
    void graphed_changed();
    void saved_changed();
    void progress_changed();
    void drawing_wanted(plume::ItemId id, const std::string& slot);
    void picking_wanted(plume::ItemId id, const std::string& slot);
    void message(const QString& text);

private:
    struct Results;
    // What was made to be seen of values, by their keys; drawables by the field they are coloured by, too.
    struct Presented {
        std::map<std::pair<Hash, std::string>, std::shared_ptr<const Drawable>> drawables;
        std::map<Hash, std::shared_ptr<const Statistics>> figures;
        std::map<Hash, Box> bounds;
        std::map<Hash, std::vector<std::string>> not_finite;
        std::map<Hash, std::shared_ptr<const Thumbnail>> thumbnails;

        void add(Presented&& more) {
            drawables.merge(more.drawables);
            figures.merge(more.figures);
            bounds.merge(more.bounds);
            not_finite.merge(more.not_finite);
            thumbnails.merge(more.thumbnails);
        }
    };
    void study_was_changed();
    void take(const std::shared_ptr<Results>& results);
    void take_notes(EvaluationNotes notes);
    std::span<const Item> selected_items() const;
    void look_again();
    const StudyPointer& computed_study() const { return looked_at_ ? looked_at_ : snapshot(); }
    Status present(const Evaluation& evaluation, const Step& step, const Run& run, Presented& fresh,
                   Shown& shown) const;
    std::shared_ptr<Results> prepare(const Evaluation& evaluation, const Run& run);
    std::shared_ptr<const Thumbnail> thumbnail_of(const Evaluation& evaluation, const Step& step,
                                                  const Run& run) const;
    void use_folder_of(const QString& path);

    const Catalogue& catalogue_;
    History history_;
    QString path_;
    bool recovered_ = false;
    std::map<ItemId, Shown> shown_;
    ItemId selected_ = 0, anchor_ = 0;
    Hovered hovered_;
    StudyPointer looked_at_;  // in place of the study, while a line is looked at
    EvaluationNotes notes_;
    std::map<ItemId, std::vector<std::string>> graphed_;
    bool live_ = true, behind_ = false;
    Budget budget_;
    std::shared_ptr<FileStore> files_ = std::make_shared<FileStore>();
    double last_seconds_ = 0;
    std::size_t problems_ = 0;
    QTimer progress_timer_;
    Presented presented_;  // of the last evaluation; used by the worker only
    static constexpr std::size_t cache_bytes = 1'500'000'000;
    ResultCache cache_{cache_bytes};
    EvaluationNotesMaker notes_maker_;
    std::unique_ptr<BackgroundEvaluator> evaluator_;  // last: its thread uses the members above
};

QString text_of(std::string_view text);
std::string text_of(const QString& text);

}  // namespace plume::app
