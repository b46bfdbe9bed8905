#pragma once
// A line of text that takes the room there is; where that is too little a brief one stands for it, and what
// is too long all the same ends in dots.

#include <QLabel>
#include <QPainter>

namespace plume::app {

class ElidedLabel : public QLabel {
public:
    explicit ElidedLabel(QWidget* parent) : QLabel(parent) {
        setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    }

    // Empty: none.
    void set_texts(const QString& text, const QString& brief) {
        brief_ = brief;
        setText(text);
    }

protected:
    void paintEvent(QPaintEvent* /*event*/) override {
        const int room = contentsRect().width();
        const bool is_brief = !brief_.isEmpty() && fontMetrics().horizontalAdvance(text()) > room;
        QPainter painter(this);
        painter.setPen(palette().color(foregroundRole()));
        painter.drawText(contentsRect(), Qt::AlignVCenter | Qt::AlignLeft,
                         fontMetrics().elidedText(is_brief ? brief_ : text(), Qt::ElideRight, room));
    }

private:
    QString brief_;
};

}  // namespace plume::app
