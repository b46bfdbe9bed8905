#pragma once
// Draws corners in plan: clicks snap to the grid, typed lengths say how far the next corner is.

#include "app/model/model_tool.hpp"
#include "core/picture/sketch.hpp"

namespace plume::app {

class OutlineTool : public ModelTool {
    Q_OBJECT

public:
    using ModelTool::ModelTool;

    void press(QPointF cursor, Qt::KeyboardModifiers modifiers) override;
    void hover(QPointF cursor, Qt::KeyboardModifiers modifiers) override;
    bool key(QKeyEvent& event) override;
    void paint(QPainter& painter) override;
    QString hint() const override;
    void accept() override;

    const std::vector<Vec3>& corners() const { return sketch_.corners(); }

private:
    std::optional<Vec3> on_ground(QPointF cursor) const;
    std::optional<double> typed_length() const;
    std::optional<Vec3> next_place() const;
    double closing_reach() const;

    Sketch sketch_;
    QPointF cursor_;
    bool free_ = false;  // Alt: without the grid
    bool hovered_ = false;
    QString typed_;
};

}  // namespace plume::app
