#include "app/sheet/clipboard.hpp"

#include <QApplication>
#include <QClipboard>

#include "app/parts/step_actions.hpp"
#include "core/exchange/study_file.hpp"

namespace plume::app {
namespace {

std::size_t below_selection(const Document& document) {
    const Study& study = document.study();
    std::size_t below = 0;
    for (const ItemId id : document.attention().selection())
        below = std::max(below, *study.position(id) + 1);
    return below > 0 ? below : study.items.size();
}

void put(Document& document, const Result<Pasted>& pasted, const QString& label) {
    if (!pasted) return document.show_message(text_of(sentence(pasted.error())));
    if (!document.apply(pasted->study, label) || pasted->items.empty()) return;
    document.attention().select(pasted->items.front());
    document.attention().extend_selection(pasted->items.back());
}

// Links are whole paths on the clipboard, and relative again in the study's folder.
void copy(const Document& document, const StudyPointer& excerpt) {
    const StudyPointer linked =
        document.folder().empty() ? excerpt : with_links_from(*excerpt, document.folder(), "");
    QApplication::clipboard()->setText(text_of(study_to_text(*linked)));
}

}  // namespace

void copy_selection(Document& document) {
    const ItemIds items = document.attention().selection();
    if (items.empty()) return document.show_message(QObject::tr("Select the steps to copy first."));
    copy(document, excerpt_of(document.study(), items));
    document.show_message(items.size() == 1
                              ? QObject::tr("One item is on the clipboard.")
                              : QObject::tr("%1 items are on the clipboard.").arg(items.size()));
}

void copy_control(Document& document, const std::string& name) {
    copy(document, excerpt_of(document.study(), {}, {name}));
    document.show_message(QObject::tr("The control ‘%1’ is on the clipboard.").arg(text_of(name)));
}

void cut_selection(Document& document, QWidget* parent) {
    const ItemIds items = document.attention().selection();
    if (items.empty()) return document.show_message(QObject::tr("Select the steps to cut first."));
    copy(document, excerpt_of(document.study(), items));
    remove_selection(document, parent);
}

void paste_items(Document& document, PastedControls controls) {
    const std::string text = text_of(QApplication::clipboard()->text());
    const Result<StudyPointer> read = study_from_text(text);
    if (!read)
        return document.show_message(text.empty()
                                         ? QObject::tr("The clipboard holds no text. Copy some steps first.")
                                         : QObject::tr("The text on the clipboard is no study: %1")
                                               .arg(text_of(sentence(read.error()))));
    const StudyPointer linked = with_links_from(**read, "", document.folder());
    put(document,
        pasted(document.study(), document.catalogue(), *linked, below_selection(document), controls),
        QObject::tr("paste"));
}

void duplicate_selection(Document& document) {
    const StudyPointer excerpt = excerpt_of(document.study(), document.attention().selection());
    if (excerpt->items.empty()) return;
    put(document,
        pasted(document.study(), document.catalogue(), *excerpt, below_selection(document),
               PastedControls::shared),
        QObject::tr("duplicate"));
}

}  // namespace plume::app
