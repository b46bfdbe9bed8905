#include "app/sheet/item_block.hpp"

#include <QContextMenuEvent>
#include <QPainter>

#include "app/parts/step_actions.hpp"
#include "app/sheet/clipboard.hpp"
#include "app/theme/look.hpp"
#include "app/theme/popup_menu.hpp"

namespace plume::app {

ItemBlock::ItemBlock(Document& document, ItemId item, QWidget* parent)
    : QWidget(parent), document_(document), item_(item) {
    setFocusPolicy(Qt::StrongFocus);
    setAttribute(Qt::WA_Hover);
}

void ItemBlock::paintEvent(QPaintEvent* /*event*/) {
    const bool ring = ring_ && hasFocus();
    if (!selected() && !ring) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(ring ? QPen(look().accent, 1) : Qt::NoPen);
    painter.setBrush(selected() ? QBrush(look().accent_soft) : Qt::NoBrush);
    painter.drawRoundedRect(QRectF(rect()).adjusted(ring ? 0.5 : -10, 0.5, -4.5, -0.5), 8, 8);
}

void ItemBlock::mousePressEvent(QMouseEvent* event) {
    if (event->modifiers() & Qt::ShiftModifier)
        document_.attention().extend_selection(item_);
    else
        document_.attention().select(item_);
    event->accept();  // a press on the empty page deselects
}

void ItemBlock::keyPressEvent(QKeyEvent* event) {
    const bool alt = event->modifiers() & Qt::AltModifier, shift = event->modifiers() & Qt::ShiftModifier;
    switch (event->key()) {
        case Qt::Key_Up:
            return alt ? move_selection(document_, -1) : Q_EMIT focus_neighbour_wanted(-1, shift);
        case Qt::Key_Down:
            return alt ? move_selection(document_, 1) : Q_EMIT focus_neighbour_wanted(1, shift);
        case Qt::Key_Delete:
            return remove_selection(document_, window());
        case Qt::Key_F2:
            return shift ? rename() : QWidget::keyPressEvent(event);
        case Qt::Key_Insert:
            return Q_EMIT insert_wanted(*document_.study().position(item_) + 1);
        default:
            QWidget::keyPressEvent(event);
    }
}

void ItemBlock::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    ring_ = event->reason() != Qt::MouseFocusReason;
    // A press selects by itself, and several selected at once stay so when the last one gets the focus.
    if (ring_ && document_.attention().selected() != item_) document_.attention().select(item_);
    update();
}

void ItemBlock::focusOutEvent(QFocusEvent* event) {
    QWidget::focusOutEvent(event);
    update();
}

void ItemBlock::enterEvent(QEnterEvent* /*event*/) {
    Q_EMIT hovered(true);
}

void ItemBlock::leaveEvent(QEvent* /*event*/) {
    Q_EMIT hovered(false);
}

void ItemBlock::contextMenuEvent(QContextMenuEvent* event) {
    if (!selected()) document_.attention().select(item_);
    open_menu(event->reason() == QContextMenuEvent::Keyboard ? mapToGlobal(QPoint(0, height()))
                                                             : event->globalPos());
}

void ItemBlock::open_menu(const QPoint& at) {
    QMenu& menu = *new_popup_menu(this);
    fill_menu(menu);
    menu.popup(at);
}

void ItemBlock::fill_menu(QMenu& menu) {
    menu.addAction(tr("Re&name\tShift+F2"), this, [this] { rename(); });
    menu.addAction(tr("Cu&t\tCtrl+X"), this, [this] { cut_selection(document_, window()); });
    menu.addAction(tr("&Copy\tCtrl+C"), this, [this] { copy_selection(document_); });
    menu.addAction(tr("&Paste below\tCtrl+V"), this,
                   [this] { paste_items(document_, PastedControls::shared); });
    menu.addAction(tr("Paste with controls of its o&wn\tCtrl+Shift+V"), this,
                   [this] { paste_items(document_, PastedControls::own); });
    menu.addAction(tr("D&uplicate\tCtrl+D"), this, [this] { duplicate_selection(document_); });
    menu.addSeparator();
    menu.addAction(tr("&Insert a step above"), this,
                   [this] { Q_EMIT insert_wanted(*document_.study().position(item_)); });
    menu.addAction(tr("Insert a step &below\tInsert"), this,
                   [this] { Q_EMIT insert_wanted(*document_.study().position(item_) + 1); });
    menu.addAction(tr("Insert a &heading above"), this, [this] {
        const Added added = add_heading(document_.study(), *document_.study().position(item_), "New heading");
        if (document_.apply(added.study, tr("new heading"))) document_.attention().select(added.id);
    });
    menu.addSeparator();
    menu.addAction(tr("Move up\tAlt+Up"), this, [this] { move_selection(document_, -1); });
    menu.addAction(tr("Move down\tAlt+Down"), this, [this] { move_selection(document_, 1); });
    menu.addSeparator();
    menu.addAction(tr("&Remove\tDelete"), this, [this] { remove_selection(document_, window()); });
}

}  // namespace plume::app
