#pragma once
// A place for text that changes often: the window around it is laid out anew only where it has to be higher,
// where Qt would do so with every word. It gets lower when it is asked to, so that what comes and goes moves
// nothing around it; and what is very long scrolls.

#include <QEvent>
#include <QLayout>
#include <QScrollArea>
#include <QScrollBar>
#include <algorithm>
#include <utility>

namespace plume::app {

class SteadyPlace : public QScrollArea {
public:
    // The content is laid out in one width; the bar has its place beside it.
    SteadyPlace(QWidget* content, int width) {
        setFrameShape(QFrame::NoFrame);
        setFocusPolicy(Qt::NoFocus);
        verticalScrollBar()->setFocusPolicy(Qt::TabFocus);  // a stop only where there is something to scroll
        setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
        setWidgetResizable(true);
        setFixedWidth(width + bar_width);
        content->setMaximumWidth(width);
        setWidget(content);
        measure();
    }
    // As high as the next content needs, seen from its top.
    void begin() {
        verticalScrollBar()->setValue(0);
        begins_ = true;
    }
    QSize sizeHint() const override { return {width(), height_}; }
    QSize minimumSizeHint() const override { return sizeHint(); }
    static constexpr int bar_width = 14;

protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (watched == widget() && event->type() == QEvent::LayoutRequest) measure();
        return QScrollArea::eventFilter(watched, event);
    }

private:
    void measure() {
        constexpr int most = 280;
        const int needed =
            std::min(most, widget()->layout()->totalMinimumHeightForWidth(widget()->maximumWidth()));
        const int height = std::exchange(begins_, false) ? needed : std::max(height_, needed);
        if (std::exchange(height_, height) != height) updateGeometry();
    }

    int height_ = 0;
    bool begins_ = true;
};

}  // namespace plume::app
