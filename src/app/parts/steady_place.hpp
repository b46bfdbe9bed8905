#pragma once
// A place for text that changes often: the window around it is laid out anew only where it has to be higher
// or may be lower, where Qt would do so with every word.

#include <QEvent>
#include <QLayout>
#include <QWidget>

namespace plume::app {

class SteadyPlace : public QWidget {
public:
    // Of one width; the content is laid out in it.
    SteadyPlace(QWidget* content, int width) : content_(content) {
        content->setParent(this);
        setFixedWidth(width);
        measure();
    }
    QSize sizeHint() const override { return {width(), height_}; }
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    bool event(QEvent* event) override {
        if (event->type() != QEvent::LayoutRequest) return QWidget::event(event);
        if (measure()) updateGeometry();
        return true;
    }
    void resizeEvent(QResizeEvent* event) override {
        QWidget::resizeEvent(event);
        content_->setGeometry(rect());
    }

private:
    bool measure() {
        const int before = height_;
        height_ = content_->layout()->totalMinimumHeightForWidth(width());
        return height_ != before;
    }

    QWidget* content_;
    int height_ = 0;
};

}  // namespace plume::app
