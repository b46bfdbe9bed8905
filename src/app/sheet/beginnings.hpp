#pragma once
// On an empty page: a few sentences to begin with. A sentence becomes the first step; a part of one that is
// clicked is opened in it at once.

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

protected:
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    void write();

    const StepKind& kind_;
};

class Beginnings : public QWidget {
    Q_OBJECT

public:
    Beginnings(const Catalogue& catalogue, QWidget* parent);

Q_SIGNALS:
    void wanted(const std::string& kind, const QString& slot);
};

}  // namespace plume::app
