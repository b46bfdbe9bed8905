// The result of a step above.

#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    const Result<ReadResult> read = from.result(slot, std::get<ResultName>(value).name);
    if (!read) return about_slot(read.error(), slot);
    return Resolved(*read);
}

}  // namespace

const SlotRules reference_rules{
    .key = "reference",
    .needs = "the name of a result",
    .preset = [](const SlotSpec& /*slot*/) -> SlotValue { return ResultName{}; },
    .holds = holds_form<ResultName>,
    .meant = meant_as_text<ResultName>,
    .resolve = resolve,
    .add_to_hash = [](Hasher& hasher, const Resolved& value) { hasher.add(std::get<ReadResult>(value).key); },
    .text =
        [](const SlotSpec& /*slot*/, const SlotValue& value) {
            const std::string& name = std::get<ResultName>(value).name;
            return name.empty() ? std::string("…") : name;
        }};

SlotSpec reference_slot(std::string key, std::string label, std::vector<Kind> accepts) {
    SlotSpec spec;
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = SlotType::reference;
    spec.accepts = std::move(accepts);
    return spec;
}

}  // namespace plume
