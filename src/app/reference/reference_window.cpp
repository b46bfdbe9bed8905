#include "app/reference/reference_window.hpp"

#include <QAbstractTextDocumentLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "app/document/document.hpp"
#include "app/parts/markdown_page.hpp"
#include "app/parts/window_size.hpp"
#include "app/theme/look.hpp"
#include "core/reference/reference_text.hpp"
#include "core/study/step_search.hpp"
#include "core/study/subjects.hpp"

namespace plume::app {
namespace {

constexpr int key_role = Qt::UserRole, list_width = 270, row_height = 26, caption_height = 34;
constexpr const char *page_scheme = "step", *example_scheme = "example", *word_scheme = "word";
// In place of the key of a kind.
constexpr const char* words_page = "words";

ReferenceLinks links_in_window() {
    return {.page = [](const std::string& kind) { return std::string(page_scheme) + ':' + kind; },
            .picture = [](const std::string& kind) { return ":/examples/" + kind + ".png"; },
            .example = [](const std::string& kind) { return std::string(example_scheme) + ':' + kind; },
            .word = [](const std::string& word) { return std::string(word_scheme) + ':' + word; }};
}

}  // namespace

ReferenceWindow::ReferenceWindow(const Catalogue& catalogue, QWidget* parent)
    : QDialog(parent), catalogue_(catalogue) {
    setObjectName("reference");
    setWindowTitle(tr("Steps"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    auto* left = new QVBoxLayout;
    left->setContentsMargins(12, 12, 8, 12);
    left->setSpacing(8);
    line_ = new QLineEdit;
    line_->setObjectName("reference-search");
    line_->setPlaceholderText(tr("Find a step"));
    line_->setAccessibleName(line_->placeholderText());
    line_->installEventFilter(this);
    list_ = new QListWidget;
    list_->setObjectName("reference-list");
    list_->setAccessibleName(tr("Kinds of step"));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    left->addWidget(line_);
    left->addWidget(list_, 1);
    auto* column = new QWidget;
    column->setLayout(left);
    column->setFixedWidth(list_width);
    row->addWidget(column);
    browser_ = new QTextBrowser;
    browser_->setObjectName("reference-page");
    browser_->setFrameShape(QFrame::NoFrame);
    browser_->setOpenLinks(false);
    browser_->setAccessibleName(tr("Page of the step"));
    row->addWidget(browser_, 1);
    connect(line_, &QLineEdit::textEdited, this, &ReferenceWindow::fill);
    connect(browser_, &QTextBrowser::anchorClicked, this, &ReferenceWindow::follow);
    connect(list_, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item) show_page(text_of(item->data(key_role).toString()));
    });
    begin_in_size(*this, {980, 720});
    fill();
}

void ReferenceWindow::add_caption(const QString& text) {
    auto* item = new QListWidgetItem(text, list_);
    item->setFlags(Qt::NoItemFlags);
    item->setFont(text_font(12, QFont::Medium));
    item->setSizeHint({0, caption_height});
    item->setTextAlignment(Qt::AlignLeft | Qt::AlignBottom);
}

void ReferenceWindow::add_row(const QString& text, const std::string& key) {
    auto* item = new QListWidgetItem(text, list_);
    item->setData(key_role, text_of(key));
    item->setSizeHint({0, row_height});
}

void ReferenceWindow::add_kind(const StepKind& kind) {
    add_row(text_of(kind.verb), kind.key);
}

void ReferenceWindow::fill() {
    const QSignalBlocker quiet(list_);
    list_->clear();
    if (const QString typed = line_->text().trimmed(); !typed.isEmpty()) {
        const Study nothing;
        for (const Page page : {Page::sheet, Page::hand_off})
            for (const StepOffer& offer :
                 step_offers({.study = nothing, .catalogue = catalogue_, .page = page}, text_of(typed)))
                add_kind(*offer.kind);
        if (list_->count() > 0) {
            list_->setCurrentRow(0);
            show_page(text_of(list_->item(0)->data(key_role).toString()));
        } else {
            add_caption(tr("No step is called that."));
        }
        return;
    }
    add_row(tr("Words of the trade"), words_page);
    for (const Subject& subject : subjects()) {
        add_caption(text_of(subject.title));
        for (const StepKind& kind : catalogue_.kinds())
            if (&subject_of(kind) == &subject) add_kind(kind);
    }
    choose_row_of_page();
}

void ReferenceWindow::choose_row_of_page() {
    const QSignalBlocker quiet(list_);
    for (int row = 0; row < list_->count(); ++row)
        if (text_of(list_->item(row)->data(key_role).toString()) == kind_ && !kind_.empty()) {
            list_->setCurrentRow(row);
            list_->scrollToItem(list_->item(row), QAbstractItemView::EnsureVisible);
            return;
        }
    list_->setCurrentItem(nullptr);
}

void ReferenceWindow::show_page(const std::string& kind) {
    kind_ = catalogue_.find(kind) || kind == words_page ? kind : std::string();
    choose_row_of_page();
    write_page();
}

std::string ReferenceWindow::text_of_page() const {
    const ReferenceLinks links = links_in_window();
    if (kind_ == words_page) return words_text(catalogue_, links);
    if (const StepKind* found = catalogue_.find(kind_))
        return page_text(reference_page(*found, catalogue_), links);
    return contents_text(catalogue_, {.page = links.page, .word = links.word});
}

QString ReferenceWindow::title_of_page() const {
    if (kind_ == words_page) return tr("Words of the trade");
    const StepKind* found = catalogue_.find(kind_);
    return found ? text_of(found->verb) : QString();
}

void ReferenceWindow::write_page() {
    browser_->document()->setDefaultFont(text_font(13));
    browser_->document()->setDocumentMargin(24);
    browser_->document()->setDefaultStyleSheet(QString("a { color: %1; }").arg(look().accent.name()));
    browser_->document()->setMarkdown(text_of(text_of_page()));
    dress_page(*browser_->document());
    browser_->moveCursor(QTextCursor::Start);
    browser_->ensureCursorVisible();
    const QString title = title_of_page();
    setWindowTitle(title.isEmpty() ? tr("Steps") : tr("%1 – Steps").arg(title));
}

void ReferenceWindow::show_word(const QString& word) {
    show_page(words_page);
    for (QTextBlock block = browser_->document()->begin(); block.isValid(); block = block.next()) {
        if (block.blockFormat().headingLevel() == 0 || block.text() != word) continue;
        const int top = qRound(browser_->document()->documentLayout()->blockBoundingRect(block).top());
        browser_->verticalScrollBar()->setValue(top);
        browser_->setTextCursor(QTextCursor(block));
        return;
    }
}

void ReferenceWindow::follow(const QUrl& link) {
    const std::string kind = text_of(link.path());
    if (link.scheme() == example_scheme) return Q_EMIT example_wanted(kind);
    line_->clear();
    fill();
    if (link.scheme() == word_scheme) return show_word(link.path());
    show_page(kind);
}

bool ReferenceWindow::eventFilter(QObject* watched, QEvent* event) {
    if (watched == line_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Down || key == Qt::Key_Up || key == Qt::Key_Return) {
            list_->setFocus(Qt::OtherFocusReason);
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

void ReferenceWindow::changeEvent(QEvent* event) {
    QDialog::changeEvent(event);
    // Another look.
    if (event->type() == QEvent::StyleChange && browser_) write_page();
}

}  // namespace plume::app
