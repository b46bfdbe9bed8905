#include "app/model/model_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QPainter>
#include <QWheelEvent>
#include <cmath>

#include "app/model/hover.hpp"
#include "app/model/labels.hpp"
#include "app/model/outline_tool.hpp"
#include "app/model/pick_tool.hpp"
#include "app/parts/step_actions.hpp"
#include "app/theme/look.hpp"
#include "core/base/numbers.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

constexpr double slow_frame_ms = 40;

QSurfaceFormat wanted_format() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    format.setSamples(4);
    return format;
}

}  // namespace

QString ModelView::why_not() {
    QOpenGLContext context;
    context.setFormat(wanted_format());
    QOffscreenSurface surface;
    surface.setFormat(wanted_format());
    surface.create();
    if (!context.create() || !context.makeCurrent(&surface))
        return tr(
            "The model cannot be drawn: this display gives no OpenGL context. Everything else works; install "
            "a graphics "
            "driver (on Debian: libgl1-mesa-dri) or use the command `plume picture`.");
    const auto version = context.format().version();
    context.doneCurrent();
    if (version < qMakePair(3, 3))
        return tr("The model cannot be drawn: OpenGL 3.3 is needed and this display offers %1.%2. Everything "
                  "else works; update the "
                  "graphics driver or use the command `plume picture`.")
            .arg(version.first)
            .arg(version.second);
    return {};
}

ModelView::ModelView(Document& document, QWidget* parent)
    : QOpenGLWidget(parent), document_(document), dragging_(document, *this) {
    setFormat(wanted_format());
    setObjectName("model");
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumSize(240, 180);
    setAccessibleName(tr("Model"));
    setAccessibleDescription(
        tr("Arrow keys turn, Shift and arrows move, plus and minus zoom, F fits everything"));
    settle_.setSingleShot(true);
    settle_.setInterval(180);
    connect(&settle_, &QTimer::timeout, this, &ModelView::rest);
    connect(&document.results(), &Results::notes_changed, this, QOverload<>::of(&QWidget::update));
    connect(&document.results(), &Results::evaluation_changed, this, &ModelView::collect);
    connect(&document, &Document::replaced, this, [this] {
        set_view(StandardView::above);
        met_.clear();
        fit_wanted_ = true;
    });
    connect(&document, &Document::study_changed, this, &ModelView::collect);
    connect(&document.attention(), &Attention::drawing_wanted, this,
            [this](ItemId step, const std::string& slot) {
                set_view(StandardView::plan);
                start_tool(std::make_unique<OutlineTool>(document_, *this, step, slot));
            });
    connect(&document.attention(), &Attention::picking_wanted, this,
            [this](ItemId step, const std::string& slot) {
                start_tool(std::make_unique<PickTool>(document_, *this, step, slot));
            });
    connect(&document, &Document::replaced, this, &ModelView::end_tool);
    connect(&document.results(), &Results::notes_changed, this, &ModelView::collect);
    connect(&document.attention(), &Attention::selection_changed, this, QOverload<>::of(&QWidget::update));
    connect(&document.attention(), &Attention::hover_changed, this, QOverload<>::of(&QWidget::update));
}

ModelView::~ModelView() {
    if (!ready_) return;
    makeCurrent();
    scene_.release();
    doneCurrent();
}

void ModelView::start_tool(std::unique_ptr<ModelTool> tool) {
    // Not deleted in the middle of its own signal.
    if (tool_) tool_.release()->deleteLater();
    tool_ = std::move(tool);
    connect(tool_.get(), &ModelTool::done, this, &ModelView::end_tool);
    connect(tool_.get(), &ModelTool::hint_changed, this, &ModelView::tool_changed);
    document_.attention().select(tool_->step());
    setFocus(Qt::OtherFocusReason);
    setCursor(Qt::CrossCursor);
    Q_EMIT tool_changed();
    update();
}

QString ModelView::hint() const {
    if (tool_) return tool_->hint();
    return dragging_.dragging() ? dragging_.hint() : QString();
}

void ModelView::end_tool() {
    if (!tool_) return;
    tool_.release()->deleteLater();
    unsetCursor();
    Q_EMIT tool_changed();
    update();
}

void ModelView::collect() {
    const std::vector<SceneItem> before = std::exchange(items_, {});
    dragging_.collect();
    if (tool_ && !document_.study().step(tool_->step())) end_tool();
    const auto& handed = document_.results().handed();
    for (const auto& [step, drawable] : handed) {
        Show show = document_.study().step(step) ? document_.study().step(step)->show : Show();
        show.material = {};
        items_.push_back({step, drawable, show, false});
    }
    for (const Item& item : document_.study().items) {
        const Step* step = step_of(item);
        const Shown* shown = step ? document_.results().shown(step->id) : nullptr;
        // Where it is looked at what leaves, nothing else is there.
        if (!handed.empty() || !shown || !shown->drawable || !step->show.visible) continue;
        items_.push_back({step->id, shown->drawable, step->show, false});
        // What a step just added makes is seen whole; later it moves where one looks.
        const bool met = !met_.insert(step->id).second;
        if (!met && !tool_ && !camera_.sees(shown->drawable->bounds, view_size().aspect()))
            fit_wanted_ = true;
    }
    ghosts_.clear();
    for (const auto& drawable : document_.results().ghost().drawables)
        ghosts_.push_back({0, drawable, {}, false});
    if (document_.study().items.empty()) fit_wanted_ = true;
    if (!document_.results().behind()) follow_unit();
    if (frame_ms_ > slow_frame_ms && any_large_is_new(before)) settle_.start();
    update();
}

