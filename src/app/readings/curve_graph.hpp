#pragma once
// Draws a ValueGraph: a line for each curve; the cursor reads off the nearest one.

#include <QWidget>
#include <memory>

#include "core/base/units.hpp"
#include "core/results/value_graph.hpp"

class QPainter;

namespace plume::app {

class CurveGraph : public QWidget {
public:
    explicit CurveGraph(QWidget* parent);
    // Null: there is none.
    void set(std::shared_ptr<const ValueGraph> graph, const Units& units);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    QRectF plot() const;
    double longest() const;
    double largest() const;
    QPointF place_of(const GraphLine& line, std::size_t sample) const;
    std::size_t line_at_cursor() const;
    std::size_t sample_at_cursor(const GraphLine& line) const;
    void paint_axes(QPainter& painter) const;
    void paint_line(QPainter& painter, const GraphLine& line, bool strong) const;
    void paint_reading(QPainter& painter) const;
    QString number_text(double number) const;

    std::shared_ptr<const ValueGraph> graph_;
    Units units_;
    std::optional<QPointF> cursor_;
};

}  // namespace plume::app
