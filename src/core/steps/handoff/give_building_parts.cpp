#include "core/data/building_classes.hpp"
#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

std::vector<Word> class_words() {
    std::vector<Word> words;
    for (const BuildingClass& one : building_classes())
        words.push_back({std::string(one.key), std::string(one.key), std::string(one.entity)});
    return words;
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const Result<std::string> storeys = one_pick(in, "storeys");
    if (!storeys) return storeys.error();
    DeliveryWishes wishes;
    wishes.layers_by = *storeys;
    wishes.exact = in.word("curved") == "exact";
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_building_parts() {
    return {
        .key = "handoff.building",
        .verb = "Give parts to the building model",
        .synonyms = "ifc bim class material storey roof column hand off deliver export",
        .sentence =
            "Give {results} to the building model, on {storeys}[more|, curved parts {curved}][curved=within| "
            "{within}], as {format} in {unit}, to {file}.",
        .slots = {results_slot("results", "Results", solid_kinds(), class_words(), "as its name says"),
                  picks_slot("storeys", "Storeys by", "one storey"),
                  choice_slot(
                      "curved", "Curved parts",
                      {{"facets", "as facets", "every program shows them alike"},
                       {"within", "as facets that are off it by at most",
                        "measured in the middles of facets and of their sides"},
                       {"exact", "exactly", "as trimmed splines, which some programs show coarsely"}}),
                  within_slot(), format_slot({{".ifc", "IFC 4", "ISO 16739-1"}}),
                  delivered_unit_slot(LengthUnit::metre), file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "building_parts",
        .help =
            "Results as parts of a building: each has a class, told from its name where none is chosen, the "
            "material it is shown in, its numbers as properties, and an identity that stays the same as long "
            "as its result keeps its name, so that whoever receives it can update it in place. Storeys go by "
            "the values of a number that is given, one each.",
        .make = make,
        .contexts = {{"storeys", context(numbers_given)}},
    };
}

}  // namespace plume
