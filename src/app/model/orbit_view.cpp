#include "app/model/orbit_view.hpp"

#include <QGuiApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QPainter>
#include <QWheelEvent>
#include <cmath>
#include <tuple>
#include <utility>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {
namespace {

constexpr double slow_frame_ms = 40, quick_frame_ms = 8;
// Nobody waits longer for smooth edges; and where they are left out, this is quick enough to try them again.
constexpr double most_smooth_ms = 250, tried_again_ms = 25;
constexpr int rest_ms = 180;  // what did not move for so long rests

}  // namespace

OrbitView::OrbitView(QWidget* parent) : GlCanvas(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(240, 180);
    setAccessibleName(tr("Model"));
    setAccessibleDescription(
        tr("Arrow keys turn, Shift and arrows move, plus and minus zoom, F fits everything"));
    for (QTimer* timer : {&settle_, &changed_}) {
        timer->setSingleShot(true);
        timer->setInterval(rest_ms);
    }
    const auto draw_as_it_rests = [this] {
        if (!is_drawn()) redraw();
    };
    connect(&settle_, &QTimer::timeout, this, [this, draw_as_it_rests] {
        came_to_rest();
        draw_as_it_rests();
    });
    connect(&changed_, &QTimer::timeout, this, [this, draw_as_it_rests] {
        if (std::exchange(flowing_, false)) came_to_rest();
        draw_as_it_rests();
    });
}

OrbitView::~OrbitView() {
    surface().release([this] {
        if (ready_) scene_.release();
        smooth_.reset();
    });
}

Box OrbitView::bounds() const {
    Box box;
    for (const auto* items : {&items_, &ghosts_})
        for (const SceneItem& item : *items)
            box.include(item.drawable->bounds);
    return box;
}

bool OrbitView::slow() const {
    return frame_ms_ > slow_frame_ms;
}

void OrbitView::prepare_gl() {
    ready_ = scene_.initialize();
}

void OrbitView::resizeEvent(QResizeEvent* event) {
    GlCanvas::resizeEvent(event);
    drawn_ = {};  // what it was drawn into is another one now
    // What was fitted and not looked at otherwise since stays so.
    if (!fitted_to_.empty() && camera_ == fitted_) fit(fitted_to_);
    Q_EMIT camera_changed();
}

// Another palette: the colours of what was drawn are those of the one before.
void OrbitView::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) {
        drawn_ = {};
        redraw();
    }
    GlCanvas::changeEvent(event);
}

double OrbitView::grid_step() const {
    return round_step(camera_.view_height() / 12);  // a tenth to a quarter of the view
}

// Bounds and the step of the grid follow from the rest; what was drawn better than it need be stays.
bool OrbitView::Frame::is_seen_in(const Frame& drawn) const {
    const auto shown = [](const Frame& frame) {
        return std::tie(frame.options.camera, frame.options.pixels, frame.options.grid, frame.items,
                        frame.ghosts);
    };
    return (drawn.smooth || !smooth) && (options.quick || !drawn.options.quick) &&
           (options.draft || !drawn.options.draft) && shown(*this) == shown(drawn);
}

OrbitView::Frame OrbitView::frame_now() const {
    const Box box = bounds();
    const bool still = (resting() && !flowing_) || items_.empty();
    FrameOptions options;
    options.camera = camera_;
    options.pixels = size() * devicePixelRatioF();
    options.pixel_ratio = devicePixelRatioF();
    options.quick = !still && frame_ms_ >= quick_frame_ms;
    options.draft = !still && slow();
    options.grid = grid_;
    options.grid_step = grid_step();
    options.bounds = box;
    if (!box.empty()) options.bounds.include(Vec3{box.centre().x, box.centre().y, std::min(0.0, box.low.z)});
    return {drawn_items(), ghosts_, options, still, !options.quick && !rough_};
}

bool OrbitView::is_drawn() const {
    return !has_to_fit() && frame_now().is_seen_in(drawn_);
}

void OrbitView::draw_gl(QOpenGLFramebufferObject* target) {
    if (!ready_) return;
    if (has_to_fit()) {
        fit(bounds());
        fit_wanted_ = false;
        Q_EMIT camera_changed();
    }
    QElapsedTimer timer;
    timer.start();
    drawn_ = frame_now();
    QOpenGLFunctions& gl = *QOpenGLContext::currentContext()->functions();
    gl.glViewport(0, 0, drawn_.options.pixels.width(), drawn_.options.pixels.height());
    if (drawn_.smooth)
        draw_smoothly(drawn_, target);
    else
        scene_.draw(drawn_.items, drawn_.ghosts, drawn_.options);
    gl.glFinish();
    if (items_.empty() || (!drawn_.still && !drawn_.smooth)) return;
    // What takes long once compiles what draws it.
    const double before_ms = std::exchange(last_frame_ms_, static_cast<double>(timer.nsecsElapsed()) * 1e-6);
    frame_ms_ = std::min(before_ms, last_frame_ms_);
    const bool was_rough =
        std::exchange(rough_, frame_ms_ > (drawn_.smooth ? most_smooth_ms : tried_again_ms));
    if (was_rough && !rough_) redraw();
}