// Something that has a draft and was not drawn yet: the draft is there at once, the rest when that is seen.
bool ModelView::any_large_is_new(const std::vector<SceneItem>& before) const {
    return std::ranges::any_of(items_, [&](const SceneItem& item) {
        return !item.drawable->coarse.empty() &&
               std::ranges::find(before, item.drawable, &SceneItem::drawable) == before.end();
    });
}

// The same form in another unit is seen from the same place.
void ModelView::follow_unit() {
    const LengthUnit now = document_.study().units.length;
    if (now == unit_) return;
    const double factor = metres_per(unit_) / metres_per(now);
    camera_.target = camera_.target * factor;
    camera_.distance *= factor;
    unit_ = now;
    view_number_ = 0;
    Q_EMIT camera_changed();
}

Box ModelView::bounds() const {
    Box box;
    for (const auto* items : {&items_, &ghosts_})
        for (const SceneItem& item : *items)
            box.include(item.drawable->bounds);
    return box;
}

void ModelView::initializeGL() {
    ready_ = scene_.initialize();
}

void ModelView::resizeGL(int /*width*/, int /*height*/) {
    Q_EMIT camera_changed();
}

double ModelView::grid_step() const {
    return round_step(camera_.view_height() / 12);  // a tenth to a quarter of the view
}

void ModelView::rest() {
    const bool refine =
        std::ranges::any_of(items_, [](const SceneItem& item) { return item.drawable->refines; });
    if (refine) view_number_ = document_.attention().look_from({camera_, view_size().aspect()});
    update();
}

std::vector<SceneItem> ModelView::drawn_items() const {
    std::vector<SceneItem> drawn = items_;
    const Closer& closer = document_.results().closer();
    if (view_number_ == 0 || closer.view != view_number_ || settle_.isActive()) return drawn;
    for (SceneItem& item : drawn) {
        const auto found = closer.surfaces.find(item.step);
        const Shown* shown = document_.results().shown(item.step);
        if (found == closer.surfaces.end() || !found->second.drawable || !shown) continue;
        if (found->second.key == shown->key && found->second.colour_by == item.show.colour_by &&
            !shown->stale)
            item.drawable = found->second.drawable;
    }
    return drawn;
}

void ModelView::paintGL() {
    if (!ready_) return;
    const Box box = bounds();
    if (fit_wanted_ && !box.empty()) {
        camera_.fit(box, view_size().aspect());
        fit_wanted_ = false;
        Q_EMIT camera_changed();
    }
    QElapsedTimer timer;
    timer.start();
    FrameOptions options;
    options.camera = camera_;
    options.pixels = size() * devicePixelRatioF();
    options.pixel_ratio = devicePixelRatioF();
    options.draft = settle_.isActive() && frame_ms_ > slow_frame_ms;
    options.grid = grid_;
    options.grid_step = grid_step();
    options.bounds = box;
    if (!box.empty()) options.bounds.include(Vec3{box.centre().x, box.centre().y, std::min(0.0, box.low.z)});
    scene_.draw(drawn_items(), ghosts_, options);
    context()->functions()->glFinish();
    if (!options.draft && !items_.empty()) frame_ms_ = static_cast<double>(timer.nsecsElapsed()) * 1e-6;
    QPainter painter(this);
    paint_over(painter);
}

QImage ModelView::picture() {
    return grabFramebuffer();
}

// Over the model ------------------------------------------------------------------------------------------

std::optional<QPointF> ModelView::position_of(Vec3 point) const {
    double x = 0, y = 0, depth = 0;
    if (!camera_.project(point, view_size().aspect(), x, y, depth)) return {};
    return QPointF(x * width(), y * height());
}

void ModelView::paint_over(QPainter& painter) {
    painter.setRenderHint(QPainter::Antialiasing);
    paint_labels(painter, document_, *this);
    paint_scale(painter);
    if (tool_) {
        tool_->paint(painter);
    } else {
        paint_signs(painter);
        dragging_.paint(painter);
    }
    paint_hover(painter, document_, *this);
}

// Handles are drawn with the model, but for the sign of those that turn their answer round.
void ModelView::paint_signs(QPainter& painter) {
    for (const SceneItem& item : items_) {
        if (!item.show.points) continue;
        painter.setPen(QPen(Qt::white, 2));
        for (const Vec3 place : item.drawable->minus_signs)
            if (const auto at = position_of(place))
                painter.drawLine(*at - QPointF(4, 0), *at + QPointF(4, 0));
    }
}

