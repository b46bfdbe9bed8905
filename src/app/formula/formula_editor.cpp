#include "app/formula/formula_editor.hpp"

#include <QAbstractTextDocumentLayout>
#include <QMenu>
#include <QPainter>

#include "app/formula/formula_colours.hpp"
#include "app/formula/text_places.hpp"
#include "app/parts/form_popup.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"
#include "core/formula/spans.hpp"

namespace plume::app {
namespace {

constexpr int least_lines = 2, padding = 4;

bool is_word(QChar c) {
    return c.isLetterOrNumber() || c == '_';
}

}  // namespace

FormulaEditor::FormulaEditor(Document& document, ItemId step, QWidget* parent)
    : QPlainTextEdit(parent), document_(document), step_(step), completions_(new CompletionList(this)) {
    setObjectName("formula");
    setAccessibleName(tr("Formula"));
    setFont(code_font(12));
    setUndoRedoEnabled(false);  // the study's history does that
    setTabChangesFocus(true);
    setFrameShape(QFrame::NoFrame);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setWordWrapMode(QTextOption::WrapAtWordBoundaryOrAnywhere);
    QSizePolicy policy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setSizePolicy(policy);
    this->QPlainTextEdit::document()->setDocumentMargin(padding);
    colours_ = new FormulaColours(this->QPlainTextEdit::document());
    viewport()->setMouseTracking(true);
    connect(this, &QPlainTextEdit::textChanged, this, &FormulaEditor::typed);
    connect(this, &QPlainTextEdit::cursorPositionChanged, this, [this] {
        mark();
        Q_EMIT hint_changed();
    });
    connect(completions_, &CompletionList::taken, this, &FormulaEditor::take_completion);
    scrubbing_.began = [this] { text_before_ = document_.formula(step_).text; };
    scrubbing_.moved = [this](double ticks, ScrubPace pace) {
        const SlotSpec any = quantity_slot("literal", "Number", "0");
        if (const auto text = scrubbed_text(any, scrubbed_->text, ticks, pace, document_.study().units))
            replace_literal(*text);
    };
    scrubbing_.ended = [this] { document_.end_stroke(); };
    scrubbing_.clicked = [] {};
    scrubbing_.stepped = [](int, ScrubPace) {};
    refresh();
}

void FormulaEditor::refresh() {
    const QString text = text_of(document_.formula(step_).text);
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

void FormulaEditor::take_notes() {
    names_ = completions_of(document_.results().insight(step_), text_of(toPlainText()));
    if (const FormulaInsight* insight = document_.results().insight(step_)) colours_->take_words(*insight);
    mark();
    Q_EMIT hint_changed();
}

void FormulaEditor::typed() {
    if (setting_) return;
    const std::string stroke =
        "formula " + std::to_string(step_) + " line " + std::to_string(textCursor().blockNumber());
    set_text(text_of(toPlainText()), stroke, tr("change of the formula"));
    updateGeometry();
    Q_EMIT laid_out();
    complete(false);
}

void FormulaEditor::set_text(const std::string& text, const std::string& stroke, const QString& label) {
    const Step* step = document_.study().step(step_);
    if (step)
        document_.apply(set_formula_text(document_.study(), *document_.kind_of(*step), step_, text), label,
                        stroke);
}

// Marks -----------------------------------------------------------------------------------------------------

void FormulaEditor::mark() {
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
    const FormulaInsight* insight = document_.results().insight(step_);
    if (insight)
        for (const TermInsight& term : insight->terms) {
            if (!term.muted_to) continue;
            QTextCharFormat muted;
            muted.setForeground(look().second_ink);
            muted.setFontStrikeOut(true);
            add(term.begin, term.end, muted);
        }
    const Shown* shown = document_.results().shown(step_);
    const std::optional<Error> error = insight && insight->error ? insight->error
                                       : shown                   ? shown->error
                                                                 : std::optional<Error>();
    if (error && error->end > error->begin) {
        QTextCharFormat wrong;
        wrong.setUnderlineStyle(QTextCharFormat::WaveUnderline);
        wrong.setUnderlineColor(look().attention);
        wrong.setBackground(look().dark ? QColor("#402A1E") : QColor("#FBE9DF"));
        add(error->begin, error->end, wrong);
    }
    if (hasFocus()) {
        const std::size_t at = byte_of_position(text, textCursor().position());
        QTextCharFormat bracket;
        bracket.setBackground(look().accent_soft);
        for (const std::size_t here : {at, at - 1}) {
            if (here >= bytes.size()) continue;
            const auto other = matching_bracket(bytes, here);
            if (!other) continue;
            add(here, here + 1, bracket);
            add(*other, *other + 1, bracket);
            break;
        }
    }
    setExtraSelections(marks);
}

QString FormulaEditor::hint() const {
    const QString text = toPlainText();
    int begin = textCursor().position(), end = begin;
    while (begin > 0 && is_word(text[begin - 1]))
        --begin;
    while (end < text.size() && is_word(text[end]))
        ++end;
    return begin == end ? QString() : help_for(names_, text.mid(begin, end - begin));
}

// Lines -----------------------------------------------------------------------------------------------------

QTextBlock FormulaEditor::block_of(const TermInsight& term) const {
    const QTextDocument& text = *this->QPlainTextEdit::document();
    const QTextBlock as_read = text.findBlock(position_of_byte(text_of(toPlainText()), term.begin));
    const auto gives = [&](const QTextBlock& block) {
        const std::string line = text_of(block.text());
        for (const TextSpan& span : formula_spans(line))
            if (span.type == SpanType::given_name)
                return line.substr(span.begin, span.end - span.begin) == term.name;
        return false;
    };
    if (term.name.empty() || gives(as_read)) return as_read;
    for (QTextBlock block = text.begin(); block.isValid(); block = block.next())
        if (gives(block)) return block;
    return as_read;
}

QRect FormulaEditor::line_rect(const TermInsight& term) const {
    return blockBoundingGeometry(block_of(term)).translated(contentOffset()).toAlignedRect();
}

QRect FormulaEditor::line_rect(std::size_t begin) const {
    const int at = position_of_byte(text_of(toPlainText()), begin);
    const QTextBlock block = this->QPlainTextEdit::document()->findBlock(at);
    return blockBoundingGeometry(block).translated(contentOffset()).toAlignedRect();
}

std::size_t FormulaEditor::line_at(int y) const {
    const QTextCursor cursor = cursorForPosition(QPoint(padding, y));
    return byte_of_position(toPlainText(), cursor.block().position());
}

QSize FormulaEditor::sizeHint() const {
    const auto lines = this->QPlainTextEdit::document()->documentLayout()->documentSize().height();
    const double rows = std::max<double>(least_lines, lines);
    return {200, static_cast<int>(std::ceil(rows * fontMetrics().lineSpacing())) + 2 * padding + 2};
}

void FormulaEditor::resizeEvent(QResizeEvent* event) {
    QPlainTextEdit::resizeEvent(event);
    updateGeometry();
    Q_EMIT laid_out();
}

std::string FormulaEditor::line_name_at_cursor() const {
    const FormulaInsight* insight = document_.results().insight(step_);
    if (!insight) return {};
    const std::size_t at = byte_of_position(toPlainText(), textCursor().position());
    for (const TermInsight& term : insight->terms)
        if (at >= term.begin && at <= term.end) return term.name;
    return {};
}

bool FormulaEditor::is_muted(const std::string& line) const {
    const std::vector<std::string> muted = document_.formula(step_).muted;
    return std::ranges::find(muted, line) != muted.end();
}

void FormulaEditor::toggle_muted(const std::string& line) {
    const Step* step = document_.study().step(step_);
    if (!step || line.empty()) return;
    const bool muted = is_muted(line);
    document_.apply(set_line_muted(document_.study(), *document_.kind_of(*step), step_, line, !muted),
                    muted ? tr("unmuting of a line") : tr("muting of a line"));
}

// Completion ------------------------------------------------------------------------------------------------

QString FormulaEditor::word_before_cursor() const {
    const QString line = textCursor().block().text().left(textCursor().positionInBlock());
    if (line.contains('#')) return {};
    auto begin = line.size();
    while (begin > 0 && is_word(line[begin - 1]))
        --begin;
    const QString word = line.mid(begin);
    return word.isEmpty() || word[0].isDigit() ? QString() : word;
}

void FormulaEditor::complete(bool asked) {
    const QString word = word_before_cursor();
    if (!hasFocus() || (word.isEmpty() && !asked)) return completions_->hide();
    names_ = completions_of(document_.results().insight(step_), text_of(toPlainText()));
    completions_->offer(names_, word, viewport()->mapToGlobal(cursorRect().bottomLeft() + QPoint(-8, 4)));
}

void FormulaEditor::take_completion() {
    const QString chosen = completions_->chosen(), word = word_before_cursor();
    completions_->hide();
    QTextCursor cursor = textCursor();
    cursor.movePosition(QTextCursor::Left, QTextCursor::KeepAnchor, static_cast<int>(word.size()));
    cursor.insertText(chosen);
    completions_->hide();
}

bool FormulaEditor::completion_key(const QKeyEvent& event) {
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

bool FormulaEditor::event(QEvent* event) {
    // Tab would leave the editor before it could choose from the list.
    if (event->type() == QEvent::KeyPress && completions_->isVisible()) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Tab && completion_key(*key)) return true;
    }
    return QPlainTextEdit::event(event);
}

void FormulaEditor::keyPressEvent(QKeyEvent* event) {
    if (completion_key(*event)) return;
    if (event->matches(QKeySequence::Undo)) return document_.undo();
    if (event->matches(QKeySequence::Redo)) return document_.redo();
    if (event->key() == Qt::Key_Escape) return Q_EMIT leave_wanted();
    if (event->key() == Qt::Key_Space && event->modifiers() == Qt::ControlModifier) return complete(true);
    if (event->key() == Qt::Key_M && event->modifiers() == Qt::ControlModifier) {
        toggle_muted(line_name_at_cursor());
        return;
    }
    const bool arrows = event->key() == Qt::Key_Up || event->key() == Qt::Key_Down;
    if (arrows && (event->modifiers() & Qt::AltModifier))
        return step_literal(event->key() == Qt::Key_Up ? 1 : -1, pace_of(event->modifiers()));
    QPlainTextEdit::keyPressEvent(event);
}

std::optional<FormulaEditor::Literal> FormulaEditor::literal_at_position(int position) const {
    const QString text = toPlainText();
    const std::string bytes = text_of(text);
    const auto found = literal_at(bytes, byte_of_position(text, position));
    if (!found) return {};
    return Literal{found->begin, bytes.substr(found->begin, found->end - found->begin)};
}

std::optional<FormulaEditor::Literal> FormulaEditor::literal_under(const QPoint& at) const {
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

void FormulaEditor::replace_literal(const std::string& text) {
    std::string now = text_before_;
    now.replace(scrubbed_->begin, scrubbed_->text.size(), text);
    set_text(now, "scrub of formula " + std::to_string(step_), tr("change of a number in the formula"));
}

void FormulaEditor::step_literal(int direction, ScrubPace pace) {
    const int at = textCursor().position();
    auto literal = literal_at_position(at);
    if (!literal && at > 0) literal = literal_at_position(at - 1);
    if (!literal) return;
    const SlotSpec any = quantity_slot("literal", "Number", "0");
    const auto text = stepped_text(any, literal->text, direction, pace, document_.study().units);
    if (!text) return;
    text_before_ = document_.formula(step_).text;
    scrubbed_ = literal;
    replace_literal(*text);
}

void FormulaEditor::mousePressEvent(QMouseEvent* event) {
    completions_->hide();
    scrubbed_ = event->button() == Qt::LeftButton ? literal_under(event->pos()) : std::nullopt;
    if (scrubbed_) scrubbing_.press(*event);
    QPlainTextEdit::mousePressEvent(event);
}

void FormulaEditor::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton && scrubbed_) return scrubbing_.move(*event);
    if (event->buttons() == Qt::NoButton) {
        viewport()->setCursor(literal_under(event->pos()) ? Qt::SizeHorCursor : Qt::IBeamCursor);
        Q_EMIT line_hovered(line_at(event->pos().y()));
    }
    QPlainTextEdit::mouseMoveEvent(event);
}

