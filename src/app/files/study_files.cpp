#include "app/files/study_files.hpp"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>
#include <QMessageBox>
#include <algorithm>

#include "app/files/recent_studies.hpp"
#include "core/evaluation/file_contents.hpp"
#include "core/exchange/study_file.hpp"
#include "core/study/needed_steps.hpp"
#include "core/study/step_search.hpp"

namespace plume::app {

StudyFiles::StudyFiles(Document& document, QWidget* window)
    : QObject(window), document_(document), window_(window) {}

bool StudyFiles::may_leave() {
    if (document_.saved()) return true;
    QMessageBox box(QMessageBox::Question, tr("Unsaved changes"),
                    tr("‘%1’ has changes that are not saved.").arg(text_of(document_.study().title)),
                    QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, window_);
    box.setDefaultButton(QMessageBox::Save);
    const int answer = box.exec();
    return answer == QMessageBox::Discard || (answer == QMessageBox::Save && save());
}

void StudyFiles::begin_new() {
    if (!may_leave()) return;
    Q_EMIT put_away();
    document_.replace(empty_study(), {});
}

void StudyFiles::open() {
    if (!may_leave()) return;
    const QString folder =
        document_.path().isEmpty() ? QDir::homePath() : QFileInfo(document_.path()).absolutePath();
    const QString path = QFileDialog::getOpenFileName(window_, tr("Open a study"), folder,
                                                      tr("Studies (*.plume);;All files (*)"));
    if (!path.isEmpty()) open_file(path);
}

void StudyFiles::take_dropped(const QStringList& paths) {
    for (const QString& path : paths)
        if (path.endsWith(".plume", Qt::CaseInsensitive)) {
            if (may_leave()) open_file(path);
            return;
        }
    for (const QString& path : paths)
        link(path);
}

// By the first kind of step that reads files of its ending, with what it needs.
void StudyFiles::link(const QString& path) {
    const Study& study = document_.study();
    const Catalogue& catalogue = document_.catalogue();
    const StepPlace at_end{study, catalogue, study.page_end(Page::sheet)};
    const auto kinds = kinds_that_read(catalogue, path.toStdString());
    if (kinds.empty())
        return document_.show_message(
            tr("‘%1’ is of no kind that a study or a step reads.").arg(QFileInfo(path).fileName()));
    const StepOffer offer = step_offer(at_end, *kinds.front());
    const Result<Added> added = add_with_needed(study, catalogue, offer.needed, offered_step(offer, {}),
                                                at_end.position, at_end.in_hand);
    if (!added) return document_.show_message(text_of(sentence(added.error())));
    const auto slot = std::ranges::find(offer.kind->slots, SlotType::file, &SlotSpec::type);
    document_.apply(set_slot(*added->study, added->id, slot->key, FileName{document_.linked_name(path)}),
                    tr("linked file"));
    document_.attention().select(added->id);
}

bool StudyFiles::open_file(const QString& path) {
    Result<StudyPointer> study = load_study(path.toStdString());
    if (!study) {
        document_.show_message(text_of(sentence(study.error())));
        return false;
    }
    Q_EMIT put_away();
    document_.replace(*study, QFileInfo(path).absoluteFilePath());
    remember_study(document_.path());
    QStringList unknown;
    for (const std::string& said : unknown_parts(**study))
        unknown << text_of(said);
    if (!unknown.isEmpty()) document_.show_message(unknown.join(' '));
    return true;
}

void StudyFiles::open_copy(const StudyPointer& study) {
    if (!may_leave()) return;
    Q_EMIT put_away();
    document_.replace(study, {});
}

void StudyFiles::open_copy_of(const QString& path) {
    const Result<StudyPointer> study = load_study(text_of(path));
    if (!study) return document_.show_message(text_of(sentence(study.error())));
    open_copy(with_links_from(**study, text_of(QFileInfo(path).absolutePath()), ""));
}

bool StudyFiles::save() {
    return document_.path().isEmpty() ? save_as() : save_to(document_.path());
}

bool StudyFiles::save_as() {
    QString start = document_.path();
    if (start.isEmpty())
        start =
            QDir::home().filePath(text_of(document_.study().title).toLower().replace(' ', '-') + ".plume");
    QString path =
        QFileDialog::getSaveFileName(window_, tr("Save the study as"), start, tr("Studies (*.plume)"));
    if (path.isEmpty()) return false;
    if (QFileInfo(path).suffix().isEmpty()) path += ".plume";
    return save_to(path);
}

bool StudyFiles::save_to(const QString& path) {
    // Links are kept relative to the study: saved elsewhere they have to lead from there.
    const std::string from =
        document_.path().isEmpty() ? "" : QFileInfo(document_.path()).absolutePath().toStdString();
    document_.apply(with_links_from(document_.study(), from, QFileInfo(path).absolutePath().toStdString()),
                    tr("links"));
    const Status saved = save_study(document_.study(), path.toStdString());
    if (!saved) {
        document_.show_message(text_of(sentence(saved.error())));
        return false;
    }
    document_.mark_saved(QFileInfo(path).absoluteFilePath());
    Q_EMIT put_away();
    remember_study(document_.path());
    return true;
}

void StudyFiles::fill_recent(QMenu& menu) {
    menu.clear();
    for (const RecentStudy& study : recent_studies()) {
        const QString path = study.path;
        if (study.is_there)
            menu.addAction(path, this, [this, path] {
                if (may_leave()) open_file(path);
            });
        else
            menu.addAction(tr("%1 is gone: forget it").arg(path), this, [path] { forget_study(path); });
    }
    if (menu.isEmpty()) menu.addAction(tr("No study was opened yet"))->setEnabled(false);
}

}  // namespace plume::app
