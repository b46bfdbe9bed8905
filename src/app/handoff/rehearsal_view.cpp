#include "app/handoff/rehearsal_view.hpp"

#include <QPainter>
#include <algorithm>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"

namespace plume::app {

RehearsalView::RehearsalView(QWidget* parent) : OrbitView(parent) {
    setObjectName("rehearsal-view");
    setAccessibleName(tr("The board or the sheets while they are worked on"));
    set_grid(false);
}

void RehearsalView::show_now(const RehearsedWork& work, bool another) {
    take(work.drawn());
    colours_ = work.colours();
    // Where frames take long it is played roughly, and drawn as it is when it stands.
    const bool has_draft =
        std::ranges::any_of(items_, [](const SceneItem& item) { return !item.drawable->coarse.empty(); });
    if (!another && has_draft) draft_once();
    if (another) {
        set_view(work.is_flat() ? StandardView::plan : StandardView::above);
        fit_wanted_ = true;
    }
    form_changed();
}

void RehearsalView::show_finely(const RehearsedDrawing& drawing) {
    take(drawing);
    form_changed();
}

void RehearsalView::tell_fineness(double fraction) {
    const QString note =
        fraction < 1 ? tr("finely in a moment · %1 %").arg(static_cast<int>(100 * fraction)) : QString();
    if (note == std::exchange(note_, note)) return;
    redraw();
}

// Core drawables have no steps; numbers tell them apart.
void RehearsalView::take(const RehearsedDrawing& drawing) {
    items_.clear();
    ItemId number = 0;
    for (const std::shared_ptr<const Drawable>& drawable : drawing)
        items_.push_back({++number, drawable, {}, false});
}

void RehearsalView::clear() {
    items_.clear();
    redraw();
}

// What the colours mean, and what is on its way.
void RehearsalView::paint_over(QPainter& painter) {
    OrbitView::paint_over(painter);
    constexpr int left = 18, top = 16, swatch = 12, row = 20;
    painter.setFont(text_font(12));
    int at = top;
    for (const auto& [colour, meaning] : colours_) {
        const QRect box(left, at, swatch, swatch);
        painter.fillRect(box, QColor::fromRgbF(colour.red, colour.green, colour.blue));
        painter.setPen(look().hairline);
        painter.drawRect(box);
        painter.setPen(look().ink);
        painter.drawText(QPoint(left + swatch + 8, at + swatch - 1), tr(meaning));
        at += row;
    }
    painter.setPen(look().second_ink);
    painter.drawText(rect().adjusted(left, top - 4, -left, 0), Qt::AlignRight | Qt::AlignTop, note_);
}

}  // namespace plume::app
