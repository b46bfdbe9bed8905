#include <QPainter>
#include <QPainterPath>
#include <cmath>

#include "app/document/document.hpp"
#include "app/handoff/sheet_maker.hpp"
#include "app/theme/look.hpp"

namespace plume::app {
namespace {

QColor colour_of(Rgb rgb) {
    return QColor::fromRgbF(rgb.red, rgb.green, rgb.blue);
}

// Of paper, in pixels of the picture, y down.
class SheetPainter {
public:
    SheetPainter(QPainter& painter, const QRectF& area, QSize pixels)
        : painter_(painter), area_(area), pixels_a_mm_(pixels.width() / area.width()) {}

    void paint(const PlanFill& fill) {
        QPainterPath path;
        path.setFillRule(Qt::OddEvenFill);
        for (const std::vector<PaperPlace>& ring : fill.rings) {
            QPolygonF polygon;
            for (const PaperPlace place : ring)
                polygon << at(place);
            path.addPolygon(polygon);
            path.closeSubpath();
        }
        painter_.fillPath(path, colour_of(fill.colour));
    }
    void paint(const PlanPath& path) {
        set_pen(path);
        if (path.steps.size() == 1 && path.steps.front().form == PlanStep::Form::line)
            return painter_.drawLine(at(path.start), at(path.steps.front().to));
        QPainterPath drawn(at(path.start));
        PaperPlace from = path.start;
        for (const PlanStep& step : path.steps) {
            if (step.form == PlanStep::Form::arc)
                add_arc(drawn, from, step);
            else if (step.form == PlanStep::Form::cubic)
                drawn.cubicTo(at(step.first), at(step.second), at(step.to));
            else
                drawn.lineTo(at(step.to));
            from = step.to;
        }
        if (path.closed) drawn.closeSubpath();
        painter_.drawPath(drawn);
    }
    void paint(const PlanDot& dot) {
        painter_.setPen(Qt::NoPen);
        painter_.setBrush(colour_of(dot.colour));
        painter_.drawEllipse(at(dot.at), plan_dot / 2 * pixels_a_mm_, plan_dot / 2 * pixels_a_mm_);
        painter_.setBrush(Qt::NoBrush);
    }
    void paint(const PlanText& text) {
        constexpr double legible = 3;  // pixels
        const double size = text.letters * pixels_a_mm_;
        if (size < legible) return;
        QFont font = text_font(10);
        font.setPixelSize(std::max(1, static_cast<int>(std::lround(size))));
        painter_.setFont(font);
        painter_.setPen(colour_of(plan_ink));
        const QString shown = text_of(text.text);
        QPointF begin = at(text.at);
        if (text.middle) begin.rx() -= painter_.fontMetrics().horizontalAdvance(shown) / 2.0;
        painter_.drawText(begin, shown);
    }

private:
    QPointF at(PaperPlace place) const {
        return {(place.x - area_.left()) * pixels_a_mm_, (area_.bottom() - place.y) * pixels_a_mm_};
    }
    // Thinner lines would be grey threads.
    void set_pen(const PlanPath& path) {
        constexpr double thinnest = 0.6;
        const double width = std::max(thinnest, path.stroke * pixels_a_mm_);
        QPen pen(colour_of(path.colour), width, Qt::SolidLine, Qt::FlatCap, Qt::RoundJoin);
        if (path.dashes != PlanDashes::none) {
            QVector<qreal> pattern;
            for (const double length : dash_lengths(path.dashes))
                pattern << length * pixels_a_mm_ / width;
            pen.setDashPattern(pattern);
        }
        painter_.setPen(pen);
    }
    // In short lines.
    void add_arc(QPainterPath& drawn, PaperPlace from, const PlanStep& step) const {
        constexpr int pieces = 32;
        const PlanArc arc = arc_of(from, step);
        for (int piece = 1; piece <= pieces; ++piece)
            drawn.lineTo(at(arc.at(arc.begin_rad + arc.turn_rad * piece / pieces)));
    }

    QPainter& painter_;
    QRectF area_;
    double pixels_a_mm_;
};

}  // namespace

void paint_sheet(QPainter& painter, const Plan& plan, const QRectF& area, QSize pixels, const Run& run) {
    painter.setRenderHint(QPainter::Antialiasing);
    SheetPainter sheet(painter, area, pixels);
    const auto paint_all = [&](const auto& things) {
        for (std::size_t at = 0; at < things.size(); ++at) {
            if (at % 1024 == 0 && run.cancelled()) return;
            sheet.paint(things[at]);
        }
    };
    for (const PlanLayer& layer : plan.layers)
        paint_all(layer.fills);
    for (const PlanLayer& layer : plan.layers) {
        paint_all(layer.paths);
        paint_all(layer.dots);
    }
    for (const PlanLayer& layer : plan.layers)
        paint_all(layer.texts);
}

}  // namespace plume::app
