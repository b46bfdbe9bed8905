#include "app/sheet/choice_picture.hpp"

#include <QPixmap>

#include "core/reference/choice_pictures.hpp"

namespace plume::app {

std::vector<QIcon> choice_pictures_of(const std::string& kind, const std::string& slot) {
    const QPixmap strip(
        QString(":/choices/%1.%2.png").arg(QString::fromStdString(kind), QString::fromStdString(slot)));
    std::vector<QIcon> pictures;
    for (int left = 0; left + choice_picture_width <= strip.width(); left += choice_picture_width) {
        QPixmap one = strip.copy(left, 0, choice_picture_width, choice_picture_height);
        one.setDevicePixelRatio(static_cast<double>(choice_picture_width) / choice_picture_size.width());
        pictures.emplace_back(one);
    }
    return pictures;
}

}  // namespace plume::app
