#include "core/steps/handoff/delivery_support.hpp"

#include <algorithm>

#include "core/study/slots/picked_names.hpp"

namespace plume {

std::vector<Kind> solid_kinds() {
    return {Kind::mesh, Kind::surface, Kind::bodies, Kind::frame};
}

SlotSpec delivered_unit_slot(LengthUnit usual) {
    std::vector<Word> words;
    for (const LengthUnit unit : {LengthUnit::metre, LengthUnit::centimetre, LengthUnit::millimetre,
                                  LengthUnit::foot, LengthUnit::inch}) {
        Word word{std::string(symbol(unit)), std::string(plain_name(unit)), "lengths in the file"};
        words.insert(unit == usual ? words.begin() : words.end(), std::move(word));
    }
    return choice_slot("unit", "Unit", std::move(words));
}

SlotSpec format_slot(std::vector<Word> formats) {
    return choice_slot("format", "Format", std::move(formats));
}

SlotSpec facets_slot() {
    return choice_slot("facets", "Facets",
                       {{"smooth", "with facets that look smooth", "about 20 000 of a surface or a body"},
                        {"within", "with facets that are off it by at most",
                         "measured in the middles of facets and of their sides"}});
}
SlotSpec within_slot() {
    return length_above_zero_slot("within", "Deviation", "1 mm");
}

SlotSpec paper_scale_slot(std::string preset) {
    SlotSpec slot = number_slot("scale", "Scale 1 :", std::move(preset));
    slot.least = 0;
    slot.above_least = true;
    return slot;
}

SlotSpec from_zero(SlotSpec slot) {
    slot.least = 0;
    return slot;
}

SlotSpec file_name_slot(std::string preset) {
    return target_slot("file", "File", std::move(preset));
}

Offers numbers_given(const Inputs& in) {
    Offers offers;
    for (const GivenResult& given : in.given("results"))
        for (const std::string& name : field_names(*given.value))
            if (std::ranges::find(offers.offers, name, &Offer::name) == offers.offers.end())
                offers.offers.push_back({name, "of " + given.name});
    return offers;
}

Result<std::string> one_pick(const Inputs& in, std::string_view slot) {
    const std::vector<std::string> names = picked_names(in.word(slot));
    if (names.size() > 1)
        return about_slot(
            Error{ErrorCode::out_of_range, "",
                  "has to be one number, and " + std::to_string(names.size()) + " are picked", "Pick one."},
            slot);
    return names.empty() ? std::string() : names.front();
}

Result<Value> delivery_of(const Inputs& in, DeliveryWishes wishes) {
    if (in.has("unit")) wishes.unit = *length_unit_from(in.word("unit"));
    if (in.has("within")) wishes.within = in.number("within");
    return Value(std::make_shared<const DeliveryContent>(
        DeliveryContent{in.given("results"), in.word("format"), in.word("file"), std::move(wishes)}));
}

Result<Value> plain_delivery(const Inputs& in, const Run& /*run*/) {
    return delivery_of(in, {});
}

}  // namespace plume
