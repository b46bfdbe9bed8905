#include "app/model/model_tool.hpp"

namespace plume::app {

ModelTool::ModelTool(Document& document, ModelView& view, ItemId step, std::string slot)
    : document_(document), view_(view), step_(step), slot_(std::move(slot)) {}

const SlotSpec* ModelTool::slot_spec() const {
    const Step* step = current();
    const StepKind* kind = step ? document_.kind_of(*step) : nullptr;
    return kind ? kind->slot(slot_) : nullptr;
}

}  // namespace plume::app
