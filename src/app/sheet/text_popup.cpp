#include "app/sheet/text_popup.hpp"

#include <QKeyEvent>
#include <QPlainTextEdit>

#include "app/parts/form_popup.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

// Ctrl+Return is left to the pop-up, which accepts with it.
class LinesEdit : public QPlainTextEdit {
public:
    using QPlainTextEdit::QPlainTextEdit;

protected:
    static bool accepts(const QKeyEvent& event) {
        return (event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter) &&
               event.modifiers() & Qt::ControlModifier;
    }
    // Else the window would take it for its own shortcut.
    bool event(QEvent* event) override {
        if (event->type() == QEvent::ShortcutOverride && accepts(*static_cast<QKeyEvent*>(event)))
            event->accept();
        return QPlainTextEdit::event(event);
    }
    void keyPressEvent(QKeyEvent* event) override {
        if (accepts(*event) || event->key() == Qt::Key_Escape) return event->ignore();
        QPlainTextEdit::keyPressEvent(event);
    }
};

QString help_text(const SlotSpec& slot) {
    if (slot.key == "marks")
        return QObject::tr("3,2–4,2 is the member between two nodes; 3,2 alone names all that end there.");
    if (slot.key == "parts") return QObject::tr("Numbers from 0: 0 3 5..8; -1 is the last.");
    if (slot.of_points)
        return QObject::tr(
            "12 is vertex 12, 3..7 a range, -1 the last; in a lattice 3,2 is i 3, j 2, and *,3 a whole row.");
    if (slot.type == SlotType::addresses)
        return QObject::tr("3,2 is i 3, j 2; 2..5,0 a range; *,3 a whole row; -1,0 counts from the end.");
    if (slot.key == "rows")
        return QObject::tr(
            "One point a line: x, y, z and further numbers. Paste a table; a first line of names makes "
            "the rest fields.");
    if (slot.key == "choices")
        return QObject::tr("Values with a weight behind a colon, separated by semicolons.");
    return QObject::tr("Numbers, separated by blanks.");
}

QSize size_for(const SlotSpec& slot) {
    return slot.key == "rows" ? QSize(380, 220) : QSize(320, 74);
}

}  // namespace

void open_text_popup(const SlotAccess& access, QWidget* near) {
    auto* form = new FormPopup(near, text_of(access.slot->label));
    auto* edit = new LinesEdit(text_of(std::get<Lines>(access.value()).text));
    edit->setObjectName("lines");
    edit->setAccessibleName(text_of(access.slot->label));
    edit->setFont(code_font(12));
    edit->setTabChangesFocus(true);
    edit->setMinimumSize(size_for(*access.slot));
    form->add_widget(edit);
    form->add_text(help_text(*access.slot) + QObject::tr(" Ctrl+Return takes it over."));
    const auto take_over = [access, edit] {
        const Lines lines{text_of(edit->toPlainText())};
        if (access.current() && lines != std::get<Lines>(access.value())) access.set(lines);
    };
    if (access.slot->type == SlotType::addresses)
        form->add_action(QObject::tr("&Pick in the model"), [access, take_over] {
            take_over();
            if (access.current()) access.document->attention().ask_to_pick(access.step, access.slot->key);
        });
    form->open(QObject::tr("Take over"), [take_over]() -> QString {
        take_over();
        return {};
    });
    edit->setFocus(Qt::PopupFocusReason);
}

}  // namespace plume::app
