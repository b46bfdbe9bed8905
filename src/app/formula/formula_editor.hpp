#pragma once
// The text of a formula, or of rules. Every change goes to the study at once, a line's changes as one stroke
// of its history. It is as high as its text.

#include "app/code/code_editor.hpp"

namespace plume::app {

class FormulaColours;

class FormulaEditor : public CodeEditor {
    Q_OBJECT

public:
    FormulaEditor(Document& document, ItemId step, QWidget* parent);
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
    QString hint() const override;
    QSize sizeHint() const override;

Q_SIGNALS:
    void line_hovered(std::size_t begin);
    void left();

protected:
    std::string kept_text() const override;
    void keep_text(const std::string& text, const std::string& stroke, const QString& label) override;
    QString what_it_is() const override { return tr("formula"); }
    std::vector<TextSpan> spans(const std::string& text) const override { return formula_spans(text); }
    std::vector<Completion> completions() const override;
    bool completes_here(const QString& line_before) const override { return !line_before.contains('#'); }
    std::optional<Error> error_in_text() const override;
    void add_marks(const AddMark& add) const override;
    bool takes_key(const QKeyEvent& event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void wheelEvent(QWheelEvent* event) override { event->ignore(); }

private:
    QTextBlock block_of(const TermInsight& term) const;
    void make_control(const Literal& literal);
    std::string line_name_at_cursor() const;
    const FormulaInsight* insight() const;
    bool has_rules() const;

    FormulaColours* colours_ = nullptr;
    std::vector<Completion> names_;
};

}  // namespace plume::app
