#pragma once
// Picks points, parts of a mesh or members of a frame, of the result a step reads: a click adds the address
// to the step's list, or takes it away.

#include "app/model/model_tool.hpp"
#include "core/results/items.hpp"

namespace plume::app {

class PickTool : public ModelTool {
    Q_OBJECT

public:
    // Shows the points that can be picked while it is in hand, if they are hidden.
    PickTool(Document& document, ModelView& view, ItemId step, std::string slot);

    void press(QPointF cursor, Qt::KeyboardModifiers modifiers) override;
    void hover(QPointF cursor, Qt::KeyboardModifiers modifiers) override;
    void paint(QPainter& painter) override;
    QString hint() const override;

private:
    const Step* source() const;
    void show_source(bool visible, const QString& label);
    std::string stroke() const;
    int picks_ = 0;
    // What can be picked: points, parts of a mesh, members of a frame. Nothing where lists name none of it.
    const Items* pickable();
    bool of_points() const;
    Items items_in(const Value& value) const;
    std::optional<std::size_t> index_at(QPointF cursor) const;
    std::optional<std::size_t> hovered_;  // of points alone

    // 1 for each item that the list names; nothing where it cannot be read.
    const std::vector<std::uint8_t>& named();

    ValuePointer read_;  // what `items_` read
    Items items_;
    std::optional<std::string> list_;  // what `named_` was read from
    std::vector<std::uint8_t> named_;
};

}  // namespace plume::app
