#pragma once
// A text that a step holds, below its sentence: colours, completion, help about the word under the cursor,
// errors in place. Numbers are dragged sideways, Alt+Up and Alt+Down step them. The study's history is its
// undo.

#include <QPlainTextEdit>
#include <QTextBlock>

#include "app/code/completion_list.hpp"
#include "app/document/document.hpp"
#include "app/parts/scrubbing.hpp"
#include "core/formula/spans.hpp"

class QSyntaxHighlighter;

namespace plume::app {

class CodeEditor : public QPlainTextEdit {
    Q_OBJECT

public:
    CodeEditor(Document& document, ItemId step, QWidget* parent);
    // Takes the text from the study.
    virtual void refresh();
    void go_to_error();
    virtual QString hint() const = 0;  // about what the cursor stands on
    QSize minimumSizeHint() const override { return sizeHint(); }

Q_SIGNALS:
    void laid_out();
    void hint_changed();
    void leave_wanted();

protected:
    struct Literal {
        std::size_t begin = 0;
        std::string text;
    };
    // What the study has, and a change of it. Changes of one stroke are one entry of the history.
    virtual std::string kept_text() const = 0;
    virtual void keep_text(const std::string& text, const std::string& stroke, const QString& label) = 0;
    virtual QString what_it_is() const = 0;  // "formula", in entries of the history
    virtual std::vector<TextSpan> spans(const std::string& text) const = 0;
    virtual std::vector<Completion> completions() const = 0;
    virtual bool completes_here(const QString& line_before) const = 0;
    virtual std::optional<Error> error_in_text() const = 0;
    using AddMark = std::function<void(std::size_t begin, std::size_t end, const QTextCharFormat& format)>;
    virtual void add_marks(const AddMark& /*add*/) const {}
    // A key of its own; true when it was one.
    virtual bool takes_key(const QKeyEvent& /*event*/) { return false; }
    virtual void typed();
    // What was typed goes to the study, where that does not happen at once.
    virtual void settle() {}

    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;

    Document& study_document() const { return document_; }
    ItemId step() const { return step_; }
    void mark();
    void complete(bool asked);
    std::string stroke_here() const;
    std::size_t cursor_byte() const;
    QString word_at_cursor() const;  // what stands on both sides of it
    std::optional<Literal> literal_at_position(int position) const;
    std::optional<Literal> literal_under(const QPoint& at) const;
    // Makes the selected lines comments, or what they were before.
    void toggle_comment(const QString& mark);
    static int indent_of(const QString& line);  // blanks that it begins with
    // The height of so many rows of text.
    int height_of(double rows) const;
    double rows_laid_out() const;
    // Painted anew where the theme changes.
    void use_colours(QSyntaxHighlighter* colours) { colours_ = colours; }

private:
    void take_completion();
    QString word_before_cursor() const;
    void replace_literal(const std::string& text);
    void step_literal(int direction, ScrubPace pace);
    bool completion_key(const QKeyEvent& event);

    Document& document_;
    ItemId step_;
    CompletionList* completions_;
    QSyntaxHighlighter* colours_ = nullptr;
    Scrubbing scrubbing_;
    std::optional<Literal> scrubbed_;
    std::string text_before_;  // of a scrub
    bool setting_ = false;
};

}  // namespace plume::app
