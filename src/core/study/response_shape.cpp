#include "core/study/response_shape.hpp"

#include "core/study/sentence.hpp"
#include "core/study/slots/slot_rules.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

double number_in(const Study& study, const SlotSpec& slot, const Step& step) {
    const Scope scope = scope_of(study);
    const SlotValue value = slot_value(slot, step);
    if (const auto* number = std::get_if<NumberText>(&value))
        if (const auto read = resolve_number(slot, number->text, scope)) return *read;
    return *resolve_number(slot, slot.preset, scope);
}

}  // namespace

Result<Shaping> response_shape(const Study& study, const StepKind& kind, const Step& step,
                               std::string_view word) {
    Result<Shaping> shaping = shaping_of(word);
    const SlotSpec* periods = kind.slot("periods");
    if (!shaping || shaping->response != Response::waves || !periods) return shaping;
    const SlotValue swell = slot_value(*kind.slot("swell"), step);
    shaping->waves = {number_in(study, *periods, step), number_in(study, *kind.slot("phase"), step),
                      swell_of(std::get<WordKey>(swell).key)};
    return shaping;
}

}  // namespace plume
