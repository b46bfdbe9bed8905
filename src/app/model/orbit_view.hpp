#pragma once
// A view that one turns around a form: drawn with OpenGL, left drag turns, right or Shift drag moves, the
// wheel zooms to the cursor, arrows, plus and minus do the same. What is in it is its heirs' affair.

#include <QCursor>
#include <QElapsedTimer>
#include <QTimer>

#include "app/model/gl_canvas.hpp"
#include "app/model/gl_scene.hpp"
#include "core/picture/picking.hpp"

namespace plume::app {

class OrbitView : public GlCanvas {
    Q_OBJECT

public:
    explicit OrbitView(QWidget* parent);
    ~OrbitView() override;

    // How many samples of a pixel smooth the edges of what rests, in views that were not drawn yet; each
    // takes software about as long as the first.
    static void set_samples(int count) { samples = count; }

    const Camera& camera() const { return camera_; }
    void set_view(StandardView view);
    void set_camera(const Camera& camera);
    void set_perspective(bool perspective);
    void set_grid(bool shown);
    bool grid() const { return grid_; }
    void fit_all();
    const std::vector<SceneItem>& scene() const { return items_; }
    double grid_step() const;
    ViewSize view_size() const { return {static_cast<double>(width()), static_cast<double>(height())}; }
    // Where a point of the model stands in this widget.
    std::optional<QPointF> position_of(Vec3 point) const;
    QPointF cursor_at() const { return mapFromGlobal(QPointF(QCursor::pos())); }

Q_SIGNALS:
    void camera_changed();

protected:
    void prepare_gl() override;
    void draw_gl(QOpenGLFramebufferObject* target) override;
    bool is_drawn() const override;
    void paint_on(QPainter& painter) override;
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

    virtual std::vector<SceneItem> drawn_items() const { return items_; }
    virtual void paint_over(QPainter& painter) { paint_scale(painter); }
    virtual Units units() const = 0;
    virtual void camera_moved();
    virtual void came_to_rest() {}
    // The cursor without a button; a click that turned nothing.
    virtual void hover_at(QPointF cursor) = 0;
    virtual void clicked() = 0;

    Box bounds() const;
    void fit(const Box& box);
    void zoom(QPointF to, double factor);
    bool turning_or_moving() const { return gesture_ != Gesture::none; }
    bool resting() const { return !settle_.isActive(); }
    // Whether frames take so long that drafts are drawn while the camera moves.
    bool slow() const;
    // What is new may be drawn as a draft at first.
    void draft_once() { settle_.start(); }
    // Another form is there; where one follows the other, each is drawn quickly and the last one smoothly.
    void form_changed();
    bool flowing() const { return flowing_; }
    void paint_scale(QPainter& painter) const;

    std::vector<SceneItem> items_, ghosts_;  // ghosts: another version of a form, laid over it
    Camera camera_;
    bool fit_wanted_ = true;
    QPointF pressed_;
    bool moved_ = false;  // since the press
    bool reached_by_keys_ = false;

private:
    enum class Gesture { none, turn, move };

    // All that a frame depends on.
    struct Frame {
        std::vector<SceneItem> items, ghosts;
        FrameOptions options;
        bool still = false, smooth = false;
        bool is_seen_in(const Frame& drawn) const;
    };
    Frame frame_now() const;
    bool has_to_fit() const { return fit_wanted_ && !bounds().empty(); }
    void draw_smoothly(const Frame& frame, QOpenGLFramebufferObject* target);

    inline static int samples = 4;
    GlScene scene_;
    std::unique_ptr<QOpenGLFramebufferObject> smooth_;
    bool ready_ = false, grid_ = true;
    Gesture gesture_ = Gesture::none;
    QPointF last_;
    QTimer settle_;
    QTimer changed_;        // runs a moment from each change of the form
    bool flowing_ = false;  // a change came while it ran
    Frame drawn_;           // last
    Camera fitted_;         // as it was when it was last fitted, to this
    Box fitted_to_;
    double frame_ms_ = 0, last_frame_ms_ = 0;
    bool rough_ = false;  // smooth edges would take too long
};

}  // namespace plume::app
