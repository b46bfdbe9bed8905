#pragma once
// A line edit laid over something while it is typed into. Return or leaving accepts, Escape gives up; Tab
// accepts and goes on to what stands beside.

#include <QLineEdit>
#include <functional>

namespace plume::app {

class InlineEditor : public QLineEdit {
    Q_OBJECT

public:
    // Opens over `target` with its text selected; deletes itself when closed. `accept` gets what was typed.
    static InlineEditor* open(QWidget* target, const QString& text, const QString& name,
                              std::function<void(const QString&)> accept);

Q_SIGNALS:
    // Accepted by Tab, or by Shift+Tab: what comes next, or before, is to be opened.
    void tabbed(bool next);

protected:
    bool focusNextPrevChild(bool next) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    explicit InlineEditor(QWidget* parent) : QLineEdit(parent) {}
    void close_with(bool accepted);
    void grow();

    std::function<void(const QString&)> accept_;
    QWidget* target_ = nullptr;
    bool closing_ = false;
};

}  // namespace plume::app
