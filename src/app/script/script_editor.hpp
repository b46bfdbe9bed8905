#pragma once
// The text of a script. What is typed goes to the study, and runs, at the next pause, or at once with
// Ctrl+Return; numbers that are dragged at once. Lines are numbered, since errors name them.

#include <QTimer>

#include "app/code/code_editor.hpp"
#include "core/script/script_spans.hpp"
#include "core/script/script_words.hpp"

namespace plume::app {

class ScriptColours;

class ScriptEditor : public CodeEditor {
    Q_OBJECT

public:
    // slot: which of the step's it is.
    ScriptEditor(Document& document, ItemId step, std::string slot, QWidget* parent);
    void refresh() override;
    void take_notes();
    // What was typed since the last pause.
    void run_now();
    QString hint() const override;
    QSize sizeHint() const override;
    void paint_numbers(QPaintEvent& event);

protected:
    std::string kept_text() const override;
    void keep_text(const std::string& text, const std::string& stroke, const QString& label) override;
    QString what_it_is() const override { return tr("script"); }
    std::vector<TextSpan> spans(const std::string& text) const override { return script_spans(text); }
    std::vector<Completion> completions() const override;
    bool completes_here(const QString& /*line_before*/) const override { return true; }
    std::optional<Error> error_in_text() const override;
    bool takes_key(const QKeyEvent& event) override;
    void typed() override;
    void settle() override { run_now(); }
    bool event(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;

private:
    void begin_line();
    void indent_lines(bool more);
    void place_numbers();
    const Step* held() const;

    std::string slot_;
    ScriptColours* colours_;
    QWidget* numbers_;
    QTimer pause_;
    std::string stroke_;  // of what was typed last
};

}  // namespace plume::app
