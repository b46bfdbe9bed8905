#include "app/script/script_editor.hpp"

#include <QPainter>
#include <QScrollBar>

#include "app/code/text_places.hpp"
#include "app/script/script_colours.hpp"
#include "app/theme/look.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

constexpr int pause_ms = 400, least_lines = 6, most_lines = 22, indent = 2;

class LineNumbers : public QWidget {
public:
    explicit LineNumbers(ScriptEditor& editor) : QWidget(&editor), editor_(editor) {
        setObjectName("script-lines");
    }

protected:
    void paintEvent(QPaintEvent* event) override { editor_.paint_numbers(*event); }

private:
    ScriptEditor& editor_;
};

// Whether what follows the line stands within what it begins.
bool opens_a_block(const std::string& line) {
    int state = 0, depth = 0;
    for (const TextSpan& span : script_spans(line, state)) {
        const std::string_view word = std::string_view(line).substr(span.begin, span.end - span.begin);
        if (span.type == SpanType::keyword) {
            if (word == "then" || word == "do" || word == "function" || word == "repeat" || word == "else")
                ++depth;
            if (word == "end" || word == "until") --depth;
        }
        if (span.type == SpanType::sign && (word == "{" || word == "(")) ++depth;
        if (span.type == SpanType::sign && (word == "}" || word == ")")) --depth;
    }
    return depth > 0;
}

bool closes_a_block(const QString& line) {
    const QString word = line.trimmed();
    return word == "end" || word == "else" || word == "}" || word.startsWith("elseif ") ||
           word.startsWith("until ");
}

}  // namespace

ScriptEditor::ScriptEditor(Document& document, ItemId step, std::string slot, QWidget* parent)
    : CodeEditor(document, step, parent),
      slot_(std::move(slot)),
      colours_(new ScriptColours(this->QPlainTextEdit::document())),
      numbers_(new LineNumbers(*this)) {
    setObjectName("script");
    setAccessibleName(tr("Script"));
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    use_colours(colours_);
    pause_.setSingleShot(true);
    pause_.setInterval(pause_ms);
    connect(&pause_, &QTimer::timeout, this, &ScriptEditor::run_now);
    connect(this, &QPlainTextEdit::blockCountChanged, this, &ScriptEditor::place_numbers);
    connect(this, &QPlainTextEdit::updateRequest, this, [this](const QRect& area, int by) {
        if (by != 0)
            numbers_->scroll(0, by);
        else
            numbers_->update(0, area.y(), numbers_->width(), area.height());
    });
    refresh();
    place_numbers();
}

const Step* ScriptEditor::held() const {
    return study_document().study().step(step());
}

std::string ScriptEditor::kept_text() const {
    const SlotSpec* slot = held() ? study_document().kind_of(*held())->slot(slot_) : nullptr;
    if (!slot) return {};
    const SlotValue value = slot_value(*slot, *held());
    return std::get<Lines>(value).text;
}

void ScriptEditor::keep_text(const std::string& text, const std::string& stroke, const QString& label) {
    if (held())
        study_document().apply(set_slot(study_document().study(), step(), slot_, Lines{text}), label, stroke);
}

// What is being typed is not taken back while something else is computed.
void ScriptEditor::refresh() {
    if (!pause_.isActive()) CodeEditor::refresh();
}

void ScriptEditor::take_notes() {
    std::set<std::string, std::less<>> inputs;
    if (const auto head = read_script_head(text_of(toPlainText())))
        for (const ScriptInput& input : head->inputs)
            inputs.insert(input.name);
    colours_->take_inputs(std::move(inputs));
    mark();
    Q_EMIT hint_changed();
}

// Running ---------------------------------------------------------------------------------------------------

void ScriptEditor::typed() {
    stroke_ = stroke_here();
    pause_.start();
    updateGeometry();
    Q_EMIT laid_out();
    complete(false);
}

void ScriptEditor::run_now() {
    pause_.stop();
    const std::string text = text_of(toPlainText());
    if (text != kept_text()) keep_text(text, stroke_, tr("change of the script"));
}

std::optional<Error> ScriptEditor::error_in_text() const {
    const Shown* shown = study_document().results().shown(step());
    // Places in what is still being typed would be others.
    if (!shown || !shown->error || shown->error->slot != slot_ || pause_.isActive()) return {};
    return shown->error;
}

// Words -----------------------------------------------------------------------------------------------------

std::vector<Completion> ScriptEditor::completions() const {
    std::vector<Completion> all;
    for (const ScriptOffer& offer : script_offers(text_of(toPlainText()), cursor_byte()).offers)
        all.push_back({text_of(offer.name), text_of(offer.insert), text_of(offer.help)});
    return all;
}

QString ScriptEditor::hint() const {
    return text_of(script_help(text_of(toPlainText()), cursor_byte()));
}

// Keys ------------------------------------------------------------------------------------------------------

