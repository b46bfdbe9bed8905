#pragma once
// Pictures brought to a size.

#include <QImage>
#include <QPixmap>

namespace plume::app {

// As much of its middle as fills the size.
inline QImage filling(const QImage& image, QSize size) {
    const QImage filled = image.scaled(size, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
    return filled.copy(
        QRect(QPoint((filled.width() - size.width()) / 2, (filled.height() - size.height()) / 2), size));
}

// All of it, as sharp as a screen of that many pixels to a point shows it.
inline QPixmap sharp(const QImage& image, QSize size, qreal pixels) {
    QPixmap made =
        QPixmap::fromImage(image.scaled(size * pixels, Qt::KeepAspectRatio, Qt::SmoothTransformation));
    made.setDevicePixelRatio(pixels);
    return made;
}

}  // namespace plume::app
