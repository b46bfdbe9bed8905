#pragma once
// The model: everything visible of the study. Attractors are dragged; hovering a point tells what is there;
// a click takes the step in hand.

#include <set>

#include "app/document/document.hpp"
#include "app/model/model_tool.hpp"
#include "app/model/orbit_view.hpp"
#include "app/model/place_dragging.hpp"

namespace plume::app {

class ModelView : public OrbitView {
    Q_OBJECT

public:
    ModelView(Document& document, QWidget* parent);

    void fit_selection();
    // A tool that has the mouse and the keys now; nullptr when none has.
    ModelTool* tool() const { return tool_.get(); }
    void end_tool();
    // What the tool, or a drag, asks for; empty when nothing is under way.
    QString hint() const;

Q_SIGNALS:
    void tool_changed();

protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;

    // While the camera rests, surfaces as fine as they were made for it.
    std::vector<SceneItem> drawn_items() const override;
    void paint_over(QPainter& painter) override;
    Units units() const override { return document_.study().units; }
    void camera_moved() override;
    // Surfaces are wanted as fine as they are seen.
    void came_to_rest() override;
    void hover_at(QPointF cursor) override;
    void clicked() override;

private:
    void collect();
    bool any_large_is_new(const std::vector<SceneItem>& before) const;
    bool says_more_than_drawn() const;
    void follow_unit();
    void look_roughly();
    void paint_signs(QPainter& painter);
    void start_tool(std::unique_ptr<ModelTool> tool);

    Document& document_;
    std::set<ItemId> met_;                 // steps of this study that were drawn at some time
    std::size_t view_number_ = 0;          // of the view the camera rests at; 0 while it moves
    LengthUnit unit_ = LengthUnit::metre;  // of what is drawn
    Units units_;                          // of what is told beside it
    bool dragging_place_ = false;
    PlaceDragging dragging_;
    std::unique_ptr<ModelTool> tool_;
};

}  // namespace plume::app
