#pragma once
// Draws a curvature graph: a line for each curve; the cursor reads off the nearest one.

#include <QWidget>
#include <memory>

#include "core/base/units.hpp"
#include "core/results/curvature_graph.hpp"

class QPainter;

namespace plume::app {

class CurveGraph : public QWidget {
public:
    explicit CurveGraph(QWidget* parent);
    // Null: there is none.
    void set(std::shared_ptr<const CurvatureGraph> graph, const Units& units);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    QRectF plot() const;
    double longest() const;
    double largest() const;
    QPointF place_of(const CurvatureLine& line, std::size_t sample) const;
    std::size_t line_at_cursor() const;
    std::size_t sample_at_cursor(const CurvatureLine& line) const;
    void paint_axes(QPainter& painter) const;
    void paint_line(QPainter& painter, const CurvatureLine& line, bool strong) const;
    void paint_reading(QPainter& painter) const;

    std::shared_ptr<const CurvatureGraph> graph_;
    Units units_;
    std::optional<QPointF> cursor_;
};

}  // namespace plume::app
