#include "app/model/labels.hpp"

#include <QPainter>

#include "app/model/model_view.hpp"
#include "app/theme/look.hpp"
#include "core/picture/labels.hpp"
#include "core/results/items.hpp"

namespace plume::app {
namespace {

constexpr std::size_t most_labels = 400;

// Readable over any colour of the model.
void draw_with_halo(QPainter& painter, QPointF at, const QString& text) {
    QColor halo = look().page;
    halo.setAlpha(190);
    painter.setPen(halo);
    for (const QPointF by : {QPointF(-1, 0), QPointF(1, 0), QPointF(0, -1), QPointF(0, 1)})
        painter.drawText(at + by, text);
    painter.setPen(look().ink);
    painter.drawText(at, text);
}

}  // namespace

void paint_labels(QPainter& painter, const Document& document, const ModelView& view) {
    painter.setFont(text_font(11));
    painter.setPen(look().ink);
    LabelRoom room(view.view_size());
    const QFontMetrics metrics(painter.font());
    std::size_t written = 0;
    for (const SceneItem& item : view.scene()) {
        const Shown* shown = item.show.labels ? document.results().shown(item.step) : nullptr;
        if (!shown || !shown->value) continue;
        const Items items = items_of(*shown->value);
        // Many points are thinned out before their texts are made.
        for (const LabelSpot& label :
             label_spots(*item.drawable, labelled_items(items, item.show.label_by), view.camera(),
                         view.view_size(), {20, 12}, 4 * most_labels)) {
            if (written == most_labels) break;
            if (label.item >= items.total()) continue;  // drawn from before the last change
            const QString text =
                text_of(label_text(items, label.item, item.show.label_by, document.study().units));
            const QPointF at(label.at.x, label.at.y);
            // Text along a line stands in its middle.
            const QRect size = metrics.boundingRect(text);
            const QPointF by =
                label.along ? QPointF(-size.width() / 2.0, size.height() / 2.0 - 3) : QPointF(6, -4);
            const QRectF rect = QRectF(size).translated(at + by);
            if (!room.take({rect.x(), rect.y()}, {rect.width(), rect.height()})) continue;
            ++written;
            painter.save();
            painter.translate(at);
            painter.rotate(qRadiansToDegrees(label.turn_rad));
            draw_with_halo(painter, by, text);
            painter.restore();
        }
    }
}

}  // namespace plume::app
