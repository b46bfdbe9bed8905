#include "app/sheet/response_picture.hpp"

#include "app/theme/look.hpp"

namespace plume::app {

QPainterPath response_path(const Shaping& shaping, const QRectF& field, std::size_t pieces) {
    const std::vector<double> answers = shape_of(shaping, pieces + 1);
    QPainterPath path;
    for (std::size_t at = 0; at <= pieces; ++at) {
        const double share = static_cast<double>(at) / static_cast<double>(pieces);
        const QPointF point(field.left() + share * field.width(),
                            field.bottom() - answers[at] * field.height());
        if (at == 0)
            path.moveTo(point);
        else
            path.lineTo(point);
    }
    return path;
}

void paint_response(QPainter& painter, const QRectF& room, const Shaping& shaping) {
    painter.setPen(QPen(look().hairline, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(room);
    painter.setPen(QPen(look().accent, 1.5));
    painter.drawPath(response_path(shaping, room.adjusted(1, 2, -1, -2), 60));
}

}  // namespace plume::app