void ModelView::paint_scale(QPainter& painter) {
    if (items_.empty()) return;
    const double step = grid_step();
    const double pixels = step / camera_.view_height() * height();
    const QPointF from(18, height() - 20);
    painter.setPen(QPen(look().second_ink, 1.5));
    painter.drawLine(from, from + QPointF(pixels, 0));
    for (const double end : {0.0, pixels})
        painter.drawLine(from + QPointF(end, -3), from + QPointF(end, 3));
    painter.setFont(text_font(11));
    const QString text = text_of(quantity_text({step, a_length}, document_.study().units));
    painter.drawText(from + QPointF(0, -8), tr("%1 a square of the ground").arg(text));
}

// Mouse and keys ------------------------------------------------------------------------------------------

void ModelView::hover_at(QPointF cursor) {
    document_.attention().hover(hovered_under(cursor, *this));
    setCursor(dragging_.over_handle(cursor) ? Qt::OpenHandCursor : Qt::ArrowCursor);
}

void ModelView::mousePressEvent(QMouseEvent* event) {
    pressed_ = last_ = event->position();
    moved_ = false;
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    if (tool_ && event->button() == Qt::LeftButton && !shift)
        return tool_->press(pressed_, event->modifiers());
    const bool beside = event->modifiers() & Qt::ControlModifier;
    if (event->button() == Qt::LeftButton && !shift && dragging_.press(pressed_, beside)) {
        gesture_ = Gesture::drag_place;
        setCursor(Qt::ClosedHandCursor);
        Q_EMIT tool_changed();
    } else {
        gesture_ = event->button() == Qt::LeftButton && !shift ? Gesture::turn : Gesture::move;
    }
}

void ModelView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF cursor = event->position(), by = cursor - last_;
    if (gesture_ == Gesture::none && tool_) return tool_->hover(cursor, event->modifiers());
    if (gesture_ == Gesture::none) return hover_at(cursor);
    moved_ = moved_ || (cursor - pressed_).manhattanLength() > 3;
    if (!moved_) return;
    last_ = cursor;
    if (gesture_ == Gesture::drag_place) {
        dragging_.drag(cursor);
        return update();
    }
    if (gesture_ == Gesture::turn)
        orbit(camera_, {by.x(), by.y()});
    else
        pan(camera_, view_size(), {by.x(), by.y()});
    camera_moved();
}

void ModelView::mouseReleaseEvent(QMouseEvent* event) {
    if (gesture_ == Gesture::drag_place) {
        dragging_.release();
        Q_EMIT tool_changed();
    }
    if (gesture_ == Gesture::turn && !moved_ && document_.attention().hovered().step != 0)
        document_.attention().select(document_.attention().hovered().step);
    gesture_ = Gesture::none;
    if (!tool_) hover_at(event->position());
    update();
}

void ModelView::wheelEvent(QWheelEvent* event) {
    const double steps = event->angleDelta().y() / 120.0;
    zoom_to(camera_, view_size(), {event->position().x(), event->position().y()}, std::pow(1.15, steps));
    camera_moved();
    event->accept();
}

void ModelView::keyPressEvent(QKeyEvent* event) {
    if (tool_ && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) return tool_->accept();
    if (tool_ && event->key() == Qt::Key_Escape) return tool_->give_up();
    if (tool_ && tool_->key(*event)) return;
    if (!tool_ && dragging_.key(*event)) {
        Q_EMIT tool_changed();
        return update();
    }
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    constexpr double by = 24;
    const auto go = [&](double x, double y) {
        if (shift)
            pan(camera_, view_size(), {x, y});
        else
            orbit(camera_, {x, y});
        camera_moved();
    };
    const ViewPoint middle{width() / 2.0, height() / 2.0};
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
            zoom_to(camera_, view_size(), middle, 1.2);
            return camera_moved();
        case Qt::Key_Minus:
            zoom_to(camera_, view_size(), middle, 1 / 1.2);
            return camera_moved();
        case Qt::Key_F:
            return fit_all();
        case Qt::Key_L:
            return toggle_labels(document_, document_.attention().selected());
        default:
            QOpenGLWidget::keyPressEvent(event);
    }
}

void ModelView::leaveEvent(QEvent* /*event*/) {
    document_.attention().hover({});
}

void ModelView::camera_moved() {
    view_number_ = 0;
    settle_.start();
    Q_EMIT camera_changed();
    update();
}

void ModelView::set_view(StandardView view) {
    camera_ = seen_from(view, camera_);
    fit_all();
}

void ModelView::set_perspective(bool perspective) {
    camera_.perspective = perspective;
    camera_moved();
}

void ModelView::set_grid(bool shown) {
    grid_ = shown;
    update();
}

void ModelView::fit_all() {
    camera_.fit(bounds(), view_size().aspect());
    camera_moved();
}

void ModelView::fit_selection() {
    for (const SceneItem& item : items_)
        if (item.step == document_.attention().selected()) {
            camera_.fit(item.drawable->bounds, view_size().aspect());
            return camera_moved();
        }
    fit_all();
}

}  // namespace plume::app
