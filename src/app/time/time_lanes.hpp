#pragma once
// The lanes of the strip of time: one for each step that follows time, with the moments that are kept, and
// one for each thing that has keys. Pressing beside the keys goes to a moment; keys are dragged, with Ctrl
// copied.

#include <QWidget>

#include "app/document/document.hpp"

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
    struct KeyName {
        Keyed of;
        double seconds = 0;
        bool operator==(const KeyName&) const = default;
    };
    // How far the track reaches: the study's time.
    double x_of(double seconds) const;
    double seconds_at(double x) const;  // of the nearest frame
    int lane_at(double y) const;        // -1: above or below
    std::optional<KeyName> key_at(QPointF at) const;
    bool is_chosen(const KeyName& key) const;
    std::vector<Lane> lanes_now() const;
    void paint_now(QPainter& painter) const;
    void paint_seconds(QPainter& painter) const;
    void paint_kept(QPainter& painter, const Lane& lane, double y) const;
    void paint_keys(QPainter& painter, const Lane& lane, double y) const;
    void drag_keys(double x);
    void take_lane_in_hand(const Lane& lane);
    void add_key_actions(QMenu& menu, const KeyName& key);
    void remove_chosen();
    void go_to_key(int direction);

    Document& document_;
    std::vector<Lane> lanes_;
    std::vector<KeyName> chosen_;
    // Of a drag: the study and the keys as they were.
    StudyPointer before_;
    std::vector<KeyName> dragged_;
    double pressed_s_ = 0;
    bool copies_ = false, scrubs_ = false;
};

}  // namespace plume::app
