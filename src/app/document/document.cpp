#include "app/document/document.hpp"

#include <QFileInfo>
#include <algorithm>

#include "core/study/sentence.hpp"
#include "core/study/slots/slot_form.hpp"

namespace plume::app {

StudyPointer empty_study() {
    auto study = std::make_shared<Study>();
    study->title = "Untitled study";
    return study;
}

QString text_of(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

std::string text_of(const QString& text) {
    return text.toStdString();
}

Document::Document(const Catalogue& catalogue, QObject* parent)
    : QObject(parent),
      catalogue_(catalogue),
      history_(empty_study()),
      attention_(std::make_unique<Attention>(*this)),
      playing_(std::make_unique<Playing>(*this)),
      results_(std::make_unique<Results>(*this)) {
    connect(attention_.get(), &Attention::looked_elsewhere, results_.get(), &Results::look_again);
}

Document::~Document() = default;

FormulaText Document::formula(ItemId id) const {
    const Step* step = study().step(id);
    const SlotSpec* slot = step ? kind_of(*step)->slot("formula") : nullptr;
    return slot ? std::get<FormulaText>(slot_value(*slot, *step)) : FormulaText{};
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
    apply(with_units(study(), catalogue_, units, results_->numbers()), tr("change of units"));
}

void Document::end_stroke() {
    playing_->make_waiting_edit();
    history_.end_stroke();
}

void Document::undo() {
    if (can_undo()) go_to(history_.at() - 1);
}

void Document::redo() {
    go_to(history_.at() + 1);
}

void Document::go_to(std::size_t entry) {
    if (entry == history_.at() || entry >= history_.entries().size()) return;
    history_.go_to(entry);
    study_was_changed();
}

void Document::replace(const StudyPointer& study, const QString& path) {
    history_ = History(std::make_shared<const Study>(in_form(*study, catalogue_)));
    use_folder_of(path);
    recovered_ = false;
    results_->forget_all();
    attention_->forget_all();
    playing_->begin_anew();
    // The worker does not wait for the page to be laid out.
    results_->mark_behind();
    results_->compute();
    Q_EMIT replaced();
    Q_EMIT study_changed();
    Q_EMIT saved_changed();
}

void Document::use_folder_of(const QString& path) {
    const QString before = QFileInfo(path_).path(), now = QFileInfo(path).path();
    path_ = path;
    if (path.isEmpty() || before != now)
        files_ = std::make_shared<FileStore>(path.isEmpty() ? "" : now.toStdString());
}

void Document::mark_saved(const QString& path) {
    // Links are relative to the folder of the study: saved elsewhere they lead from there.
    const bool moved = QFileInfo(path_).path() != QFileInfo(path).path();
    use_folder_of(path);
    if (moved && results_->live()) results_->compute();
    recovered_ = false;
    history_.mark_saved();
    Q_EMIT saved_changed();
}

std::string Document::folder() const {
    return path_.isEmpty() ? std::string() : text_of(QFileInfo(path_).absolutePath());
}

std::string Document::linked_name(const QString& path) const {
    return path_.isEmpty() ? text_of(path) : link_from(folder(), text_of(path));
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
    results_->mark_behind();
    results_->compute();
}

void Document::study_was_changed() {
    attention_->follow_edit();
    playing_->follow_edit();
    results_->mark_behind();
    Q_EMIT study_changed();
    Q_EMIT saved_changed();
    results_->follow_edit();
}

}  // namespace plume::app
