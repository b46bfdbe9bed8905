#include "app/code/code_editor.hpp"

#include <QAbstractTextDocumentLayout>
#include <QSyntaxHighlighter>

#include "app/code/text_places.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

constexpr int padding = 4;

bool is_word(QChar c) {
    return c.isLetterOrNumber() || c == '_';
}

}  // namespace

CodeEditor::CodeEditor(Document& document, ItemId step, QWidget* parent)
    : QPlainTextEdit(parent), document_(document), step_(step), completions_(new CompletionList(this)) {
    setFont(code_font(12));
    setUndoRedoEnabled(false);  // the study's history does that
    setFrameShape(QFrame::NoFrame);
    setWordWrapMode(QTextOption::WrapAtWordBoundaryOrAnywhere);
    setSizePolicy(QSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed));
    this->QPlainTextEdit::document()->setDocumentMargin(padding);
    viewport()->setMouseTracking(true);
    connect(this, &QPlainTextEdit::textChanged, this, [this] {
        if (!setting_) typed();
    });
    connect(this, &QPlainTextEdit::cursorPositionChanged, this, [this] {
        mark();
        Q_EMIT hint_changed();
    });
    connect(completions_, &CompletionList::taken, this, &CodeEditor::take_completion);
    scrubbing_.began = [this] { text_before_ = kept_text(); };
    scrubbing_.moved = [this](double ticks, ScrubPace pace) {
        const SlotSpec any = quantity_slot("literal", "Number", "0");
        if (const auto text = scrubbed_text(any, scrubbed_->text, ticks, pace, document_.study().units))
            replace_literal(*text);
    };
    scrubbing_.ended = [this] { document_.end_stroke(); };
    scrubbing_.clicked = [] {};
    scrubbing_.stepped = [](int, ScrubPace) {};
}

void CodeEditor::refresh() {
    const QString text = text_of(kept_text());
    if (text != toPlainText()) {
        setting_ = true;
        const int at = textCursor().position();
        setPlainText(text);
        QTextCursor cursor = textCursor();
        cursor.setPosition(std::min(at, static_cast<int>(text.size())));
        setTextCursor(cursor);
        setting_ = false;
        updateGeometry();
        Q_EMIT laid_out();
    }
    mark();
}

std::string CodeEditor::stroke_here() const {
    return text_of(what_it_is()) + " " + std::to_string(step_) + " line " +
           std::to_string(textCursor().blockNumber());
}

void CodeEditor::typed() {
    keep_text(text_of(toPlainText()), stroke_here(), tr("change of the %1").arg(what_it_is()));
    updateGeometry();
    Q_EMIT laid_out();
    complete(false);
}

// Marks -----------------------------------------------------------------------------------------------------

void CodeEditor::mark() {
    QList<QTextEdit::ExtraSelection> marks;
    const QString text = toPlainText();
    const std::string bytes = text_of(text);
    const auto add = [&](std::size_t begin, std::size_t end, const QTextCharFormat& format) {
        QTextEdit::ExtraSelection mark;
        mark.cursor = textCursor();
        mark.cursor.setPosition(std::min(position_of_byte(bytes, begin), static_cast<int>(text.size())));
        mark.cursor.setPosition(std::min(position_of_byte(bytes, end), static_cast<int>(text.size())),
                                QTextCursor::KeepAnchor);
        mark.format = format;
        marks << mark;
    };
    add_marks(add);
    if (const std::optional<Error> error = error_in_text(); error && error->end > error->begin) {
        QTextCharFormat wrong;
        wrong.setUnderlineStyle(QTextCharFormat::WaveUnderline);
        wrong.setUnderlineColor(look().attention);
        wrong.setBackground(look().dark ? QColor("#402A1E") : QColor("#FBE9DF"));
        add(error->begin, error->end, wrong);
    }
    if (hasFocus()) {
        const std::size_t at = cursor_byte();
        const std::vector<TextSpan> words = spans(bytes);
        QTextCharFormat bracket;
        bracket.setBackground(look().accent_soft);
        for (const std::size_t here : {at, at - 1}) {
            if (here >= bytes.size()) continue;
            const auto other = matching_bracket(bytes, words, here);
            if (!other) continue;
            add(here, here + 1, bracket);
            add(*other, *other + 1, bracket);
            break;
        }
    }
    setExtraSelections(marks);
}

