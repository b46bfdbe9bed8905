#pragma once
// Document: the study in hand with its history and its file. What came of it is Results, where attention is
// Attention, at which moment Playing; a document has one of each. Widgets show them and send edits; nothing
// here computes.

#include <QObject>
#include <memory>

#include "app/document/attention.hpp"
#include "app/document/playing.hpp"
#include "app/document/results.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/history.hpp"

namespace plume::app {

class Document : public QObject {
    Q_OBJECT

public:
    explicit Document(const Catalogue& catalogue, QObject* parent = nullptr);
    ~Document() override;

    const Catalogue& catalogue() const { return catalogue_; }
    const Study& study() const { return *history_.current(); }
    const StudyPointer& snapshot() const { return history_.current(); }
    const StepKind* kind_of(const Step& step) const { return catalogue_.find(step); }
    FormulaText formula(ItemId id) const;  // of a step that has one
    Results& results() const { return *results_; }
    Attention& attention() const { return *attention_; }
    Playing& playing() const { return *playing_; }

    // Takes an edit over; an error goes to message() and nothing changes. Edits of one stroke are one undo
    // step.
    bool apply(const Edited& edited, const QString& label, const std::string& stroke = {});
    void end_stroke();
    // Other units, the same form.
    void set_units(Units units);
    const History& history() const { return history_; }
    bool can_undo() const { return history_.can_undo(); }
    bool can_redo() const { return history_.can_redo(); }
    QString undo_label() const { return QString::fromStdString(history_.undo_label()); }
    QString redo_label() const { return QString::fromStdString(history_.redo_label()); }
    void undo();
    void redo();
    // To any state of the history.
    void go_to(std::size_t entry);
    void show_message(const QString& text) { Q_EMIT message(text); }

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
    // The study's folder; empty while it was never saved.
    std::string folder() const;
    // A path as it is kept: relative to the study's folder where it lies in it or below.
    std::string linked_name(const QString& path) const;
    // Linked files as they were read: the store, those that changed since, reading one of them again.
    const std::shared_ptr<FileStore>& files() const { return files_; }
    std::vector<std::string> changed_files() const;
    void read_again(const std::string& name);

Q_SIGNALS:
    void replaced();  // by another study
    void study_changed();
    void saved_changed();
    void message(const QString& text);

private:
    void study_was_changed();
    void use_folder_of(const QString& path);

    const Catalogue& catalogue_;
    History history_;
    QString path_;
    bool recovered_ = false;
    std::shared_ptr<FileStore> files_ = std::make_shared<FileStore>();
    std::unique_ptr<Attention> attention_;
    std::unique_ptr<Playing> playing_;
    std::unique_ptr<Results> results_;  // last: its thread uses the others
};

// What a document begins with.
StudyPointer empty_study();

QString text_of(std::string_view text);
std::string text_of(const QString& text);

}  // namespace plume::app
