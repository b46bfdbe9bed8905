#pragma once
// A frame over the page, beside what it was opened from. Escape closes it and gives the focus back; it goes
// with the study it edits.

#include <QFrame>
#include <QPointer>

namespace plume::app {

class Popup : public QFrame {
    Q_OBJECT

public:
    Popup(QWidget* near, const QString& title);

    static void close_all_of(QWidget* window);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    // Closes, and gives the focus back.
    void leave();
    // Below what it was opened from, above it where there is more room, wholly within the window.
    void place();

private:
    QPointer<QWidget> near_;  // gets the focus back
};

}  // namespace plume::app
