#pragma once
// The guide of the first walk: a small card over the window that says the next stop, and goes on by itself.

#include <QFrame>

#include "app/document/document.hpp"

class QLabel;
class QPushButton;

namespace plume::app {

class WalkCard : public QFrame {
    Q_OBJECT

public:
    WalkCard(Document& document, QWidget* window);
    void begin();
    // From 0; as many as there are where the walk is done.
    std::size_t stop() const { return stop_; }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;
    void changeEvent(QEvent* event) override;

private:
    void look();
    void show_stop();
    void place();

    Document& document_;
    std::size_t stop_ = 0;
    StudyPointer before_;  // as it was when the stop began
    QLabel *count_, *why_, *how_;
    QPushButton* leave_;
};

}  // namespace plume::app
