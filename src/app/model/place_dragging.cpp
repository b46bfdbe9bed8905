#include "app/model/place_dragging.hpp"

#include <QKeyEvent>
#include <cmath>

#include "app/document/moment_edits.hpp"
#include "app/model/hover.hpp"
#include "app/model/model_view.hpp"
#include "app/theme/look.hpp"

namespace plume::app {

void PlaceDragging::collect() {
    handles_.clear();
    for (const Item& item : document_.study().items) {
        const Step* step = step_of(item);
        const StepKind* kind = step ? document_.kind_of(*step) : nullptr;
        if (!kind || step->muted || !step->show.visible || !step->show.points) continue;
        for (PlaceHandle& handle :
             place_handles(document_.study(), *kind, *step, shown_value(), document_.playing().seconds()))
            handles_.push_back(std::move(handle));
    }
    lines_ = handle_lines(document_.study(), document_.catalogue(), handles_);
    std::set<Name> there;
    for (const PlaceHandle& handle : handles_)
        there.insert(name_of(handle));
    std::erase_if(chosen_, [&](const Name& name) { return !there.contains(name); });
}

ShownValue PlaceDragging::shown_value() const {
    return [&document = document_](const std::string& result) -> const Value* {
        const Shown* shown = document.results().shown(result);
        return shown && shown->value ? shown->value.get() : nullptr;
    };
}

std::optional<std::size_t> PlaceDragging::at(QPointF cursor) const {
    std::optional<std::size_t> best;
    double nearest = handle_reach;
    for (std::size_t index = 0; index < handles_.size(); ++index) {
        const auto place = view_.position_of(handles_[index].position);
        const double apart = place ? QLineF(*place, cursor).length() : nearest;
        if (apart >= nearest) continue;
        nearest = apart;
        best = index;
    }
    return best;
}

bool PlaceDragging::press(QPointF cursor, bool beside) {
    const auto index = at(cursor);
    if (!index) {
        if (!beside) chosen_.clear();
        return false;
    }
    const PlaceHandle& handle = handles_[*index];
    document_.attention().select(handle.step);
    if (beside) {
        if (!chosen_.insert(name_of(handle)).second) chosen_.erase(name_of(handle));
        take_in_hand({});
        return true;
    }
    if (!chosen_.contains(name_of(handle))) chosen_.clear();
    take_in_hand({handle});
    grabbed_ = handle;
    now_ = handle.position;
    taken_ = {handle};
    for (const PlaceHandle& other : handles_)
        if (chosen_.contains(name_of(other)) && name_of(other) != name_of(handle)) taken_.push_back(other);
    hold_ = DragHold::free;
    return true;
}

// Those that are chosen, and these.
void PlaceDragging::take_in_hand(const std::vector<PlaceHandle>& beside) const {
    std::vector<Keyed> things;
    const auto add = [&](const PlaceHandle& handle) {
        const Keyed what = keyed_place(handle.step, handle.slot, handle.index);
        if (!handle.image && std::ranges::find(things, what) == things.end()) things.push_back(what);
    };
    std::ranges::for_each(beside, add);
    for (const PlaceHandle& handle : handles_)
        if (chosen_.contains(name_of(handle))) add(handle);
    document_.playing().take_in_hand(std::move(things));
}

void PlaceDragging::drag(QPointF cursor) {
    if (!grabbed_) return;
    cursor_ = cursor;
    const Vec3 start = grabbed_->position;
    const auto to = dragged_to(view_.camera(), view_.view_size(), {cursor.x(), cursor.y()},
                               hold_ == DragHold::free ? now_ : start, hold_);
    if (!to) return;
    // Rounded to about a pixel, so that the sentence does not fill with digits; what stays is left alone.
    const double unit = std::pow(10.0, std::floor(std::log10(view_.camera().view_height() / view_.height())));
    const auto rounded = [&](double value, double before) {
        return value == before ? value : std::round(value / unit) * unit;
    };
    const Vec3 there{rounded(to->x, start.x), rounded(to->y, start.y), rounded(to->z, start.z)};
    std::vector<PlaceMove> moves;
    for (const PlaceHandle& handle : taken_)
        moves.push_back({handle.step, handle.slot, handle.index,
                         moves.empty() ? there : handle.position + (there - start), unit});
    const std::string stroke =
        "drag " + std::to_string(grabbed_->step) + " " + std::to_string(grabbed_->index);
    // A key is set at one moment; what has none is dragged while time goes on.
    const bool keyed = std::ranges::any_of(taken_, &PlaceHandle::keyed);
    if (keyed && !document_.playing().is_recording()) document_.playing().pause();
    if (move_places_now(document_, moves, shown_value(), stroke)) now_ = there;
}

void PlaceDragging::release() {
    if (grabbed_) document_.end_stroke();
    grabbed_.reset();
}

bool PlaceDragging::key(const QKeyEvent& event) {
    if (event.key() == Qt::Key_Escape && !grabbed_ && !chosen_.empty()) {
        chosen_.clear();
        return true;
    }
    if (event.key() == Qt::Key_K && !(event.modifiers() & ~Qt::KeypadModifier))
        return document_.playing().key_in_hand();
    if (!grabbed_ || event.key() < Qt::Key_X || event.key() > Qt::Key_Z) return false;
    const bool plane = event.modifiers() & Qt::ShiftModifier;
    const auto wanted = static_cast<DragHold>(event.key() - Qt::Key_X + (plane ? 4 : 1));
    hold_ = hold_ == wanted ? DragHold::free : wanted;
    // What was moved another way before goes back.
    now_ = grabbed_->position;
    drag(cursor_);
    return true;
}

QString PlaceDragging::hint() const {
    static const char* const held[] = {
        "", "along X", "along Y", "along Z", "in the YZ plane", "in the XZ plane", "in plan"};
    const QString also = taken_.size() > 1 ? tr("%1 together, ").arg(taken_.size()) : QString();
    if (hold_ != DragHold::free)
        return tr("Dragging %1%2 · the same key frees it").arg(also, held[static_cast<std::size_t>(hold_)]);
    return tr("Dragging %1· X, Y or Z holds it to an axis, with Shift to the plane square to it").arg(also);
}

// A result that draws its own handles needs no squares.
bool PlaceDragging::drawn_elsewhere(const PlaceHandle& handle) const {
    const Shown* shown = document_.results().shown(handle.step);
    return shown && shown->drawable && shown->drawable->points_are == PointRole::handles;
}

void PlaceDragging::paint_lines(QPainter& painter) const {
    QColor colour = look().threads[1];
    colour.setAlphaF(0.55F);
    painter.setPen(QPen(colour, 1, Qt::DashLine));
    for (const auto& [from, to] : lines_) {
        const auto a = view_.position_of(handles_[from].position),
                   b = view_.position_of(handles_[to].position);
        if (a && b) painter.drawLine(*a, *b);
    }
}

void PlaceDragging::paint(QPainter& painter) const {
    paint_lines(painter);
    painter.setPen(QPen(look().threads[1], 1.5));
    for (const PlaceHandle& handle : handles_) {
        const auto place = view_.position_of(handle.position);
        const bool chosen = chosen_.contains(name_of(handle)), elsewhere = drawn_elsewhere(handle);
        if (!place) continue;
        painter.setBrush(elsewhere ? QBrush(Qt::NoBrush) : chosen ? look().threads[1] : look().page);
        // One that is drawn with the model shows by a ring that it is chosen.
        if (elsewhere && chosen)
            painter.drawEllipse(*place, 11, 11);
        else if (!elsewhere && handle.keyed)
            painter.drawEllipse(*place, 5, 5);
        else if (!elsewhere)
            painter.drawRect(QRectF(place->x() - 4, place->y() - 4, 8, 8));
    }
    if (!grabbed_) return;
    const auto place = view_.position_of(now_);
    painter.setPen(QPen(look().threads[1], 2));
    painter.setBrush(Qt::NoBrush);
    if (place) painter.drawEllipse(*place, 13, 13);
}

}  // namespace plume::app
