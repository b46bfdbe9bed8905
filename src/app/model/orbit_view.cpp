#include "app/model/orbit_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QPainter>
#include <QWheelEvent>
#include <cmath>
#include <tuple>

#include "app/document/document.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"

namespace plume::app {
namespace {

constexpr double slow_frame_ms = 40, quick_frame_ms = 8;

QSurfaceFormat wanted_format() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    return format;
}

QString found_why_not() {
    QOpenGLContext context;
    context.setFormat(wanted_format());
    QOffscreenSurface surface;
    surface.setFormat(wanted_format());
    surface.create();
    if (!context.create() || !context.makeCurrent(&surface))
        return OrbitView::tr(
            "The model cannot be drawn: this display gives no OpenGL context. Everything else works; install "
            "a graphics "
            "driver (on Debian: libgl1-mesa-dri) or use the command `plume picture`.");
    const auto version = context.format().version();
    context.doneCurrent();
    if (version < qMakePair(3, 3))
        return OrbitView::
            tr("The model cannot be drawn: OpenGL 3.3 is needed and this display offers %1.%2. Everything "
               "else works; update the "
               "graphics driver or use the command `plume picture`.")
                .arg(version.first)
                .arg(version.second);
    return {};
}

}  // namespace

// It stays so as long as the program runs, and finding it out makes a context.
QString OrbitView::why_not() {
    static const QString why = found_why_not();
    return why;
}

OrbitView::OrbitView(QWidget* parent) : QOpenGLWidget(parent) {
    setFormat(wanted_format());
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(240, 180);
    setAccessibleName(tr("Model"));
    setAccessibleDescription(
        tr("Arrow keys turn, Shift and arrows move, plus and minus zoom, F fits everything"));
    settle_.setSingleShot(true);
    settle_.setInterval(180);
    connect(&settle_, &QTimer::timeout, this, [this] {
        came_to_rest();
        if (!frame_now().looks_like(drawn_)) update();
    });
}

OrbitView::~OrbitView() {
    if (!ready_) return;
    makeCurrent();
    scene_.release();
    smooth_.reset();
    doneCurrent();
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

void OrbitView::initializeGL() {
    ready_ = scene_.initialize();
}

void OrbitView::resizeGL(int /*width*/, int /*height*/) {
    drawn_ = {};  // what it was drawn into is another one now
    // What was fitted and not looked at otherwise since stays so.
    if (!fitted_to_.empty() && camera_ == fitted_) fit(fitted_to_);
    Q_EMIT camera_changed();
}

double OrbitView::grid_step() const {
    return round_step(camera_.view_height() / 12);  // a tenth to a quarter of the view
}

// Bounds and the step of the grid follow from the rest.
bool OrbitView::Frame::looks_like(const Frame& other) const {
    const auto key = [](const Frame& frame) {
        const FrameOptions& with = frame.options;
        return std::tuple(with.camera, with.pixels, with.draft, with.grid, frame.smooth);
    };
    return key(*this) == key(other) && items == other.items && ghosts == other.ghosts;
}

OrbitView::Frame OrbitView::frame_now() const {
    const Box box = bounds();
    const bool at_rest = resting() || items_.empty();
    FrameOptions options;
    options.camera = camera_;
    options.pixels = size() * devicePixelRatioF();
    options.pixel_ratio = devicePixelRatioF();
    options.draft = !at_rest && slow();
    options.grid = grid_;
    options.grid_step = grid_step();
    options.bounds = box;
    if (!box.empty()) options.bounds.include(Vec3{box.centre().x, box.centre().y, std::min(0.0, box.low.z)});
    return {drawn_items(), ghosts_, options, at_rest || frame_ms_ < quick_frame_ms};
}

void OrbitView::paintGL() {
    if (!ready_) return;
    if (fit_wanted_ && !bounds().empty()) {
        fit(bounds());
        fit_wanted_ = false;
        Q_EMIT camera_changed();
    }
    QElapsedTimer timer;
    timer.start();
    drawn_ = frame_now();
    if (drawn_.smooth)
        draw_smoothly(drawn_);
    else
        scene_.draw(drawn_.items, drawn_.ghosts, drawn_.options);
    context()->functions()->glFinish();
    if (drawn_.smooth && !items_.empty()) frame_ms_ = static_cast<double>(timer.nsecsElapsed()) * 1e-6;
    QPainter painter(this);
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
    QOpenGLWidget::focusInEvent(event);
    update();
}

void OrbitView::focusOutEvent(QFocusEvent* event) {
    reached_by_keys_ = false;
    QOpenGLWidget::focusOutEvent(event);
    update();
}

QImage OrbitView::picture() {
    return frame_now().looks_like(drawn_) ? read_frame() : grabFramebuffer();
}

QImage OrbitView::read_frame() {
    makeCurrent();
    QImage image(drawn_.options.pixels, QImage::Format_RGBX8888);
    context()->functions()->glReadPixels(0, 0, image.width(), image.height(), GL_RGBA, GL_UNSIGNED_BYTE,
                                         image.bits());
    image.setDevicePixelRatio(drawn_.options.pixel_ratio);
    doneCurrent();
    return image.mirrored();
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
void OrbitView::draw_smoothly(const Frame& frame) {
    if (!smooth_ || smooth_->size() != frame.options.pixels) {
        QOpenGLFramebufferObjectFormat format;
        format.setAttachment(QOpenGLFramebufferObject::CombinedDepthStencil);
        format.setSamples(samples);
        smooth_ = std::make_unique<QOpenGLFramebufferObject>(frame.options.pixels, format);
    }
    smooth_->bind();
    scene_.draw(frame.items, frame.ghosts, frame.options);
    smooth_->release();
    QOpenGLFramebufferObject::blitFramebuffer(nullptr, smooth_.get());
    context()->functions()->glBindFramebuffer(GL_FRAMEBUFFER, defaultFramebufferObject());
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
    update();
}

void OrbitView::wheelEvent(QWheelEvent* event) {
    const double steps = event->angleDelta().y() / 120.0;
    zoom_to(camera_, view_size(), {event->position().x(), event->position().y()}, std::pow(1.15, steps));
    camera_moved();
    event->accept();
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
    const auto zoom = [&](double factor) {
        zoom_to(camera_, view_size(), {width() / 2.0, height() / 2.0}, factor);
        camera_moved();
    };
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
            return zoom(1.2);
        case Qt::Key_Minus:
            return zoom(1 / 1.2);
        case Qt::Key_F:
            return fit_all();
        default:
            QOpenGLWidget::keyPressEvent(event);
    }
}

void OrbitView::camera_moved() {
    settle_.start();
    Q_EMIT camera_changed();
    update();
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
    update();
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
