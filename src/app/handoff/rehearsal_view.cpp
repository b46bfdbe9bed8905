#include "app/handoff/rehearsal_view.hpp"

#include <QPainter>
#include <cmath>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/handoff/stock_picture.hpp"

namespace plume::app {
namespace {

// The drawables have no steps; numbers tell them apart.
constexpr ItemId stock_id = 1, cutter_id = 2;

}  // namespace

RehearsalView::RehearsalView(QWidget* parent) : OrbitView(parent) {
    setObjectName("rehearsal-view");
    setAccessibleName(tr("The board while it is milled"));
    set_grid(false);
}

void RehearsalView::show_now(const Rehearser::State& state, bool another) {
    const Playback& playback = state.playback;
    const Board& board = state.form.board;
    // Long enough to be seen over the whole board.
    const double length =
        std::max(board.thickness + 4 * playback.cutter().radius, 0.12 * std::hypot(board.width, board.depth));
    items_.clear();
    items_.push_back(
        {stock_id, drawn_stock(playback.stock(), state.played_form, state.form.board), {}, false});
    items_.push_back({cutter_id, drawn_cutter(playback.cutter(), playback.tip(), length), {}, false});
    if (another) fit_wanted_ = true;
    update();
}

void RehearsalView::clear() {
    items_.clear();
    update();
}

// What the colours mean.
void RehearsalView::paint_over(QPainter& painter) {
    OrbitView::paint_over(painter);
    constexpr int left = 18, top = 16, swatch = 12, row = 20;
    painter.setFont(text_font(12));
    int at = top;
    for (const auto& [colour, meaning] : stock_colours()) {
        const QRect box(left, at, swatch, swatch);
        painter.fillRect(box, QColor::fromRgbF(colour.red, colour.green, colour.blue));
        painter.setPen(look().hairline);
        painter.drawRect(box);
        painter.setPen(look().ink);
        painter.drawText(QPoint(left + swatch + 8, at + swatch - 1), tr(meaning));
        at += row;
    }
}

}  // namespace plume::app
