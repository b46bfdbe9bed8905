#pragma once
// A picture of core as Qt has it.

#include <QImage>

#include "core/picture/still.hpp"

namespace plume::app {

inline QImage image_of(const Image& image) {
    return QImage(image.rgba.data(), image.width, image.height, qsizetype{4} * image.width,
                  QImage::Format_RGBA8888)
        .copy();
}

}  // namespace plume::app
