#pragma once
// A button that lies over the model: what is below it changes many times a second, and what the style draws
// of it is kept, since drawing the buttons would take as long as drawing the model.

#include <QEvent>
#include <QPainter>
#include <QStyle>
#include <QStyleOptionToolButton>
#include <QToolButton>
#include <tuple>

namespace plume::app {

class KeptButton : public QToolButton {
public:
    using QToolButton::QToolButton;

protected:
    void paintEvent(QPaintEvent* /*event*/) override {
        QStyleOptionToolButton option;
        initStyleOption(&option);
        const Seen now{size(), devicePixelRatioF(), text(), icon().cacheKey(),
                       static_cast<int>(option.state)};
        if (now != seen_) {
            seen_ = now;
            drawn_ = QPixmap(size() * devicePixelRatioF());
            drawn_.setDevicePixelRatio(devicePixelRatioF());
            drawn_.fill(Qt::transparent);
            QPainter painter(&drawn_);
            painter.setFont(font());
            style()->drawComplexControl(QStyle::CC_ToolButton, &option, &painter, this);
        }
        QPainter(this).drawPixmap(0, 0, drawn_);
    }
    void changeEvent(QEvent* event) override {
        seen_ = {};
        QToolButton::changeEvent(event);
    }

private:
    using Seen = std::tuple<QSize, double, QString, qint64, int>;
    Seen seen_;
    QPixmap drawn_;
};

}  // namespace plume::app
