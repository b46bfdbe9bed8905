#pragma once
// Base of what stands on the page under one another: takes the focus, can be selected, answers the keys that
// go for steps and headings alike.

#include <QWidget>

#include "app/document/document.hpp"

class QMenu;

namespace plume::app {

class ItemBlock : public QWidget {
    Q_OBJECT

public:
    ItemBlock(Document& document, ItemId item, QWidget* parent);
    ItemId item() const { return item_; }
    bool selected() const { return document_.attention().is_selected(item_); }
    virtual void refresh() = 0;
    // Middle of the first line, where the thread's node stands.
    virtual int node_y() const { return 17; }

Q_SIGNALS:
    void insert_wanted(std::size_t position);
    void hovered(bool inside);
    void focus_neighbour_wanted(int direction, bool extend);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    virtual void rename() = 0;
    virtual void fill_menu(QMenu& menu);
    void open_menu(const QPoint& at);

    Document& document_;
    ItemId item_;

private:
    bool ring_ = false;  // focus came by the keyboard
};

}  // namespace plume::app
