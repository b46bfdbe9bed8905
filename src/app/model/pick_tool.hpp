#pragma once
// Picks points of the result a step reads: a click adds a point's address to the step's list, or takes it
// away.

#include "app/model/model_tool.hpp"

namespace plume::app {

class PickTool : public ModelTool {
    Q_OBJECT

public:
    // Shows the points that can be picked, if they are hidden.
    PickTool(Document& document, ModelView& view, ItemId step, std::string slot);

    void press(QPointF cursor, Qt::KeyboardModifiers modifiers) override;
    void paint(QPainter& painter) override;
    QString hint() const override;

private:
    const Step* source() const;

    std::string points_slot_;
};

}  // namespace plume::app
