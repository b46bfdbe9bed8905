#pragma once
// Playing: the moment of the study that is looked at, and its going on. Each frame is waited for, so that
// every one is seen. Nothing of it is kept in the study but what is recorded: things that are moved while it
// plays get keys.

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <functional>
#include <vector>

#include "core/evaluation/moments.hpp"
#include "core/study/edits/edit_keys.hpp"

namespace plume::app {

class Document;

class Playing : public QObject {
    Q_OBJECT

public:
    explicit Playing(Document& document);

    std::size_t frame() const { return frame_; }
    Moment moment() const;
    double seconds() const { return moment().seconds(); }
    // The nearest there is.
    void go_to(std::size_t frame);
    void step(int frames);         // forward or back, and it pauses
    void look_at(double seconds);  // the frame nearest to them, and it pauses
    bool plays() const { return timer_.isActive(); }
    void play();  // at the end of the study's time from its beginning
    void pause();
    bool loops() const { return loops_; }
    void set_loops(bool loops);
    // Recording begins from what the study has of this moment, and stops at its end.
    bool records() const { return records_; }
    void set_records(bool records);
    bool is_recording() const { return records_ && plays(); }
    // An edit that waits for the next frame, so that time goes on under the hand; of one stroke the last.
    void edit_next_frame(const std::string& stroke, std::function<void()> edit);
    void make_waiting_edit();
    // Of the last second while it plays; 0 before it is known.
    double frames_per_second() const { return measured_; }

    // While moments pass under the hand only what is seen is made.
    void set_scrubbing(bool scrubbing);

    // Whether the strip of time is seen.
    bool shown() const { return shown_; }
    void set_shown(bool shown);

    // What a key would be set of: what was taken hold of last.
    const std::vector<Keyed>& in_hand() const { return in_hand_; }
    void take_in_hand(std::vector<Keyed> things);
    // Sets a key of all that is in hand at this moment; false where nothing is.
    bool key_in_hand();

    // Another study, or an edit of this one.
    void begin_anew();
    void follow_edit();

Q_SIGNALS:
    void moment_changed();
    void playing_changed();  // begun, paused, looping, recording, another speed, the strip
    void in_hand_changed();

private:
    void tick();
    void count_frame();
    void begin_recording();
    int between_frames_ms() const;

    Document& document_;
    std::size_t frame_ = 0;
    bool loops_ = true, records_ = false, shown_ = false;
    QTimer timer_;
    QElapsedTimer counting_;
    int counted_ = 0;
    double measured_ = 0;
    std::vector<Keyed> in_hand_;
    std::string waiting_stroke_;
    std::function<void()> waiting_edit_;
};

}  // namespace plume::app
