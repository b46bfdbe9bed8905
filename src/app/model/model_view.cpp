#include "app/model/model_view.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <utility>

#include "app/model/hover.hpp"
#include "app/model/labels.hpp"
#include "app/model/outline_tool.hpp"
#include "app/model/pick_tool.hpp"
#include "app/parts/step_actions.hpp"
#include "app/theme/look.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
ModelView::ModelView(Document& document, QWidget* parent)
    : OrbitView(parent), document_(document), dragging_(document, *this) {
    setObjectName("model");
    connect(&document.results(), &Results::notes_changed, this, &ModelView::redraw);
    connect(&document.results(), &Results::evaluation_changed, this, &ModelView::collect);
    connect(&document.results(), &Results::pictures_changed, this, &ModelView::collect);
    connect(&document, &Document::replaced, this, [this] {
        set_view(StandardView::above);
        met_.clear();
        // The view may be drawn, and fitted, before there is anything of the new one.
        items_.clear();
        ghosts_.clear();
        fit_wanted_ = true;
        // It is looked at anew, not from where the other one was.
        unit_ = document_.study().units.length;
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
    connect(&document.playing(), &Playing::moment_changed, this, [this] {
        dragging_.collect();
        if (!dragging_.empty()) redraw();
    });
    connect(&document.attention(), &Attention::selection_changed, this, &ModelView::redraw);
    connect(&document.attention(), &Attention::hover_changed, this, &ModelView::redraw);
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
    redraw();
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
    redraw();
}

void ModelView::collect() {
    const std::vector<SceneItem> before = std::exchange(items_, {});
    const std::vector<SceneItem> ghosts_before = std::exchange(ghosts_, {});
    const Units units_before = std::exchange(units_, units());
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
    for (const auto& drawable : document_.results().ghost().drawables)
        ghosts_.push_back({0, drawable, {}, false});
    if (document_.results().gone()) ghosts_.push_back({0, document_.results().gone(), {}, false});
    if (document_.study().items.empty()) fit_wanted_ = true;
    if (!document_.results().behind()) follow_unit();
    if (slow() && any_large_is_new(before)) draft_once();
    // A form of very many parts is not drawn again where only its sentence changed until now.
    const bool same = items_ == before && ghosts_ == ghosts_before && units_ == units_before;
    if (!same)
        form_changed();
    else if (fit_wanted_ || says_more_than_drawn())
        redraw();
    if (flowing()) look_roughly();
}

// Handles follow the sentence before there is a result; labels tell numbers that no drawing has.
bool ModelView::says_more_than_drawn() const {
    return tool_ || !dragging_.empty() ||
           std::ranges::any_of(items_, [](const SceneItem& item) { return item.show.labels; });
}

// Something that has a draft and was not drawn yet: the draft is there at once, the rest when that is seen.
bool ModelView::any_large_is_new(const std::vector<SceneItem>& before) const {
    const auto has_draft = [](const Drawable& drawable) {
        return !drawable.coarse.empty() || drawable.points.size() > most_points_in_draft ||
               drawable.edges.size() > 2 * most_points_in_draft;
    };
    return std::ranges::any_of(items_, [&](const SceneItem& item) {
        return has_draft(*item.drawable) &&
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

// Nothing is made finely for what is gone in a moment.
void ModelView::look_roughly() {
    view_number_ = 0;
    document_.attention().look_roughly();
}

void ModelView::came_to_rest() {
    const bool refine =
        std::ranges::any_of(items_, [](const SceneItem& item) { return item.drawable->refines; });
    if (refine) view_number_ = document_.attention().look_from({camera_, view_size().aspect()});
}

std::vector<SceneItem> ModelView::drawn_items() const {
    std::vector<SceneItem> drawn = items_;
    const Closer& closer = document_.results().closer();
    if (view_number_ == 0 || closer.view != view_number_ || !resting()) return drawn;
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

// Over the model ------------------------------------------------------------------------------------------

void ModelView::paint_over(QPainter& painter) {
    paint_labels(painter, document_, *this);
    paint_scale(painter);
    if (tool_) {
        tool_->paint(painter);
    } else {
        paint_signs(painter);
        dragging_.paint(painter);
    }
    paint_asked(painter, document_, *this);
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

// Mouse and keys ------------------------------------------------------------------------------------------

void ModelView::hover_at(QPointF cursor) {
    if (tool_) return;
    document_.attention().hover(hovered_under(cursor, *this));
    setCursor(dragging_.over_handle(cursor) ? Qt::OpenHandCursor : Qt::ArrowCursor);
}

void ModelView::clicked() {
    if (document_.attention().hovered().step != 0)
        document_.attention().select(document_.attention().hovered().step);
    document_.attention().hold(document_.attention().hovered());
}

void ModelView::mousePressEvent(QMouseEvent* event) {
    pressed_ = event->position();
    moved_ = false;
    const bool left = event->button() == Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier);
    if (tool_ && left) return tool_->press(pressed_, event->modifiers());
    const bool beside = event->modifiers() & Qt::ControlModifier;
    if (!left || !dragging_.press(pressed_, beside)) return OrbitView::mousePressEvent(event);
    dragging_place_ = true;
    setCursor(Qt::ClosedHandCursor);
    Q_EMIT tool_changed();
}

void ModelView::mouseMoveEvent(QMouseEvent* event) {
    const QPointF cursor = event->position();
    if (!dragging_place_ && !turning_or_moving() && tool_) return tool_->hover(cursor, event->modifiers());
    if (!dragging_place_) return OrbitView::mouseMoveEvent(event);
    moved_ = moved_ || (cursor - pressed_).manhattanLength() > 3;
    if (!moved_) return;
    dragging_.drag(cursor);
    redraw();
}

void ModelView::mouseReleaseEvent(QMouseEvent* event) {
    if (std::exchange(dragging_place_, false)) {
        dragging_.release();
        Q_EMIT tool_changed();
    }
    OrbitView::mouseReleaseEvent(event);
}

void ModelView::keyPressEvent(QKeyEvent* event) {
    if (tool_ && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) return tool_->accept();
    if (tool_ && event->key() == Qt::Key_Escape) return tool_->give_up();
    if (tool_ && tool_->key(*event)) return;
    if (!tool_ && dragging_.key(*event)) {
        Q_EMIT tool_changed();
        return redraw();
    }
    if (event->key() == Qt::Key_L) return toggle_labels(document_, document_.attention().selected());
    OrbitView::keyPressEvent(event);
}

void ModelView::leaveEvent(QEvent* /*event*/) {
    document_.attention().hover({});
}

void ModelView::camera_moved() {
    look_roughly();
    OrbitView::camera_moved();
}

void ModelView::fit_selection() {
    for (const SceneItem& item : items_)
        if (item.step == document_.attention().selected()) {
            fit(item.drawable->bounds);
            return camera_moved();
        }
    fit_all();
}

}  // namespace plume::app
