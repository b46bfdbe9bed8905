#pragma once
// Below a step that grows: a slider of its generations, a button that plays them, and how many parts each
// has.

#include <QTimer>
#include <QWidget>

#include "app/document/document.hpp"

class QLabel;
class QToolButton;

namespace plume::app {

class TrackSlider;

class PlayedStrip : public QWidget {
    Q_OBJECT

public:
    // `slot`: the key of the count that is played.
    PlayedStrip(Document& document, ItemId step, std::string slot, QWidget* parent);
    void refresh();

private:
    int value() const;  // below 0 while it is no plain number
    void set_value(int value, const std::string& stroke);
    void play();
    void stop();
    void take_notes();

    Document& document_;
    ItemId step_;
    std::string slot_;
    QToolButton* play_;
    TrackSlider* slider_;
    QLabel* told_;
    QTimer timer_;
    int most_ = 0;  // at the right end
    int played_ = 0, played_to_ = 0;
};

}  // namespace plume::app
