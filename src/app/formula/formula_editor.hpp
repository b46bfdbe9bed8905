#pragma once
// The text of a formula. Every change goes to the study at once, a line's changes as one stroke of its
// history. Numbers are dragged sideways, Alt+Up and Alt+Down step them.

#include <QPlainTextEdit>
#include <QTextBlock>

#include "app/document/document.hpp"
#include "app/formula/completion_list.hpp"
#include "app/parts/scrubbing.hpp"

namespace plume::app {

class FormulaColours;

class FormulaEditor : public QPlainTextEdit {
    Q_OBJECT

public:
    FormulaEditor(Document& document, ItemId step, QWidget* parent);
    // Takes the text from the study.
    void refresh();
    // Takes errors, muted lines and names to complete from the document.
    void take_notes();
    // Where the line of a term stands in this widget; the text may have changed since it was read.
    QRect line_rect(const TermInsight& term) const;
    // The same of the line in which a byte of the text stands.
    QRect line_rect(std::size_t begin) const;
    // First byte of the line at a height of this widget.
    std::size_t line_at(int y) const;
    bool is_muted(const std::string& line) const;
    void toggle_muted(const std::string& line);
    QString hint() const;  // about what the cursor stands on
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

Q_SIGNALS:
    void laid_out();
    void hint_changed();
    void line_hovered(std::size_t begin);
    void left();
    void leave_wanted();

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }

private:
    struct Literal {
        std::size_t begin = 0;
        std::string text;
    };
    void typed();
    QTextBlock block_of(const TermInsight& term) const;
    void set_text(const std::string& text, const std::string& stroke, const QString& label);
    void mark();
    void complete(bool asked);
    void take_completion();
    QString word_before_cursor() const;
    std::optional<Literal> literal_at_position(int position) const;
    std::optional<Literal> literal_under(const QPoint& at) const;
    void replace_literal(const std::string& text);
    void step_literal(int direction, ScrubPace pace);
    void make_control(const Literal& literal);
    std::string line_name_at_cursor() const;
    bool completion_key(const QKeyEvent& event);

    Document& document_;
    ItemId step_;
    CompletionList* completions_;
    FormulaColours* colours_ = nullptr;
    std::vector<Completion> names_;
    Scrubbing scrubbing_;
    std::optional<Literal> scrubbed_;
    std::string text_before_;  // of a scrub
    bool setting_ = false;
};

}  // namespace plume::app
