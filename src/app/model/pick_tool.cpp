#include "app/model/pick_tool.hpp"

#include <algorithm>

#include "app/model/model_view.hpp"
#include "app/theme/look.hpp"
#include "core/geometry/parts/address_list.hpp"
#include "core/picture/picking.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

constexpr double pick_reach = 12;
constexpr std::size_t most_marks = 4000;

}  // namespace

PickTool::PickTool(Document& document, ModelView& view, ItemId step, std::string slot)
    : ModelTool(document, view, step, std::move(slot)) {
    document.end_stroke();
    const Step* points = source();
    if (!points || points->show.visible) return;
    show_source(true, tr("show the points"));
    connect(this, &ModelTool::done, this, [this] { show_source(false, tr("hide the points")); });
}

void PickTool::show_source(bool visible, const QString& label) {
    const Step* points = source();
    if (!points || points->show.visible == visible) return;
    Show show = points->show;
    show.visible = visible;
    document_.apply(set_show(document_.study(), points->id, show), label, stroke());
}

// What is hidden again at the end is undone with the last pick.
std::string PickTool::stroke() const {
    return "pick " + std::to_string(step_) + ' ' + std::to_string(picks_);
}

const Step* PickTool::source() const {
    const Step* step = current();
    const StepKind* kind = step ? document_.kind_of(*step) : nullptr;
    const SlotSpec* slot = kind ? kind->first_reference() : nullptr;
    if (!slot) return nullptr;
    return document_.study().step(std::get<ResultName>(slot_value(*slot, *step)).name);
}

bool PickTool::of_points() const {
    const SlotSpec* slot = slot_spec();
    return slot && slot->of_points;
}

Items PickTool::items_in(const Value& value) const {
    return of_points() ? point_items_of(value) : items_of(value);
}

const Items* PickTool::pickable() {
    const Step* read = source();
    const Shown* shown = read ? document_.results().shown(read->id) : nullptr;
    if (!shown || !shown->value) return nullptr;
    if (read_ != shown->value) {  // every repaint asks for them
        read_ = shown->value;
        items_ = items_in(*read_);
        list_.reset();
    }
    return items_.listing ? &items_ : nullptr;
}

const std::vector<std::uint8_t>& PickTool::named() {
    const std::string list = std::get<Lines>(slot_value(*slot_spec(), *current())).text;
    if (list_ == list) return named_;
    list_ = list;
    auto read = items_.listing->named_in(list);
    named_ = read ? std::move(read->mask) : std::vector<std::uint8_t>();
    return named_;
}

std::optional<std::size_t> PickTool::index_at(QPointF cursor) const {
    const Shown* shown = document_.results().shown(source()->id);
    if (!shown->drawable) return {};
    const ViewPoint at{cursor.x(), cursor.y()};
    if (of_points())
        return pick_place(items_.count, items_.place, view_.camera(), view_.view_size(), at, pick_reach);
    // A point that lists name, else the part or line there: nodes of frames are no items of lists.
    if (shown->drawable->triangles.empty()) {
        const auto point = pick_point(*shown->drawable, view_.camera(), view_.view_size(), at, pick_reach);
        if (point && shown->drawable->points[point->point].index < items_.count)
            return shown->drawable->points[point->point].index;
    }
    const auto part = pick_part(*shown->drawable, view_.camera(), view_.view_size(), at, pick_reach);
    return part ? std::optional(part->part) : std::nullopt;
}

void PickTool::press(QPointF cursor, Qt::KeyboardModifiers /*modifiers*/) {
    const Items* const items = pickable();
    if (!items || !slot_spec()) return;
    const auto index = index_at(cursor);
    if (!index) return;
    const std::string before = std::get<Lines>(slot_value(*slot_spec(), *current())).text;
    const auto list = with_turned_over(before, *index, *items->listing);
    if (list) ++picks_;
    document_.apply(list ? set_slot(document_.study(), step_, slot_, Lines{*list}) : Edited(list.error()),
                    tr("pick"), stroke());
}

void PickTool::hover(QPointF cursor, Qt::KeyboardModifiers /*modifiers*/) {
    const auto index = pickable() ? index_at(cursor) : std::nullopt;
    // Nodes and vertices are ringed, but are no items that anything else knows.
    document_.attention().hover(index && !of_points() ? Hovered{source()->id, *index} : Hovered{});
    hovered_ = of_points() ? index : std::nullopt;
    if (of_points()) view_.redraw();
}

// A ring around everything that is named.
void PickTool::paint(QPainter& painter) {
    const Items* const items = pickable();
    if (!items || !slot_spec()) return;
    const std::vector<std::uint8_t>& named = this->named();
    painter.setPen(QPen(look().attention, 2));
    painter.setBrush(Qt::NoBrush);
    std::size_t marks = 0;
    if (hovered_ && *hovered_ < items->count)
        if (const auto at = view_.position_of(items->place(*hovered_))) painter.drawEllipse(*at, 4, 4);
    for (std::size_t index = 0; index < named.size() && marks < most_marks; ++index)
        if (named[index] != 0)
            if (const auto at = view_.position_of(items->place(index))) {
                painter.drawEllipse(*at, 7, 7);
                ++marks;
            }
}

QString PickTool::hint() const {
    const Step* read = source();
    const Shown* shown = read ? document_.results().shown(read->id) : nullptr;
    const std::string what = shown && shown->value ? items_in(*shown->value).are : "points";
    return tr("Click %1 of %2 to pick them, again to let them go · Return ends it")
        .arg(text_of(what), read ? text_of(read->name) : tr("the result above"));
}

}  // namespace plume::app