void OrbitView::paint_on(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    paint_over(painter);
    if (!reached_by_keys_) return;
    painter.setPen(QPen(look().accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
}

// A frame tells whoever came by keys that they are here; whoever clicked knows.
void OrbitView::focusInEvent(QFocusEvent* event) {
    reached_by_keys_ = event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason;
    GlCanvas::focusInEvent(event);
    redraw();
}

void OrbitView::focusOutEvent(QFocusEvent* event) {
    reached_by_keys_ = false;
    GlCanvas::focusOutEvent(event);
    redraw();
}

std::optional<QPointF> OrbitView::position_of(Vec3 point) const {
    double x = 0, y = 0, depth = 0;
    if (!camera_.project(point, view_size().aspect(), x, y, depth)) return {};
    return QPointF(x * width(), y * height());
}

void OrbitView::paint_scale(QPainter& painter) const {
    if (items_.empty()) return;
    const double step = grid_step();
    const double pixels = step / camera_.view_height() * height();
    const QPointF from(18, height() - 20);
    painter.setPen(QPen(look().second_ink, 1.5));
    painter.drawLine(from, from + QPointF(pixels, 0));
    for (const double end : {0.0, pixels})
        painter.drawLine(from + QPointF(end, -3), from + QPointF(end, 3));
    painter.setFont(text_font(11));
    const QString text = text_of(quantity_text({step, a_length}, units()));
    painter.drawText(from + QPointF(0, -8), grid_ ? tr("%1 a square of the ground").arg(text) : text);
}

// Several samples a pixel take software twice as long: it goes without them while something moves.
void OrbitView::draw_smoothly(const Frame& frame, QOpenGLFramebufferObject* target) {
    if (!smooth_ || smooth_->size() != frame.options.pixels) {
        QOpenGLFramebufferObjectFormat format;
        format.setAttachment(QOpenGLFramebufferObject::CombinedDepthStencil);
        format.setSamples(samples);
        smooth_ = std::make_unique<QOpenGLFramebufferObject>(frame.options.pixels, format);
    }
    smooth_->bind();
    scene_.draw(frame.items, frame.ghosts, frame.options);
    QOpenGLFramebufferObject::blitFramebuffer(target, smooth_.get());
    if (target)
        target->bind();
    else
        QOpenGLFramebufferObject::bindDefault();
}

void OrbitView::mousePressEvent(QMouseEvent* event) {
    pressed_ = last_ = event->position();
    moved_ = false;
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    gesture_ = event->button() == Qt::LeftButton && !shift ? Gesture::turn : Gesture::move;
}

void OrbitView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF cursor = event->position(), by = cursor - last_;
    if (gesture_ == Gesture::none) return hover_at(cursor);
    moved_ = moved_ || (cursor - pressed_).manhattanLength() > 3;
    if (!moved_) return;
    last_ = cursor;
    if (gesture_ == Gesture::turn)
        orbit(camera_, {by.x(), by.y()});
    else
        pan(camera_, view_size(), {by.x(), by.y()});
    camera_moved();
}

void OrbitView::mouseReleaseEvent(QMouseEvent* event) {
    if (gesture_ == Gesture::turn && !moved_) clicked();
    gesture_ = Gesture::none;
    hover_at(event->position());
    redraw();
}

void OrbitView::wheelEvent(QWheelEvent* event) {
    const double steps = event->angleDelta().y() / 120.0;
    zoom(event->position(), std::pow(1.15, steps));
    event->accept();
}

void OrbitView::zoom(QPointF to, double factor) {
    const Box box = bounds();
    zoom_to(camera_, view_size(), {to.x(), to.y()}, factor, box.empty() ? 0 : length(box.size()));
    camera_moved();
}

void OrbitView::keyPressEvent(QKeyEvent* event) {
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    constexpr double by = 24;
    const auto go = [&](double x, double y) {
        if (shift)
            pan(camera_, view_size(), {x, y});
        else
            orbit(camera_, {x, y});
        camera_moved();
    };
    const auto zoom_by = [&](double factor) { zoom(QPointF(width(), height()) / 2, factor); };
    switch (event->key()) {
        case Qt::Key_Left:
            return go(-by, 0);
        case Qt::Key_Right:
            return go(by, 0);
        case Qt::Key_Up:
            return go(0, -by);
        case Qt::Key_Down:
            return go(0, by);
        case Qt::Key_Plus:
        case Qt::Key_Equal:
            return zoom_by(1.2);
        case Qt::Key_Minus:
            return zoom_by(1 / 1.2);
        case Qt::Key_F:
            return fit_all();
        default:
            GlCanvas::keyPressEvent(event);
    }
}

void OrbitView::camera_moved() {
    settle_.start();
    Q_EMIT camera_changed();
    redraw();
}

void OrbitView::form_changed() {
    // What is dragged changes again.
    flowing_ = changed_.isActive() || QGuiApplication::mouseButtons() != Qt::NoButton;
    // Where drawing takes long, the next change comes later.
    changed_.start(rest_ms + static_cast<int>(2 * frame_ms_));
    redraw();
}

void OrbitView::set_view(StandardView view) {
    camera_ = seen_from(view, camera_);
    fit_all();
}

void OrbitView::set_camera(const Camera& camera) {
    camera_ = camera;
    fit_wanted_ = false;
    camera_moved();
}

void OrbitView::set_perspective(bool perspective) {
    camera_.perspective = perspective;
    camera_moved();
}

void OrbitView::set_grid(bool shown) {
    grid_ = shown;
    redraw();
}

void OrbitView::fit_all() {
    fit(bounds());
    camera_moved();
}

void OrbitView::fit(const Box& box) {
    camera_.fit(box, view_size().aspect());
    fitted_ = camera_;
    fitted_to_ = box;
}

}  // namespace plume::app
