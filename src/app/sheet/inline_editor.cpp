#include "app/sheet/inline_editor.hpp"

#include <QCoreApplication>
#include <QKeyEvent>
#include <QMetaMethod>
#include <QPointer>

#include "app/theme/look.hpp"

namespace plume::app {

InlineEditor* InlineEditor::open(QWidget* target, const QString& text, const QString& name,
                                 std::function<void(const QString&)> accept) {
    // Laid over the whole sheet, so that it may be wider than what it edits.
    QWidget* const page = target->parentWidget()->parentWidget() ? target->parentWidget()->parentWidget()
                                                                 : target->parentWidget();
    auto* editor = new InlineEditor(page);
    editor->accept_ = std::move(accept);
    editor->target_ = target;
    editor->setObjectName("inline-editor");
    editor->setAccessibleName(name);
    editor->setFont(code_font(13));
    editor->setText(text);
    editor->selectAll();
    editor->grow();
    connect(editor, &QLineEdit::textChanged, editor, &InlineEditor::grow);
    editor->show();
    editor->raise();
    editor->setFocus(Qt::PopupFocusReason);
    return editor;
}

void InlineEditor::grow() {
    const QPoint at = target_->mapTo(parentWidget(), QPoint(0, 0));
    const int wanted = fontMetrics().horizontalAdvance(text()) + 30;
    const int room = parentWidget()->width() - 8;
    const int width = qBound(90, wanted, room);
    setGeometry(qMin(at.x() - 6, room - width), at.y() + target_->height() / 2 - 14, width, 28);
}

void InlineEditor::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return close_with(false);
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return close_with(true);
    QLineEdit::keyPressEvent(event);
}

bool InlineEditor::focusNextPrevChild(bool next) {
    // Asked on hiding as well, when there is nothing left to accept.
    if (closing_) return QLineEdit::focusNextPrevChild(next);
    const QPointer<QWidget> target(target_);
    close_with(true);
    if (isSignalConnected(QMetaMethod::fromSignal(&InlineEditor::tabbed)))
        Q_EMIT tabbed(next);
    else if (target)  // which has the focus now and knows its neighbours
        QCoreApplication::postEvent(
            target, new QKeyEvent(QEvent::KeyPress, next ? Qt::Key_Tab : Qt::Key_Backtab, Qt::NoModifier));
    return true;
}

void InlineEditor::focusOutEvent(QFocusEvent* event) {
    QLineEdit::focusOutEvent(event);
    if (event->reason() != Qt::PopupFocusReason && event->reason() != Qt::ActiveWindowFocusReason)
        close_with(true);
}

void InlineEditor::close_with(bool accepted) {
    if (closing_) return;
    closing_ = true;
    const QPointer<QWidget> target(target_);
    const QString typed = text();
    hide();
    deleteLater();
    if (target) target->setFocus(Qt::OtherFocusReason);
    if (accepted && accept_) accept_(typed.trimmed());
}

}  // namespace plume::app
