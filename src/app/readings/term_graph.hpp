#pragma once
// Lines of a formula drawn large over one another, along one direction. The wheel zooms, the cursor reads off
// values, a drag moves where the direction is held; the strips below hold the other directions.

#include <QWidget>

#include "app/document/document.hpp"

class QPainter;

namespace plume::app {

class TermGraph : public QWidget {
    Q_OBJECT

public:
    TermGraph(Document& document, QWidget* parent);
    void set_step(ItemId step);
    bool has_lines() const;

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    struct Scale {
        double least = 0, most = 1;
    };
    std::vector<const TermInsight*> lines() const;
    // One for all of them when they are of one unit.
    std::optional<Scale> shared_scale(const std::vector<const TermInsight*>& lines) const;
    QRectF plot() const;
    QRectF strip(std::size_t direction) const;
    QRectF close_rect() const;
    std::vector<std::size_t> held_directions() const;
    double share_at(double x) const;  // of the direction, at a place of the plot
    double x_of(double value) const;
    void hold(std::size_t direction, double share);
    void paint_axes(QPainter& painter, const std::vector<const TermInsight*>& lines) const;
    void paint_line(QPainter& painter, const TermInsight& line, const QColor& colour, Scale scale) const;
    void paint_legend(QPainter& painter, const std::vector<const TermInsight*>& lines) const;
    void paint_strips(QPainter& painter) const;

    Document& document_;
    ItemId step_ = 0;
    std::optional<QPointF> cursor_;
    std::optional<std::size_t> dragged_;  // direction
    QPointF pressed_;
};

}  // namespace plume::app