bool ScriptEditor::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const auto& key = *static_cast<QKeyEvent*>(event);
        // Whatever the window does with it is to see what was typed.
        if (key.modifiers() & Qt::ControlModifier) run_now();
        if (key.key() == Qt::Key_Return && key.modifiers() & Qt::ControlModifier) {
            event->accept();
            return true;
        }
    }
    return CodeEditor::event(event);
}

bool ScriptEditor::takes_key(const QKeyEvent& event) {
    const bool control = event.modifiers() & Qt::ControlModifier;
    switch (event.key()) {
        case Qt::Key_Return:
        case Qt::Key_Enter:
            if (control)
                run_now();
            else
                begin_line();
            return true;
        case Qt::Key_Tab:
            indent_lines(true);
            return true;
        case Qt::Key_M:
            if (control) toggle_comment("-- ");
            return control;
        case Qt::Key_Backtab:
            indent_lines(false);
            return true;
        default:
            return false;
    }
}

// Under the one before, further in where that opens something, and further out what closes it.
void ScriptEditor::begin_line() {
    QTextCursor cursor = textCursor();
    cursor.beginEditBlock();
    const QString line = cursor.block().text();
    const QString before = line.left(cursor.positionInBlock());
    int blanks = indent_of(line);
    const QTextBlock above = cursor.block().previous();
    if (closes_a_block(before) && above.isValid() && blanks >= indent &&
        indent_of(above.text()) + (opens_a_block(text_of(above.text())) ? indent : 0) == blanks) {
        QTextCursor out = cursor;
        out.movePosition(QTextCursor::StartOfBlock);
        out.movePosition(QTextCursor::Right, QTextCursor::KeepAnchor, indent);
        out.removeSelectedText();
        blanks -= indent;
    }
    const bool in = opens_a_block(text_of(before));
    cursor.insertText("\n" + QString(blanks + (in ? indent : 0), ' '));
    cursor.endEditBlock();
    setTextCursor(cursor);
}

void ScriptEditor::indent_lines(bool more) {
    QTextCursor cursor = textCursor();
    QTextBlock block = this->QPlainTextEdit::document()->findBlock(cursor.selectionStart());
    const QTextBlock last = this->QPlainTextEdit::document()->findBlock(cursor.selectionEnd());
    if (more && !cursor.hasSelection()) {
        cursor.insertText(QString(indent - cursor.positionInBlock() % indent, ' '));
        return;
    }
    cursor.beginEditBlock();
    for (; block.isValid(); block = block.next()) {
        QTextCursor at(block);
        if (more) {
            at.insertText(QString(indent, ' '));
        } else {
            at.movePosition(QTextCursor::Right, QTextCursor::KeepAnchor,
                            std::min(indent, indent_of(block.text())));
            at.removeSelectedText();
        }
        if (block == last) break;
    }
    cursor.endEditBlock();
}

// A text that is longer than its window is scrolled, the page otherwise.
void ScriptEditor::wheelEvent(QWheelEvent* event) {
    if (verticalScrollBar()->maximum() == 0 || !hasFocus()) return event->ignore();
    CodeEditor::wheelEvent(event);
}

// Lines -----------------------------------------------------------------------------------------------------

QSize ScriptEditor::sizeHint() const {
    return {200, height_of(std::clamp<double>(rows_laid_out(), least_lines, most_lines))};
}

void ScriptEditor::place_numbers() {
    const int digits = static_cast<int>(QString::number(std::max(10, blockCount())).size());
    const int width = fontMetrics().horizontalAdvance('0') * digits + 14;
    setViewportMargins(width, 0, 0, 0);
    numbers_->setGeometry(0, 0, width, height());
}

void ScriptEditor::resizeEvent(QResizeEvent* event) {
    CodeEditor::resizeEvent(event);
    place_numbers();
}

void ScriptEditor::paint_numbers(QPaintEvent& event) {
    QPainter painter(numbers_);
    painter.setFont(code_font(11));
    const std::optional<Error> error = error_in_text();
    const std::string text = text_of(toPlainText());
    const int wrong =
        error && error->end > error->begin
            ? this->QPlainTextEdit::document()->findBlock(position_of_byte(text, error->begin)).blockNumber()
            : -1;
    for (QTextBlock block = firstVisibleBlock(); block.isValid(); block = block.next()) {
        const QRectF row = blockBoundingGeometry(block).translated(contentOffset());
        if (row.top() > event.rect().bottom()) break;
        painter.setPen(block.blockNumber() == wrong ? look().attention : look().second_ink);
        // Beside the first of the rows that a long line takes.
        painter.drawText(QRectF(0, row.top(), numbers_->width() - 8, fontMetrics().lineSpacing()),
                         Qt::AlignRight | Qt::AlignVCenter, QString::number(block.blockNumber() + 1));
    }
}

}  // namespace plume::app
