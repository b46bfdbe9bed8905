#pragma once
// On an empty page: a few sentences to begin with. A sentence becomes the first step; a part of one that is
// clicked is opened in it at once, a number that is dragged goes on being dragged there.

#include <QLabel>
#include <QWidget>

#include "core/study/step_kind.hpp"

namespace plume::app {

class BeginningSentence : public QLabel {
    Q_OBJECT

public:
    BeginningSentence(const StepKind& kind, QWidget* parent);

Q_SIGNALS:
    // slot: that is to be opened in it; empty: none.
    void wanted(const QString& slot);
    // A number of it, from where it was pressed, in pixels of the screen.
    void dragged(const QString& slot, QPointF pressed_at);

protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    void write();

    const StepKind& kind_;
    QString under_;    // the slot under the cursor
    QString pressed_;  // a number that the button went down on
    QPointF pressed_at_;
};

class Beginnings : public QWidget {
    Q_OBJECT

public:
    Beginnings(const Catalogue& catalogue, QWidget* parent);

Q_SIGNALS:
    void wanted(const std::string& kind, const QString& slot);
    void dragged(const std::string& kind, const QString& slot, QPointF pressed_at);
};

}  // namespace plume::app
