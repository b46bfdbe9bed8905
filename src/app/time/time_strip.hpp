#pragma once
// The strip of time below the model: playing, the moment, the lanes of what follows time, keys.

#include <QTimer>
#include <QWidget>
#include <optional>

#include "app/document/document.hpp"

class QScrollArea;
class QToolButton;

namespace plume::app {

class ElidedLabel;
class TimeLanes;

class TimeStrip : public QWidget {
    Q_OBJECT

public:
    TimeStrip(Document& document, QWidget* parent);

    // It is there while something of the study moves, or as it is wished.
    void toggle();

protected:
    void changeEvent(QEvent* event) override;

private:
    QWidget* new_head();
    void refresh();
    void refresh_moment();
    void refresh_playing();
    void refresh_kept();
    void refresh_in_hand();
    void show_or_hide();
    void open_moment_form();
    void open_time_form();
    void keep_moment();
    // What reads the whole study: not for each frame.
    void refresh_keeping();
    QString name_in_hand() const;

    Document& document_;
    std::optional<bool> wished_;
    ItemId to_keep_ = 0;  // the step whose moment would be kept; 0: none
    QToolButton *play_, *loop_, *record_, *moment_, *time_, *keep_, *key_;
    ElidedLabel* kept_;
    TimeLanes* lanes_;
    QScrollArea* scroll_;
    QTimer look_at_kept_;
};

}  // namespace plume::app