void CodeEditor::go_to_error() {
    setFocus(Qt::OtherFocusReason);
    const std::optional<Error> error = error_in_text();
    if (!error) return;
    QTextCursor cursor = textCursor();
    cursor.setPosition(position_of_byte(text_of(toPlainText()), error->end));
    setTextCursor(cursor);
}

std::size_t CodeEditor::cursor_byte() const {
    return byte_of_position(toPlainText(), textCursor().position());
}

QString CodeEditor::word_at_cursor() const {
    const QString text = toPlainText();
    int begin = textCursor().position(), end = begin;
    while (begin > 0 && is_word(text[begin - 1]))
        --begin;
    while (end < text.size() && is_word(text[end]))
        ++end;
    return text.mid(begin, end - begin);
}

double CodeEditor::rows_laid_out() const {
    return this->QPlainTextEdit::document()->documentLayout()->documentSize().height();
}

int CodeEditor::height_of(double rows) const {
    return static_cast<int>(std::ceil(rows * fontMetrics().lineSpacing())) + 2 * padding + 2;
}

void CodeEditor::resizeEvent(QResizeEvent* event) {
    QPlainTextEdit::resizeEvent(event);
    updateGeometry();
    Q_EMIT laid_out();
}

// Completion ------------------------------------------------------------------------------------------------

QString CodeEditor::word_before_cursor() const {
    const QString line = textCursor().block().text().left(textCursor().positionInBlock());
    if (!completes_here(line)) return {};
    auto begin = line.size();
    while (begin > 0 && is_word(line[begin - 1]))
        --begin;
    const QString word = line.mid(begin);
    return word.isEmpty() || word[0].isDigit() ? QString() : word;
}

void CodeEditor::complete(bool asked) {
    const QString word = word_before_cursor();
    if (!hasFocus() || (word.isEmpty() && !asked)) return completions_->hide();
    completions_->offer(completions(), word,
                        viewport()->mapToGlobal(cursorRect().bottomLeft() + QPoint(-8, 4)));
}

void CodeEditor::take_completion() {
    const QString chosen = completions_->chosen(), word = word_before_cursor();
    completions_->hide();
    QTextCursor cursor = textCursor();
    cursor.movePosition(QTextCursor::Left, QTextCursor::KeepAnchor, static_cast<int>(word.size()));
    cursor.insertText(chosen);
    completions_->hide();
}

bool CodeEditor::completion_key(const QKeyEvent& event) {
    if (!completions_->isVisible()) return false;
    switch (event.key()) {
        case Qt::Key_Up:
        case Qt::Key_Down:
            completions_->step(event.key() == Qt::Key_Up ? -1 : 1);
            return true;
        case Qt::Key_Tab:
        case Qt::Key_Return:
        case Qt::Key_Enter:
            take_completion();
            return true;
        case Qt::Key_Escape:
            completions_->hide();
            return true;
        default:
            return false;
    }
}

// Keys and mouse --------------------------------------------------------------------------------------------

bool CodeEditor::event(QEvent* event) {
    // Tab would leave the editor before it could choose from the list.
    if (event->type() == QEvent::KeyPress && completions_->isVisible()) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Tab && completion_key(*key)) return true;
    }
    return QPlainTextEdit::event(event);
}

void CodeEditor::keyPressEvent(QKeyEvent* event) {
    if (completion_key(*event) || takes_key(*event)) return;
    if (event->matches(QKeySequence::Undo)) return document_.undo();
    if (event->matches(QKeySequence::Redo)) return document_.redo();
    if (event->key() == Qt::Key_Escape) return Q_EMIT leave_wanted();
    if (event->key() == Qt::Key_Space && event->modifiers() == Qt::ControlModifier) return complete(true);
    const bool arrows = event->key() == Qt::Key_Up || event->key() == Qt::Key_Down;
    if (arrows && (event->modifiers() & Qt::AltModifier))
        return step_literal(event->key() == Qt::Key_Up ? 1 : -1, pace_of(event->modifiers()));
    QPlainTextEdit::keyPressEvent(event);
}

int CodeEditor::indent_of(const QString& line) {
    int blanks = 0;
    while (blanks < line.size() && line[blanks] == ' ')
        ++blanks;
    return blanks;
}

