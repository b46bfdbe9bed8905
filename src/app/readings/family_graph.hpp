#pragma once
// Draws how many families there are against the tolerance; the tolerance of the step is dragged in it.

#include <QWidget>
#include <memory>

#include "app/document/document.hpp"

class QPainter;

namespace plume::app {

class FamilyGraph : public QWidget {
public:
    FamilyGraph(Document& document, QWidget* parent);
    // Of a step with a slot `tolerance`; null: there is none.
    void set(std::shared_ptr<const FamilyCounts> counts, ItemId step);
    ItemId step() const { return step_; }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    QRectF plot() const;
    double x_of(double tolerance) const;
    double tolerance_at(double x) const;
    double y_of(std::size_t count) const;
    std::size_t count_at(double tolerance) const;
    QString told(double tolerance) const;
    bool can_be_dragged() const;
    void drag_to(double x);
    void paint_axes(QPainter& painter) const;
    void paint_steps(QPainter& painter) const;
    void paint_mark(QPainter& painter) const;

    Document& document_;
    std::shared_ptr<const FamilyCounts> counts_;
    ItemId step_ = 0;
    std::optional<double> cursor_;
    bool dragging_ = false;
};

}  // namespace plume::app
