#pragma once
// The lanes of the strip of time: one for each step that follows time, with the moments that are kept, and
// one for each thing that has keys. Pressing beside the keys goes to a moment; keys are dragged, with Ctrl
// copied; with Shift one is added to those that are chosen, or a stretch over some lanes. Keys that stand too
// close to be told apart are taken hold of as one.

#include <QWidget>

#include "app/document/document.hpp"
#include "app/time/key_runs.hpp"
#include "core/study/edits/chosen_keys.hpp"

class QMenu;

namespace plume::app {

class TimeLanes : public QWidget {
    Q_OBJECT

public:
    TimeLanes(Document& document, QWidget* parent);

    QSize sizeHint() const override;
    // The study or what is kept changed.
    void refresh();
    // Where a key, or a moment of a lane, is seen.
    QPoint position_of(int lane, double seconds) const;
    int lane_count() const { return static_cast<int>(lanes_.size()); }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;
    void focusInEvent(QFocusEvent* /*event*/) override { update(); }
    void focusOutEvent(QFocusEvent* /*event*/) override { update(); }

private:
    struct Lane {
        QString title;
        ItemId step = 0;                     // 0: of keys
        KeyRow keys = {};                    // of a thing that has some
        std::vector<std::size_t> kept = {};  // frames
    };
    // What is under the mouse: a key, and the run it is seen in.
    struct KeyHit {
        int lane = 0;
        std::size_t key = 0;
        KeyRun run;
    };
    // Between two places of the mouse.
    struct Stretch {
        QPointF from, to;
        KeyChoice chosen_before;
    };
    // How far the track reaches: the study's time.
    double x_of(double seconds) const;
    double seconds_at(double x) const;  // of the nearest frame
    int lane_at(double y) const;        // -1: above or below
    std::optional<KeyHit> key_at(QPointF at) const;
    double px_per_second() const { return x_of(1) - x_of(0); }
    const KeyRow& keys_of(const KeyHit& hit) const { return lanes_[static_cast<std::size_t>(hit.lane)].keys; }
    void choose_run(const KeyHit& hit);
    void choose_all();
    void choose_stretch(QPointF to);
    std::vector<Lane> lanes_now() const;
    void paint_now(QPainter& painter) const;
    void paint_seconds(QPainter& painter) const;
    void paint_kept(QPainter& painter, const Lane& lane, double y) const;
    void paint_keys(QPainter& painter, const Lane& lane, double y) const;
    void paint_run(QPainter& painter, const Lane& lane, const KeyRun& run, double y) const;
    void paint_stretch(QPainter& painter) const;
    void drag_keys(double x);
    void take_lane_in_hand(const Lane& lane);
    void press_with_shift(QPointF at, const std::optional<KeyHit>& hit);
    void add_key_actions(QMenu& menu, const KeyHit& hit);
    void add_fewer_actions(QMenu& menu);
    QString key_help(const KeyHit& hit) const;
    void remove_chosen();
    void go_to_key(int direction);

    Document& document_;
    std::vector<Lane> lanes_;
    KeyChoice chosen_;
    // Of a drag: the study and the keys as they were.
    StudyPointer before_;
    KeyChoice dragged_;
    double pressed_s_ = 0;
    bool copies_ = false, scrubs_ = false;
    std::optional<Stretch> stretch_;
};

}  // namespace plume::app
