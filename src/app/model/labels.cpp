#include "app/model/labels.hpp"

#include <QPainter>
#include <QSet>

#include "app/model/model_view.hpp"
#include "app/theme/look.hpp"
#include "core/geometry/address_list.hpp"
#include "core/study/sentence.hpp"

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

QString label_text(const SceneItem& item, const Shown& shown, std::size_t index, const Units& units) {
    if (const auto* attractors = std::get_if<Attractors>(shown.value.get()))
        return index < attractors->items().size() ? text_of(attractors->items()[index].name) : QString();
    const PointLattice* lattice = lattice_of(*shown.value);
    if (!lattice || index >= lattice->address_count()) return {};
    const Field* field = item.show.label_by.empty() ? nullptr : lattice->field(item.show.label_by);
    if (field) return text_of(quantity_text({field->values[index], field->dimension}, units, 3));
    return text_of(address_text(*lattice, index)).replace(",", ", ");
}

}  // namespace

void paint_labels(QPainter& painter, const Document& document, const ModelView& view) {
    painter.setFont(text_font(11));
    painter.setPen(look().ink);
    Uncluttered places;
    const QFontMetrics metrics(painter.font());
    std::size_t written = 0;
    for (const SceneItem& item : view.scene()) {
        const Shown* shown = item.show.labels ? document.shown(item.step) : nullptr;
        if (!shown || !shown->value) continue;
        // Many points are thinned out before their texts are made.
        for (const LabelPlace& label :
             label_places(*item.drawable, view.camera(), view.view_size(), {20, 12}, 4 * most_labels)) {
            if (written == most_labels) break;
            const QString text =
                label_text(item, *shown, item.drawable->points[label.point].index, document.study().units);
            const QPointF place = QPointF(label.at.x, label.at.y) + QPointF(6, -4);
            if (!places.take(metrics.boundingRect(text).translated(place.toPoint()))) continue;
            ++written;
            draw_with_halo(painter, place, text);
        }
    }
}

}  // namespace plume::app
