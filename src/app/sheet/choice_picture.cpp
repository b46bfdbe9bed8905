#include "app/sheet/choice_picture.hpp"

#include <QFile>
#include <QPixmap>

#include "core/reference/choice_pictures.hpp"

namespace plume::app {
namespace {

QString path_of(const std::string& kind, const std::string& slot) {
    return QString(":/choices/%1.%2.png").arg(QString::fromStdString(kind), QString::fromStdString(slot));
}

}  // namespace

bool has_choice_pictures(const std::string& kind, const std::string& slot) {
    return QFile::exists(path_of(kind, slot));
}

QIcon choice_picture(const std::string& kind, const std::string& slot, std::size_t word) {
    const QPixmap strip(path_of(kind, slot));
    const int left = static_cast<int>(word) * choice_picture_width;
    if (left + choice_picture_width > strip.width()) return {};
    QPixmap one = strip.copy(left, 0, choice_picture_width, choice_picture_height);
    one.setDevicePixelRatio(static_cast<double>(choice_picture_width) / choice_picture_size.width());
    return one;
}

}  // namespace plume::app
