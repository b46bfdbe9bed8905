#pragma once
// Picks points, or parts of a mesh, of the result a step reads: a click adds the address to the step's list,
// or takes it away.

#include "app/model/model_tool.hpp"

namespace plume::app {

class PickTool : public ModelTool {
    Q_OBJECT

public:
    // Shows the points that can be picked, if they are hidden.
    PickTool(Document& document, ModelView& view, ItemId step, std::string slot);

    void press(QPointF cursor, Qt::KeyboardModifiers modifiers) override;
    void hover(QPointF cursor, Qt::KeyboardModifiers modifiers) override;
    void paint(QPainter& painter) override;
    QString hint() const override;

private:
    const Step* source() const;
    // What can be picked: points, or the places of a mesh's parts.
    std::optional<PointLattice> pickable();
    std::optional<std::size_t> index_at(QPointF cursor) const;

    ValuePointer placed_;  // what `places_` are of
    std::optional<PointLattice> places_;
};

}  // namespace plume::app
