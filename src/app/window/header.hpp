#pragma once
// The bar at the top: menus, the study's name and whether it is saved, units, live or on demand with
// progress.

#include <QWidget>

#include "app/document/document.hpp"

class QLabel;
class QMenuBar;
class QProgressBar;
class QToolButton;

namespace plume::app {

class Header : public QWidget {
    Q_OBJECT

Q_SIGNALS:
    void page_wanted(plume::Page page);

public:
    Header(Document& document, QMenuBar* menus, QWidget* parent);
    void refresh();
    // The page that is seen.
    void set_page(Page page);

protected:
    void changeEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    // Where there is little room, what can be missed most easily goes first.
    void make_room();
    void refresh_icons();
    void refresh_progress();
    void open_units();

    Document& document_;
    QToolButton *compose_, *hand_off_;
    QLabel *title_, *saved_, *step_;
    QToolButton *units_, *live_, *compute_, *undo_, *redo_, *cancel_;
    QProgressBar* bar_;
};

}  // namespace plume::app
