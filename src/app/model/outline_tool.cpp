#include "app/model/outline_tool.hpp"

#include <QPainterPath>

#include "app/model/model_view.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/picture/picking.hpp"
#include "core/study/study_scope.hpp"

namespace plume::app {
namespace {

constexpr double closing_pixels = 12;

}  // namespace

std::optional<Vec3> OutlineTool::on_ground(QPointF cursor) const {
    return dragged_to(view_.camera(), view_.view_size(), {cursor.x(), cursor.y()}, {0, 0, 0});
}

std::optional<double> OutlineTool::typed_length() const {
    if (typed_.isEmpty()) return {};
    const auto length =
        evaluate_as(a_length, text_of(typed_), scope_of(document_.study(), document_.playing().seconds()));
    if (!length || !(*length > 0)) return {};
    return *length;
}

std::optional<Vec3> OutlineTool::next_place() const {
    const auto ground = hovered_ ? on_ground(cursor_) : std::nullopt;
    if (!ground) return {};
    return sketch_.place_for(*ground, free_ ? 0 : sketch_snap(view_.grid_step()), typed_length());
}

double OutlineTool::closing_reach() const {
    return closing_pixels * view_.camera().view_height() / view_.height();
}

void OutlineTool::press(QPointF cursor, Qt::KeyboardModifiers modifiers) {
    hover(cursor, modifiers);
    const auto ground = on_ground(cursor);
    if (ground && sketch_.would_close(*ground, closing_reach())) return accept();
    const auto place = next_place();
    if (!place) return;
    sketch_.add(*place);
    typed_.clear();
    Q_EMIT hint_changed();
    view_.redraw();
}

void OutlineTool::hover(QPointF cursor, Qt::KeyboardModifiers modifiers) {
    cursor_ = cursor;
    hovered_ = true;
    free_ = modifiers & Qt::AltModifier;
    view_.redraw();
}

bool OutlineTool::key(QKeyEvent& event) {
    if (event.key() == Qt::Key_Backspace) {
        if (typed_.isEmpty())
            sketch_.take_back();
        else
            typed_.chop(1);
        Q_EMIT hint_changed();
        view_.redraw();
        return true;
    }
    const QString text = event.text();
    const bool counts =
        !text.isEmpty() && (text[0].isLetterOrNumber() || QString(". */+-()\"'").contains(text[0]));
    const bool begins = typed_.isEmpty() && !(text.isEmpty() || text[0].isDigit() || text[0] == '.');
    if (sketch_.corners().empty() || !counts || begins || event.modifiers() & Qt::ControlModifier)
        return false;
    typed_ += text;
    view_.redraw();
    return true;
}

void OutlineTool::accept() {
    // Return after a typed length puts the corner down; alone it ends the drawing.
    if (!typed_.isEmpty()) {
        const auto place = typed_length() ? next_place() : std::nullopt;
        if (!place)
            return document_.show_message(tr("‘%1’ is no length. Type one such as 4.5 m.").arg(typed_));
        sketch_.add(*place);
        typed_.clear();
        Q_EMIT hint_changed();
        return view_.redraw();
    }
    if (sketch_.corners().size() < 2)
        return document_.show_message(tr("An outline needs corners: click in the model to put them down."));
    Places places;
    for (const Vec3 corner : sketch_.corners()) {
        const auto text = [&](double value) {
            return text_of(text_of(quantity_text({value, a_length}, document_.study().units, 6)));
        };
        places.push_back(
            {"c" + std::to_string(places.size() + 1), text(corner.x), text(corner.y), text(corner.z), "1"});
    }
    if (current())
        document_.apply(set_slot(document_.study(), step_, slot_, std::move(places)), tr("drawn outline"));
    ModelTool::accept();
}

void OutlineTool::paint(QPainter& painter) {
    const auto& corners = sketch_.corners();
    const auto next = next_place();
    QPainterPath path;
    bool begun = false;
    const auto add = [&](Vec3 corner) {
        const auto at = view_.position_of(corner);
        if (!at) return;
        if (begun)
            path.lineTo(*at);
        else
            path.moveTo(*at);
        begun = true;
    };
    for (const Vec3 corner : corners)
        add(corner);
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(look().accent, 2));
    painter.drawPath(path);
    if (next && !corners.empty()) {
        const auto from = view_.position_of(corners.back()), to = view_.position_of(*next);
        if (from && to) {
            painter.setPen(QPen(look().accent, 1.5, Qt::DashLine));
            painter.drawLine(*from, *to);
            const double far = length(*next - corners.back());
            painter.setFont(text_font(12, QFont::DemiBold));
            painter.setPen(look().ink);
            const QString text = typed_.isEmpty()
                                     ? text_of(quantity_text({far, a_length}, document_.study().units))
                                     : typed_ + "▏";
            painter.drawText((*from + *to) / 2 + QPointF(8, -8), text);
        }
    }
    painter.setPen(QPen(look().accent, 2));
    painter.setBrush(look().page);
    for (const Vec3 corner : corners)
        if (const auto at = view_.position_of(corner))
            painter.drawRect(QRectF(at->x() - 4, at->y() - 4, 8, 8));
    if (!next) return;
    const auto at = view_.position_of(*next);
    if (!at) return;
    const auto ground = on_ground(cursor_);
    const bool closing = ground && sketch_.would_close(*ground, closing_reach());
    painter.setBrush(closing ? look().accent : QColor(Qt::transparent));
    painter.drawEllipse(closing ? *view_.position_of(corners.front()) : *at, 6, 6);
}

QString OutlineTool::hint() const {
    const QString snap =
        text_of(quantity_text({sketch_snap(view_.grid_step()), a_length}, document_.study().units));
    if (sketch_.corners().empty())
        return tr("Click to put down the first corner; it snaps to %1, with Alt to nothing. Escape gives up.")
            .arg(snap);
    return tr(
        "Click or type a length for the next corner · Backspace takes one back · Return or the first corner "
        "ends it");
}

}  // namespace plume::app