void CodeEditor::toggle_comment(const QString& mark) {
    QTextCursor cursor = textCursor();
    const QTextDocument& text = *this->QPlainTextEdit::document();
    const int first = text.findBlock(cursor.selectionStart()).blockNumber(),
              last = text.findBlock(cursor.selectionEnd()).blockNumber();
    bool all = true;
    for (int line = first; line <= last; ++line)
        all = all && text.findBlockByNumber(line).text().trimmed().startsWith(mark.trimmed());
    cursor.beginEditBlock();
    for (int line = first; line <= last; ++line) {
        const QTextBlock block = text.findBlockByNumber(line);
        QTextCursor at(block);
        const int blanks = indent_of(block.text());
        at.setPosition(block.position() + blanks);
        if (!all) {
            at.insertText(mark);
        } else {
            const bool whole = block.text().mid(blanks).startsWith(mark);
            at.movePosition(QTextCursor::Right, QTextCursor::KeepAnchor,
                            static_cast<int>(whole ? mark.size() : mark.trimmed().size()));
            at.removeSelectedText();
        }
    }
    cursor.endEditBlock();
}

std::optional<CodeEditor::Literal> CodeEditor::literal_at_position(int position) const {
    const QString text = toPlainText();
    const std::string bytes = text_of(text);
    const auto found = literal_at(spans(bytes), byte_of_position(text, position));
    if (!found) return {};
    return Literal{found->begin, bytes.substr(found->begin, found->end - found->begin)};
}

std::optional<CodeEditor::Literal> CodeEditor::literal_under(const QPoint& at) const {
    const QTextCursor cursor = cursorForPosition(at);
    // The nearest place may be on either side of the number's letters.
    for (const int position : {cursor.position(), cursor.position() - 1}) {
        if (position < 0) continue;
        auto literal = literal_at_position(position);
        if (!literal) continue;
        const std::string bytes = text_of(toPlainText());
        QTextCursor begin = cursor, end = cursor;
        begin.setPosition(position_of_byte(bytes, literal->begin));
        end.setPosition(position_of_byte(bytes, literal->begin + literal->text.size()));
        const QRect from = cursorRect(begin), to = cursorRect(end);
        const bool one_row = from.top() == to.top();
        if (at.y() >= from.top() && at.y() <= to.bottom() &&
            (!one_row || (at.x() >= from.left() && at.x() <= to.left())))
            return literal;
    }
    return {};
}

void CodeEditor::replace_literal(const std::string& text) {
    std::string now = text_before_;
    now.replace(scrubbed_->begin, scrubbed_->text.size(), text);
    keep_text(now, "scrub of " + text_of(what_it_is()) + " " + std::to_string(step_),
              tr("change of a number in the %1").arg(what_it_is()));
}

void CodeEditor::step_literal(int direction, ScrubPace pace) {
    settle();
    const int at = textCursor().position();
    auto literal = literal_at_position(at);
    if (!literal && at > 0) literal = literal_at_position(at - 1);
    if (!literal) return;
    const SlotSpec any = quantity_slot("literal", "Number", "0");
    const auto text = stepped_text(any, literal->text, direction, pace, document_.study().units);
    if (!text) return;
    text_before_ = kept_text();
    scrubbed_ = literal;
    replace_literal(*text);
}

void CodeEditor::mousePressEvent(QMouseEvent* event) {
    completions_->hide();
    settle();
    scrubbed_ = event->button() == Qt::LeftButton ? literal_under(event->pos()) : std::nullopt;
    if (scrubbed_) scrubbing_.press(*event);
    QPlainTextEdit::mousePressEvent(event);
}

void CodeEditor::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton && scrubbed_) return scrubbing_.move(*event);
    if (event->buttons() == Qt::NoButton)
        viewport()->setCursor(literal_under(event->pos()) ? Qt::SizeHorCursor : Qt::IBeamCursor);
    QPlainTextEdit::mouseMoveEvent(event);
}

void CodeEditor::mouseReleaseEvent(QMouseEvent* event) {
    if (scrubbed_) scrubbing_.release(*event);
    scrubbed_.reset();
    QPlainTextEdit::mouseReleaseEvent(event);
}

void CodeEditor::focusOutEvent(QFocusEvent* event) {
    QPlainTextEdit::focusOutEvent(event);
    settle();
    completions_->hide();
    document_.end_stroke();
    mark();
}

void CodeEditor::changeEvent(QEvent* event) {
    QPlainTextEdit::changeEvent(event);
    if (event->type() != QEvent::PaletteChange || !colours_) return;
    colours_->rehighlight();
    mark();
}

}  // namespace plume::app
