#include "app/receiving/received_view.hpp"

#include <QPainter>

#include "app/document/document.hpp"
#include "app/model/hover.hpp"
#include "app/model/note.hpp"
#include "core/receiving/model_groups.hpp"

namespace plume::app {
namespace {

// The drawables have no steps; numbers tell them apart.
constexpr ItemId shapes_id = 1, axes_id = 2;

void add(std::vector<SceneItem>& items, ItemId id, const std::shared_ptr<const Drawable>& drawable) {
    if (drawable) items.push_back({id, drawable, {}, false});
}

}  // namespace

QStringList lines_about(const Received::Part& part) {
    QStringList lines, figures;
    lines << text_of(description_of(part.taken->element));
    if (const auto volume = part.volume_m3()) figures << text_of(figure_text(volume, {3, 0}));
    if (const auto area = part.area_m2()) figures << text_of(figure_text(area, {2, 0}));
    if (const auto along = part.length_m()) figures << text_of(figure_text(along, a_length));
    if (!figures.isEmpty()) lines << figures.join(", ");
    return lines;
}

ReceivedView::ReceivedView(QWidget* parent) : OrbitView(parent) {
    setObjectName("received-model");
    setAccessibleName(tr("What arrived"));
}

void ReceivedView::show_state(const Receiver::StatePointer& state) {
    const bool another = !state || !state_ || state->here.folder() != state_->here.folder() || items_.empty();
    state_ = state;
    parts_ = state ? state->here.parts() : std::vector<Received::Part>();
    hovered_ = {};
    items_.clear();
    ghosts_.clear();
    if (state) {
        add(items_, shapes_id, state->picture.shapes);
        add(items_, axes_id, state->picture.axes);
    }
    const bool sees_all = !bounds().empty() && camera_.sees(bounds(), view_size().aspect());
    if (another || !sees_all) fit_wanted_ = true;
    redraw();
}

void ReceivedView::show_in_hand(const std::vector<std::size_t>& parts) {
    ghosts_.clear();
    if (!parts.empty()) {
        std::vector<std::uint8_t> shown(parts_.size(), 0);
        for (const std::size_t part : parts)
            if (part < shown.size()) shown[part] = 1;
        if (const auto picture = picture_of(parts_, shown, Run())) {
            add(ghosts_, shapes_id, picture->shapes);
            add(ghosts_, axes_id, picture->axes);
        }
    }
    redraw();
}

std::optional<std::size_t> ReceivedView::part_at(QPointF cursor) const {
    const Hovered found = part_under(cursor, *this);
    if (found.step == 0) return {};
    const auto& of = found.step == shapes_id ? state_->picture.shape_parts : state_->picture.axis_parts;
    return found.index < of.size() ? std::optional(of[found.index]) : std::nullopt;
}

void ReceivedView::hover_at(QPointF cursor) {
    hovered_ = part_at(cursor);
    redraw();
}

void ReceivedView::clicked() {
    if (const auto part = part_at(pressed_)) Q_EMIT part_clicked(*part);
}

void ReceivedView::leaveEvent(QEvent* /*event*/) {
    hovered_ = {};
    redraw();
}

void ReceivedView::paint_over(QPainter& painter) {
    OrbitView::paint_over(painter);
    if (!hovered_ || turning_or_moving()) return;
    const Received::Part& part = parts_[*hovered_];
    draw_note(painter, QStringList(text_of(part.taken->element.name)) + lines_about(part), cursor_at(),
              rect());
}

}  // namespace plume::app