void FormulaEditor::mouseReleaseEvent(QMouseEvent* event) {
    if (scrubbed_) scrubbing_.release(*event);
    scrubbed_.reset();
    QPlainTextEdit::mouseReleaseEvent(event);
}

void FormulaEditor::leaveEvent(QEvent* event) {
    Q_EMIT left();
    QPlainTextEdit::leaveEvent(event);
}

void FormulaEditor::focusOutEvent(QFocusEvent* event) {
    QPlainTextEdit::focusOutEvent(event);
    completions_->hide();
    document_.end_stroke();
    mark();
}

void FormulaEditor::changeEvent(QEvent* event) {
    QPlainTextEdit::changeEvent(event);
    if (event->type() != QEvent::PaletteChange) return;
    colours_->rehighlight();
    mark();
}

void FormulaEditor::contextMenuEvent(QContextMenuEvent* event) {
    const auto literal = event->reason() == QContextMenuEvent::Mouse
                             ? literal_under(event->pos())
                             : literal_at_position(textCursor().position());
    if (event->reason() == QContextMenuEvent::Mouse && !textCursor().hasSelection())
        setTextCursor(cursorForPosition(event->pos()));
    QMenu& menu = *new_popup_menu(this);
    if (literal)
        menu.addAction(tr("Make %1 a &control…").arg(text_of(literal->text)), this,
                       [this, literal] { make_control(*literal); });
    if (const std::string name = line_name_at_cursor(); !name.empty()) {
        menu.addAction(is_muted(name) ? tr("Un&mute %1\tCtrl+M").arg(text_of(name))
                                      : tr("&Mute %1\tCtrl+M").arg(text_of(name)),
                       this, [this, name] { toggle_muted(name); });
    }
    menu.addSeparator();
    menu.addAction(tr("Cu&t"), this, &QPlainTextEdit::cut)->setEnabled(textCursor().hasSelection());
    menu.addAction(tr("C&opy"), this, &QPlainTextEdit::copy)->setEnabled(textCursor().hasSelection());
    menu.addAction(tr("&Paste"), this, &QPlainTextEdit::paste)->setEnabled(canPaste());
    menu.popup(event->globalPos());
}

void FormulaEditor::make_control(const Literal& literal) {
    auto* form = new FormPopup(this, tr("A control for %1").arg(text_of(literal.text)));
    QLineEdit* name = form->add_line(tr("Name"), text_of(free_name(document_.study(), "amount")));
    form->open(tr("Make control"), [this, literal, name]() -> QString {
        const Step* step = document_.study().step(step_);
        if (!step) return {};
        const Edited edited =
            promote_literal(document_.study(), *document_.kind_of(*step), step_, literal.begin,
                            literal.begin + literal.text.size(), text_of(name->text()));
        if (!edited) return text_of(sentence(edited.error()));
        document_.apply(edited, tr("new control %1").arg(name->text()));
        return {};
    });
}

}  // namespace plume::app
