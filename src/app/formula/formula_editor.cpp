#include "app/formula/formula_editor.hpp"

#include <QMenu>

#include "app/code/text_places.hpp"
#include "app/formula/formula_colours.hpp"
#include "app/formula/formula_completions.hpp"
#include "app/parts/form_popup.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"

namespace plume::app {
namespace {

constexpr int least_lines = 2;

}  // namespace

FormulaEditor::FormulaEditor(Document& document, ItemId step, QWidget* parent)
    : CodeEditor(document, step, parent) {
    setObjectName("formula");
    setAccessibleName(tr("Formula"));
    setTabChangesFocus(true);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    colours_ = new FormulaColours(this->QPlainTextEdit::document());
    use_colours(colours_);
    refresh();
}

const FormulaInsight* FormulaEditor::insight() const {
    return study_document().results().insight(step());
}

std::string FormulaEditor::kept_text() const {
    return study_document().formula(step()).text;
}

void FormulaEditor::keep_text(const std::string& text, const std::string& stroke, const QString& label) {
    Document& document = study_document();
    const Step* held = document.study().step(step());
    if (held)
        document.apply(set_formula_text(document.study(), *document.kind_of(*held), step(), text), label,
                       stroke);
}

std::vector<Completion> FormulaEditor::completions() const {
    return completions_of(insight(), text_of(toPlainText()));
}

void FormulaEditor::take_notes() {
    names_ = completions();
    if (insight()) colours_->take_words(*insight());
    mark();
    Q_EMIT hint_changed();
}

// Marks -----------------------------------------------------------------------------------------------------

void FormulaEditor::add_marks(const AddMark& add) const {
    if (!insight()) return;
    for (const TermInsight& term : insight()->terms) {
        if (!term.muted_to) continue;
        QTextCharFormat muted;
        muted.setForeground(look().second_ink);
        muted.setFontStrikeOut(true);
        add(term.begin, term.end, muted);
    }
}

std::optional<Error> FormulaEditor::error_in_text() const {
    if (insight() && insight()->error) return insight()->error;
    const Shown* shown = study_document().results().shown(step());
    return shown ? shown->error : std::nullopt;
}

QString FormulaEditor::hint() const {
    const QString word = word_at_cursor();
    return word.isEmpty() ? QString() : help_for(names_, word);
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
    const QTextCursor cursor = cursorForPosition(QPoint(0, y));
    return byte_of_position(toPlainText(), cursor.block().position());
}

QSize FormulaEditor::sizeHint() const {
    return {200, height_of(std::max<double>(least_lines, rows_laid_out()))};
}

std::string FormulaEditor::line_name_at_cursor() const {
    if (!insight()) return {};
    const std::size_t at = cursor_byte();
    for (const TermInsight& term : insight()->terms)
        if (at >= term.begin && at <= term.end) return term.name;
    return {};
}

bool FormulaEditor::is_muted(const std::string& line) const {
    const std::vector<std::string> muted = study_document().formula(step()).muted;
    return std::ranges::find(muted, line) != muted.end();
}

void FormulaEditor::toggle_muted(const std::string& line) {
    const Step* held = study_document().study().step(step());
    if (!held || line.empty()) return;
    const bool muted = is_muted(line);
    study_document().apply(
        set_line_muted(study_document().study(), *study_document().kind_of(*held), step(), line, !muted),
        muted ? tr("unmuting of a line") : tr("muting of a line"));
}

// Keys and mouse --------------------------------------------------------------------------------------------

bool FormulaEditor::takes_key(const QKeyEvent& event) {
    if (event.key() != Qt::Key_M || event.modifiers() != Qt::ControlModifier) return false;
    // Lines of rules have no names: muted they are comments.
    if (has_rules())
        toggle_comment("# ");
    else
        toggle_muted(line_name_at_cursor());
    return true;
}

bool FormulaEditor::has_rules() const {
    return insight() && !insight()->words.empty();
}

void FormulaEditor::mouseMoveEvent(QMouseEvent* event) {
    CodeEditor::mouseMoveEvent(event);
    if (event->buttons() == Qt::NoButton) Q_EMIT line_hovered(line_at(event->pos().y()));
}

void FormulaEditor::leaveEvent(QEvent* event) {
    Q_EMIT left();
    CodeEditor::leaveEvent(event);
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
    if (has_rules())
        menu.addAction(tr("&Mute the line, or no longer\tCtrl+M"), this, [this] { toggle_comment("# "); });
    if (const std::string name = line_name_at_cursor(); !name.empty() && !has_rules()) {
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
    QLineEdit* name = form->add_line(tr("Name"), text_of(free_name(study_document().study(), "amount")));
    form->open(tr("Make control"), [this, literal, name]() -> QString {
        const Step* held = study_document().study().step(step());
        if (!held) return {};
        const Edited edited =
            promote_literal(study_document().study(), *study_document().kind_of(*held), step(), literal.begin,
                            literal.begin + literal.text.size(), text_of(name->text()));
        if (!edited) return text_of(sentence(edited.error()));
        study_document().apply(edited, tr("new control %1").arg(name->text()));
        return {};
    });
}

}  // namespace plume::app
