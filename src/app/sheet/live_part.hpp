#pragma once
// A part of a sentence that can be changed in place. Paints its own text and underline, takes the focus, and
// is opened by a click, Return or Space.

#include <QPainter>
#include <QWidget>

#include "app/document/document.hpp"

namespace plume::app {

class LivePart : public QWidget {
    Q_OBJECT

public:
    enum class Style { number, word, result, aside };
    LivePart(Style style, QWidget* parent);

    void set_text(const QString& text);
    const QString& text() const { return text_; }
    void set_wrong(bool wrong);
    QSize sizeHint() const override;
    int baseline() const;

    virtual void open() = 0;

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    void changeEvent(QEvent* event) override;
    QFont part_font() const;
    QColor ink() const;
    // Room before the text for a small picture, painted by paint_sign() into it.
    virtual int sign_width() const { return 0; }
    virtual void paint_sign(QPainter& /*painter*/, const QRectF& /*room*/) {}

private:
    Style style_;
    QString text_;
    mutable int text_width_ = -1;  // pixels; below 0 while it is not measured
    bool wrong_ = false, hovered_ = false;
};

}  // namespace plume::app
