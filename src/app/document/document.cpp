#include "app/document/document.hpp"

#include <QFileInfo>

#include "core/base/guarded.hpp"
#include "core/data/not_finite.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slots/slot_form.hpp"

namespace plume::app {
namespace {

constexpr std::size_t histogram_bins = 24;

StudyPointer empty_study() {
    auto study = std::make_shared<Study>();
    study->title = "Untitled study";
    return study;
}

}  // namespace

struct Document::Results {
    StudyPointer study;
    std::map<ItemId, Shown> shown;
    double seconds = 0;
    std::size_t problems = 0;
    bool cancelled = false, complete = false;
};

QString text_of(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

std::string text_of(const QString& text) {
    return text.toStdString();
}

// What of a value is not finite and was remarked on a step above, where it came from.
std::vector<std::string> inherited_not_finite(const Shown& shown) {
    const bool any = (shown.figures && shown.figures->not_finite > 0) ||
                     (shown.drawable && shown.drawable->not_finite_points > 0);
    if (!any) return {};
    SeenColumns seen;
    std::vector<std::string> sentences = not_finite_sentences(*shown.value, seen);
    std::erase_if(sentences, [&](const std::string& sentence) {
        return std::ranges::find(shown.remarks, sentence, &Remark::text) != shown.remarks.end();
    });
    return sentences;
}

Document::Document(const Catalogue& catalogue, QObject* parent)
    : QObject(parent), catalogue_(catalogue), history_(empty_study()), notes_maker_(catalogue, cache_) {
    progress_timer_.setInterval(100);
    connect(&progress_timer_, &QTimer::timeout, this, [this] {
        if (!evaluator_->progress().busy) progress_timer_.stop();
        Q_EMIT progress_changed();
    });
    evaluator_ = std::make_unique<BackgroundEvaluator>(
        catalogue, cache_, [this](const Evaluation& evaluation, const Run& run) {
            auto results = prepare(evaluation, run);
            QMetaObject::invokeMethod(
                this, [this, results] { take(results); }, Qt::QueuedConnection);
            if (evaluation.cancelled || !evaluation.complete) return;
            // The model is not kept waiting for what is said about its formulas.
            const auto made = guarded([&]() -> Result<std::optional<EvaluationNotes>> {
                return notes_maker_.make(evaluation, run);
            });
            if (!made || !*made) return;
            auto notes = std::make_shared<EvaluationNotes>(**made);
            QMetaObject::invokeMethod(
                this,
                [this, notes, study = evaluation.study] {
                    if (study == snapshot()) take_notes(std::move(*notes));
                },
                Qt::QueuedConnection);
        });
}

Document::~Document() {
    evaluator_.reset();
}

const Shown* Document::shown(ItemId id) const {
    const auto found = shown_.find(id);
    return found == shown_.end() ? nullptr : &found->second;
}

const Shown* Document::shown(std::string_view result_name) const {
    const Step* step = study().step(result_name);
    return step ? shown(step->id) : nullptr;
}

bool Document::apply(const Edited& edited, const QString& label, const std::string& stroke) {
    if (!edited) {
        Q_EMIT message(text_of(sentence(edited.error())));
        return false;
    }
    if (same(**edited, study())) return true;
    history_.commit(*edited, text_of(label), stroke);
    study_was_changed();
    return true;
}

void Document::set_units(Units units) {
    NumbersByName numbers;
    for (const Item& item : study().items) {
        const Step* step = step_of(item);
        const Shown* result = step ? shown(step->id) : nullptr;
        if (!result || !result->value) continue;
        if (const auto number = number_of(*result->value)) numbers[step->name] = *number;
    }
    apply(with_units(study(), catalogue_, units, numbers), tr("change of units"));
}

void Document::end_stroke() {
    history_.end_stroke();
}

void Document::undo() {
    if (!can_undo()) return;
    history_.undo();
    study_was_changed();
}

void Document::redo() {
    if (!can_redo()) return;
    history_.redo();
    study_was_changed();
}

void Document::replace(const StudyPointer& study, const QString& path) {
    evaluator_->cancel();
    history_ = History(std::make_shared<const Study>(in_form(*study, catalogue_)));
    use_folder_of(path);
    recovered_ = false;
    shown_.clear();
    selected_ = anchor_ = 0;
    hovered_ = {};
    notes_ = {};
    graphed_.clear();
    notes_maker_.forget_wishes();
    budget_.permitted.clear();
    Q_EMIT replaced();
    study_was_changed();
    if (!live_) compute();
}

void Document::use_folder_of(const QString& path) {
    const QString before = QFileInfo(path_).path(), now = QFileInfo(path).path();
    path_ = path;
    if (path.isEmpty() || before != now)
        files_ = std::make_shared<FileStore>(path.isEmpty() ? "" : now.toStdString());
}

// The store remembers every file it was ever asked for; only those the study links now are anyone's business.
std::vector<std::string> Document::changed_files() const {
    std::vector<std::string> changed = files_->changed();
    const std::vector<std::string> linked = linked_files(study());
    std::erase_if(changed,
                  [&](const std::string& name) { return std::ranges::find(linked, name) == linked.end(); });
    return changed;
}

void Document::read_again(const std::string& name) {
    files_->refresh(name);
    behind_ = true;
    compute();
}

std::string Document::folder() const {
    return path_.isEmpty() ? std::string() : text_of(QFileInfo(path_).absolutePath());
}

std::string Document::linked_name(const QString& path) const {
    return path_.isEmpty() ? text_of(path) : link_from(folder(), text_of(path));
}

void Document::set_response_wish(ItemId id) {
    notes_maker_.set_response_wish(id);
    if (id != 0) look_again();
}

const ResponseNumbers* Document::response_numbers(ItemId id) const {
    return notes_.response && notes_.response->first == id ? &notes_.response->second : nullptr;
}

void Document::mark_saved(const QString& path) {
    // Links are relative to the folder of the study: saved elsewhere they lead from there.
    const bool moved = QFileInfo(path_).path() != QFileInfo(path).path();
    use_folder_of(path);
    if (moved && live_) compute();
    recovered_ = false;
    history_.mark_saved();
    Q_EMIT saved_changed();
}

void Document::select(ItemId id) {
    if (selected_ == id && anchor_ == id) return;
    selected_ = anchor_ = id;
    Q_EMIT selection_changed();
}

void Document::extend_selection(ItemId id) {
    if (anchor_ == 0) anchor_ = id;
    selected_ = id;
    Q_EMIT selection_changed();
}

// From the anchor to what was selected last; nothing when nothing is.
std::span<const Item> Document::selected_items() const {
    const auto to = study().position(selected_), from = study().position(anchor_);
    if (!to) return {};
    const std::size_t first = std::min(from.value_or(*to), *to), last = std::max(from.value_or(*to), *to);
    return std::span(study().items).subspan(first, last - first + 1);
}

ItemIds Document::selection() const {
    ItemIds ids;
    for (const Item& item : selected_items())
        ids.insert(id_of(item));
    return ids;
}

bool Document::is_selected(ItemId id) const {
    return std::ranges::any_of(selected_items(), [id](const Item& item) { return id_of(item) == id; });
}

void Document::hover(const Hovered& hovered) {
    if (hovered_ == hovered) return;
    hovered_ = hovered;
    Q_EMIT hover_changed();
}

void Document::study_was_changed() {
    if (selected_ != 0 && !study().position(selected_)) selected_ = 0;
    if (anchor_ != 0 && !study().position(anchor_)) anchor_ = selected_;
    behind_ = true;
    looked_at_.reset();
    Q_EMIT study_changed();
    Q_EMIT saved_changed();
    if (live_)
        compute();
    else
        Q_EMIT evaluation_changed();
}

void Document::set_live(bool live) {
    live_ = live;
    if (live && behind_) compute();
    Q_EMIT progress_changed();
}

void Document::compute() {
    notes_maker_.set_noted(snapshot());
    notes_maker_.set_files(files_);
    notes_maker_.set_budget(budget_);
    evaluator_->submit(computed_study(), budget_, files_);
    if (!progress_timer_.isActive()) progress_timer_.start();
}

void Document::cancel() {
    evaluator_->cancel();
}

void Document::permit(ItemId id) {
    const Shown* asking = shown(id);
    if (!asking || asking->state != StepState::asks) return;
    budget_.permitted.insert(asking->key);
    compute();
}

FormulaText Document::formula(ItemId id) const {
    const Step* step = study().step(id);
    const SlotSpec* slot = step ? kind_of(*step)->slot("formula") : nullptr;
    return slot ? std::get<FormulaText>(slot_value(*slot, *step)) : FormulaText{};
}

const FormulaInsight* Document::insight(ItemId id) const {
    const auto found = notes_.insights.find(id);
    return found == notes_.insights.end() ? nullptr : found->second.get();
}

// A line, a graph or a ghost is looked at: nothing of the study changes, but the worker has to look again.
void Document::look_again() {
    if (live_ || !behind_) compute();
}

void Document::set_graph_wish(ItemId id, const GraphWish& wish) {
    if (notes_maker_.wish(id) == wish) return;
    notes_maker_.set_wish(id, wish);
    looked_at_.reset();
    look_again();
}

void Document::set_ghost(const GhostWish& wish) {
    if (notes_maker_.ghost() == wish) return;
    notes_maker_.set_ghost(wish);
    looked_at_.reset();
    look_again();
}

std::size_t Document::look_from(const DrawnView& view) {
    const std::size_t number = notes_maker_.set_view(view);
    look_again();
    return number;
}

void Document::look_at_line(ItemId id, std::size_t begin) {
    const Step* step = study().step(id);
    if (!step) return;
    const Edited coloured = coloured_by_line(study(), *kind_of(*step), id, begin);
    if (!coloured) return look_away();
    looked_at_ = *coloured;
    look_again();
}

void Document::look_away() {
    if (!looked_at_) return;
    looked_at_.reset();
    look_again();
}

const std::vector<std::string>& Document::graphed(ItemId id) const {
    static const std::vector<std::string> none;
    const auto found = graphed_.find(id);
    return found == graphed_.end() ? none : found->second;
}

void Document::toggle_graphed(ItemId id, const std::string& line) {
    std::vector<std::string>& lines = graphed_[id];
    if (std::erase(lines, line) == 0) lines.push_back(line);
    Q_EMIT graphed_changed();
}

void Document::take_notes(EvaluationNotes notes) {
    // Of a formula that cannot be read now the last good ranges stay, with the error.
    for (auto& [id, insight] : notes.insights) {
        const auto old = notes_.insights.find(id);
        if (!insight->error || old == notes_.insights.end()) continue;
        auto merged = std::make_shared<FormulaInsight>(*old->second);
        merged->error = insight->error;
        merged->inputs = insight->inputs;
        merged->study_names = insight->study_names;
        insight = std::move(merged);
    }
    notes_ = std::move(notes);
    Q_EMIT notes_changed();
}

// Worker thread.
std::shared_ptr<const Thumbnail> Document::thumbnail_of(const Evaluation& evaluation, const Step& step,
                                                        const Run& run) const {
    constexpr int side = 240;
    const StepKind* kind = catalogue_.find(step.kind);
    const auto& inputs = evaluation.outcome(step.id)->inputs;
    if (!kind || !inputs || !inputs->has("file")) return nullptr;
    const auto area = context_of<PictureArea>(*kind, "file", *inputs, run);
    if (!area || !*area) return nullptr;
    const ResolvedFile& file = inputs->file("file");
    const auto raster = file.store->image(file.name, run);
    if (!raster) return nullptr;
    return std::make_shared<const Thumbnail>(Thumbnail{thumbnail(**raster, side), **area});
}

// Worker thread. What is seen of a value; kept from the last evaluation where the value is the same.
Status Document::present(const Evaluation& evaluation, const Step& step, const Run& run, Presented& fresh,
                         Shown& shown) const {
    const Outcome& outcome = *evaluation.outcome(step.id);
    const Value& value = *outcome.value;
    if (step.show.visible) {
        const std::pair key{outcome.key, step.show.colour_by};
        auto& drawable = fresh.drawables[key];
        if (const auto known = presented_.drawables.find(key); known != presented_.drawables.end())
            drawable = known->second;
        if (!drawable) {
            Result<Drawable> made = make_drawable(value, {step.show.colour_by}, run);
            if (!made) return made.error();
            drawable = std::make_shared<const Drawable>(*std::move(made));
        }
        shown.drawable = drawable;
    }
    if (const Field* field = field_in_hand(value)) {
        auto& made = fresh.figures[outcome.key];
        if (const auto known = presented_.figures.find(outcome.key); known != presented_.figures.end())
            made = known->second;
        else
            made = std::make_shared<const Statistics>(
                statistics_of(*lattice_of(value), field->values, histogram_bins));
        shown.figures = made;
    }
    if (auto& made = fresh.thumbnails[outcome.key]; !made) {
        const auto known = presented_.thumbnails.find(outcome.key);
        made = known != presented_.thumbnails.end() ? known->second : thumbnail_of(evaluation, step, run);
        shown.thumbnail = made;
    }
    const auto known_bounds = presented_.bounds.find(outcome.key);
    shown.bounds = known_bounds != presented_.bounds.end() ? known_bounds->second
                   : shown.drawable                        ? shown.drawable->bounds
                                                           : bounds_of(value);
    fresh.bounds[outcome.key] = shown.bounds;
    const auto known_odd = presented_.not_finite.find(outcome.key);
    shown.not_finite =
        known_odd != presented_.not_finite.end() ? known_odd->second : inherited_not_finite(shown);
    fresh.not_finite[outcome.key] = shown.not_finite;
    return Done{};
}

// Worker thread.
std::shared_ptr<Document::Results> Document::prepare(const Evaluation& evaluation, const Run& run) {
    auto results = std::make_shared<Results>();
    results->study = evaluation.study;
    results->seconds = evaluation.seconds;
    results->problems = evaluation.problem_count();
    results->cancelled = evaluation.cancelled;
    results->complete = evaluation.complete;
    Presented fresh;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const Outcome* reached = evaluation.outcome(step->id);
        if (!reached) break;
        const Outcome& outcome = *reached;
        Shown& shown = results->shown[step->id];
        shown.state = outcome.state;
        shown.value = outcome.value;
        shown.error = outcome.error;
        shown.cause = outcome.cause;
        shown.remarks = outcome.remarks;
        shown.seconds = outcome.seconds;
        shown.from_cache = outcome.from_cache;
        shown.key = outcome.key;
        if (!outcome.value) continue;
        const Status presented =
            guarded([&]() -> Status { return present(evaluation, *step, run, fresh, shown); });
        if (presented || presented.error().code == ErrorCode::cancelled) continue;
        shown.state = StepState::failed;
        shown.error = presented.error();
        ++results->problems;
    }
    // Cancelled while it was being drawn: what could not be drawn stays as it was.
    results->cancelled = results->cancelled || run.cancelled();
    if (results->complete && !results->cancelled)
        presented_ = std::move(fresh);
    else
        presented_.add(std::move(fresh));  // for when it is gone on with
    return results;
}

void Document::take(const std::shared_ptr<Results>& results) {
    std::map<ItemId, Shown> now;
    for (auto& [id, fresh] : results->shown) {
        Shown& shown = now[id];
        shown = std::move(fresh);
        const auto old = shown_.find(id);
        if (old == shown_.end() || !old->second.value || shown.state == StepState::muted) continue;
        const bool undrawn = results->cancelled && old->second.drawable && !shown.drawable;
        if (shown.value && !undrawn) continue;
        // No result this time: the last good one stays, marked.
        shown.value = old->second.value;
        shown.drawable = old->second.drawable;
        shown.figures = old->second.figures;
        shown.bounds = old->second.bounds;
        shown.stale = true;
    }
    if (!results->complete) {
        // What is still to come stays as it was.
        for (auto& [id, shown] : now)
            shown_[id] = std::move(shown);
        Q_EMIT evaluation_changed();
        return;
    }
    shown_ = std::move(now);
    last_seconds_ = results->seconds;
    problems_ = results->problems;
    behind_ = results->cancelled || results->study != computed_study();
    Q_EMIT evaluation_changed();
    Q_EMIT progress_changed();
}

}  // namespace plume::app
