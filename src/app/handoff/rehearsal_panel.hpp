#pragma once
// The rehearsal of what the sentence in hand gives for a machine: played along a slider, with what there is
// to say of it.

#include <QElapsedTimer>
#include <QTimer>
#include <QWidget>

#include "app/document/document.hpp"
#include "app/handoff/rehearser.hpp"
#include "app/handoff/sentence_in_hand.hpp"
#include "app/handoff/standing_picture.hpp"

class QLabel;
class QPushButton;
class QSlider;
class QToolButton;

namespace plume::app {

class RehearsalView;
class ViewTools;

class RehearsalPanel : public QWidget {
    Q_OBJECT

public:
    explicit RehearsalPanel(Document& document, QWidget* parent = nullptr);

    // The sentence in hand, with what it gives; `entry`: nullptr while that is computed. Of what is not seen
    // nothing is rehearsed.
    void show_sentence(ItemId sentence, const HandOffEntry* entry, bool seen);

private:
    QWidget* new_player();
    QWidget* new_readings();
    void refresh();
    void refresh_player();
    void take_state();
    void show_now(bool another);
    void play(bool on);
    void play_on();
    void go_to(double minutes);
    void choose_file();

    Document& document_;
    Rehearser rehearser_;
    RehearsedWorkPointer shown_;
    StandingPicture standing_;
    RehearsalView* view_ = nullptr;
    ViewTools* tools_ = nullptr;
    QLabel *instead_, *time_, *summary_, *details_;
    QWidget* player_;
    QToolButton* play_;
    QSlider* slider_;
    QPushButton *other_file_, *own_file_, *cancel_;
    QString why_not_;
    SentenceInHand in_hand_;
    bool playing_ = false;
    QTimer frames_, progress_timer_;
    QElapsedTimer since_frame_;
};

}  // namespace plume::app
