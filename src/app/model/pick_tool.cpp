#include "app/model/pick_tool.hpp"

#include "app/model/model_view.hpp"
#include "app/theme/look.hpp"
#include "core/geometry/address_list.hpp"
#include "core/picture/picking.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

constexpr double pick_reach = 12;
constexpr std::size_t most_marks = 4000;

}  // namespace

PickTool::PickTool(Document& document, ModelView& view, ItemId step, std::string slot)
    : ModelTool(document, view, step, std::move(slot)), points_slot_("points") {
    const Step* points = source();
    if (!points || points->show.visible) return;
    Show show = points->show;
    show.visible = true;
    document.apply(set_show(document.study(), points->id, show), tr("show the points"));
}

const Step* PickTool::source() const {
    const Step* step = current();
    const StepKind* kind = step ? document_.kind_of(*step) : nullptr;
    const SlotSpec* slot = kind ? kind->slot(points_slot_) : nullptr;
    if (!slot) return nullptr;
    return document_.study().step(std::get<ResultName>(slot_value(*slot, *step)).name);
}

void PickTool::press(QPointF cursor, Qt::KeyboardModifiers /*modifiers*/) {
    const Step* points = source();
    const Shown* shown = points ? document_.shown(points->id) : nullptr;
    const PointLattice* lattice = shown && shown->value ? lattice_of(*shown->value) : nullptr;
    if (!lattice || !shown->drawable || !slot_spec()) return;
    const auto picked =
        pick_point(*shown->drawable, view_.camera(), view_.view_size(), {cursor.x(), cursor.y()}, pick_reach);
    if (!picked) return;
    const std::string address = address_text(*lattice, shown->drawable->points[picked->point].index);
    const std::string before = std::get<Lines>(slot_value(*slot_spec(), *current())).text;
    document_.apply(set_slot(document_.study(), step_, slot_, Lines{with_toggled(before, address)}),
                    tr("pick"));
}

// A ring around every point that is named.
void PickTool::paint(QPainter& painter) {
    const Step* points = source();
    const Shown* shown = points ? document_.shown(points->id) : nullptr;
    const PointLattice* lattice = shown && shown->value ? lattice_of(*shown->value) : nullptr;
    if (!lattice || !slot_spec()) return;
    const auto named = named_addresses(std::get<Lines>(slot_value(*slot_spec(), *current())).text, *lattice);
    if (!named) return;
    painter.setPen(QPen(look().attention, 2));
    painter.setBrush(Qt::NoBrush);
    std::size_t marks = 0;
    for (std::size_t index = 0; index < named->mask.size() && marks < most_marks; ++index)
        if (named->mask[index] != 0)
            if (const auto at = view_.position_of(lattice->point(index))) {
                painter.drawEllipse(*at, 7, 7);
                ++marks;
            }
}

QString PickTool::hint() const {
    const Step* points = source();
    return tr("Click points of %1 to pick them, again to let them go · Return or Escape ends it")
        .arg(points ? text_of(points->name) : tr("the result above"));
}

}  // namespace plume::app
