#pragma once
// The model: everything visible, drawn with OpenGL. Left drag turns, right or Shift drag moves, the wheel
// zooms to the cursor; attractors are dragged; hovering a point tells what is there.

#include <QElapsedTimer>
#include <QOpenGLWidget>
#include <QTimer>
#include <set>

#include "app/document/document.hpp"
#include "app/model/gl_scene.hpp"
#include "app/model/model_tool.hpp"
#include "app/model/place_dragging.hpp"
#include "core/picture/picking.hpp"

namespace plume::app {

class ModelView : public QOpenGLWidget {
    Q_OBJECT

public:
    ModelView(Document& document, QWidget* parent);
    ~ModelView() override;

    // Why no model can be drawn here, or an empty text.
    static QString why_not();

    const Camera& camera() const { return camera_; }
    void set_view(StandardView view);
    void set_perspective(bool perspective);
    void set_grid(bool shown);
    bool grid() const { return grid_; }
    void fit_all();
    void fit_selection();
    // What is drawn, without the parts laid over it.
    QImage picture();
    const std::vector<SceneItem>& scene() const { return items_; }
    double grid_step() const;
    ViewSize view_size() const { return {static_cast<double>(width()), static_cast<double>(height())}; }
    // A tool that has the mouse and the keys now; nullptr when none has.
    ModelTool* tool() const { return tool_.get(); }
    void end_tool();
    // What the tool, or a drag, asks for; empty when nothing is under way.
    QString hint() const;
    // Where a point of the model stands in this widget.
    std::optional<QPointF> position_of(Vec3 point) const;

Q_SIGNALS:
    void camera_changed();
    void tool_changed();

protected:
    void initializeGL() override;
    void paintGL() override;
    void resizeGL(int width, int height) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;

private:
    enum class Gesture { none, turn, move, drag_place };
    void collect();
    bool any_large_is_new(const std::vector<SceneItem>& before) const;
    Box bounds() const;
    void follow_unit();
    // The camera came to rest: surfaces are wanted as fine as they are seen.
    void rest();
    // What is drawn: while the camera rests, surfaces as fine as they were made for it.
    std::vector<SceneItem> drawn_items() const;
    void hover_at(QPointF cursor);
    void camera_moved();
    void paint_over(QPainter& painter);
    void paint_signs(QPainter& painter);
    void start_tool(std::unique_ptr<ModelTool> tool);
    void paint_scale(QPainter& painter);

    Document& document_;
    GlScene scene_;
    bool ready_ = false;
    std::vector<SceneItem> items_, ghosts_;  // ghosts: another version of a form, laid over it
    std::set<ItemId> met_;                   // steps of this study that were drawn at some time
    Camera camera_;
    std::size_t view_number_ = 0;          // of the view the camera rests at; 0 while it moves
    LengthUnit unit_ = LengthUnit::metre;  // of what is drawn
    bool fit_wanted_ = true, grid_ = true;
    Gesture gesture_ = Gesture::none;
    QPointF pressed_, last_;
    bool moved_ = false;
    PlaceDragging dragging_;
    std::unique_ptr<ModelTool> tool_;
    QTimer settle_;
    double frame_ms_ = 0;
};

}  // namespace plume::app
