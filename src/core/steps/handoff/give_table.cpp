#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const Result<std::string> groups = one_pick(in, "groups");
    if (!groups) return groups.error();
    DeliveryWishes wishes;
    wishes.rows = in.word("rows") == "usual" ? "" : in.word("rows");
    wishes.group_by = *groups;
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_table() {
    return {
        .key = "handoff.table",
        .verb = "Give a table",
        .synonyms = "schedule csv xlsx spreadsheet list numbers hand off deliver export",
        .sentence = "List {results}, {rows}, {groups}, as {format} in {unit}, to {file}.",
        .slots = {results_slot("results", "Results", movable_kinds()),
                  choice_slot("rows", "Rows",
                              {{"usual", "in their usual rows", "of what each is made of"},
                               {"members", "a row a member", "of frames"},
                               {"nodes", "a row a node", "of frames"},
                               {"parts", "a row a part", "of meshes of parts"},
                               {"faces", "a row a face", "of meshes"},
                               {"curves", "a row a curve", "of curves"}}),
                  picks_slot("groups", "Grouped by", "not grouped"),
                  format_slot({{".xlsx", "a spreadsheet", "a sheet a table"}, {".csv", "CSV", "one table"}}),
                  delivered_unit_slot(LengthUnit::metre), file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "schedule",
        .help =
            "Numbers of results as tables, a row a member, node, part or whatever the result is made of, or "
            "a "
            "row a group with counts, totals and means.",
        .make = make,
        .contexts = {{"groups", context(numbers_given)}},
    };
}

}  // namespace plume
