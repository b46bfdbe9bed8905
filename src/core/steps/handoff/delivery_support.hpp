#pragma once
// What steps that hand something off share: what can be given, words for units and formats, the delivery.

#include "core/geometry/moves/transformed.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Kinds of results with faces or bars. Whatever can be moved has a form to be written (movable_kinds()).
std::vector<Kind> solid_kinds();

// "unit": metres, centimetres, ... of which the first is the preset.
SlotSpec delivered_unit_slot(LengthUnit usual);
// "format": words keyed by endings, ".step".
SlotSpec format_slot(std::vector<Word> formats);
// "facets" and "within": how fine what stands for curved forms is; to be taken into a sentence as these
// words.
inline constexpr const char* facets_words = "{facets}[facets=within| {within}]";
SlotSpec facets_slot();
SlotSpec within_slot();
// "scale": so many of nature are one on paper.
SlotSpec paper_scale_slot(std::string preset);
// Not less than nothing.
SlotSpec from_zero(SlotSpec slot);
// "file": the name without its ending.
SlotSpec file_name_slot(std::string preset = "{study}");

// The numbers that something given carries, to choose from.
Offers numbers_given(const Inputs& in);
// The one name that is picked, empty where none is. Error: out_of_range, about the slot, for several.
Result<std::string> one_pick(const Inputs& in, std::string_view slot);
// What is given (slot "results") to a file of that ending; names, unit and format as slots say, where they
// are there.
Result<Value> delivery_of(const Inputs& in, DeliveryWishes wishes);
// The make() of kinds that wish for nothing besides.
Result<Value> plain_delivery(const Inputs& in, const Run& run);

}  // namespace plume
