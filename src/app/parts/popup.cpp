#include "app/parts/popup.hpp"

#include <QKeyEvent>

#include "app/parts/soft_shadow.hpp"

namespace plume::app {

Popup::Popup(QWidget* near, const QString& title) : QFrame(near->window()), near_(near) {
    setObjectName("popup");
    setAttribute(Qt::WA_DeleteOnClose);
    setAutoFillBackground(true);
    setAccessibleName(title);
    cast_shadow(this);
}

void Popup::close_all_of(QWidget* window) {
    for (Popup* popup : window->findChildren<Popup*>())
        popup->close();
}

void Popup::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Escape) return QFrame::keyPressEvent(event);
    leave();
}

void Popup::leave() {
    close();
    if (near_) near_->setFocus(Qt::OtherFocusReason);
}

void Popup::place() {
    adjustSize();
    if (near_) {
        const QPoint below = near_->mapTo(window(), QPoint(0, near_->height() + 6));
        int y = below.y();
        if (y + height() > window()->height() - 8)
            y = near_->mapTo(window(), QPoint(0, 0)).y() - height() - 6;
        move(qBound(8, below.x(), qMax(8, window()->width() - width() - 8)),
             qBound(8, y, qMax(8, window()->height() - height() - 8)));
    }
    show();
    raise();
}

}  // namespace plume::app
