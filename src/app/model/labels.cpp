#include "app/model/labels.hpp"

#include <QPainter>
#include <QSet>

#include "app/model/model_view.hpp"
#include "app/theme/look.hpp"
#include "core/results/items.hpp"

namespace plume::app {
namespace {

constexpr std::size_t most_labels = 400;

// Keeps labels apart: the screen in small cells, each of which one label may cover.
class Uncluttered {
public:
    bool take(const QRect& label) {
        const int left = label.left() / cell, right = label.right() / cell, top = label.top() / cell,
                  bottom = label.bottom() / cell;
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x)
                if (taken_.contains({x, y})) return false;
        for (int y = top; y <= bottom; ++y)
            for (int x = left; x <= right; ++x)
                taken_.insert({x, y});
        return true;
    }

private:
    static constexpr int cell = 10;
    QSet<QPair<int, int>> taken_;
};

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

// The number of the field that labels, if the items carry it; else what they are called.
QString label_text(const Items& items, std::size_t item, const std::string& label_by, const Units& units) {
    const auto field =
        std::ranges::find(items.fields, label_by.empty() ? items.labelled_by : label_by, &Field::name);
    return field == items.fields.end()
               ? text_of(items.name(item))
               : text_of(quantity_text({field->values[item], field->dimension}, units, 3));
}

}  // namespace

void paint_labels(QPainter& painter, const Document& document, const ModelView& view) {
    painter.setFont(text_font(11));
    painter.setPen(look().ink);
    Uncluttered places;
    const QFontMetrics metrics(painter.font());
    std::size_t written = 0;
    for (const SceneItem& item : view.scene()) {
        const Shown* shown = item.show.labels ? document.results().shown(item.step) : nullptr;
        if (!shown || !shown->value) continue;
        const Items items = items_of(*shown->value);
        // Many points are thinned out before their texts are made.
        for (const LabelSpot& label :
             label_spots(*item.drawable, view.camera(), view.view_size(), {20, 12}, 4 * most_labels)) {
            if (written == most_labels) break;
            if (label.item >= items.count) continue;  // drawn from before the last change
            const QString text = label_text(items, label.item, item.show.label_by, document.study().units);
            const QPointF at(label.at.x, label.at.y);
            const bool along = item.drawable->lines_are == LineRole::lines;
            // Text along a line stands in its middle.
            const QRect size = metrics.boundingRect(text);
            const QPointF by = along ? QPointF(-size.width() / 2.0, size.height() / 2.0 - 3) : QPointF(6, -4);
            if (!places.take(size.translated((at + by).toPoint()))) continue;
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
