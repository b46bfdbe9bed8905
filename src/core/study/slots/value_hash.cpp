#include "core/base/overloaded.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {

void add_to_hash(Hasher& hasher, const SlotValue& value) {
    hasher.add(static_cast<std::uint64_t>(value.index()));
    std::visit(
        Overloaded{[&](const NumberText& number) { hasher.add(number.text); },
                   [&](const WordKey& word) { hasher.add(word.key); },
                   [&](const ResultName& result) { hasher.add(result.name); },
                   [&](const Places& places) {
                       for (const Place& place : places)
                           hasher.add(place.name).add(place.x).add(place.y).add(place.z).add(place.weight);
                   },
                   [&](const FormulaText& formula) {
                       hasher.add(formula.text);
                       for (const std::string& line : formula.muted)
                           hasher.add(line);
                   },
                   [&](const Lines& lines) { hasher.add(lines.text); },
                   [&](const FileName& file) { hasher.add(file.path); },
                   [&](const ResultList& list) {
                       hasher.add(static_cast<std::uint64_t>(list.of)).add(list.heading);
                       for (const ResultList::Entry& entry : list.entries)
                           hasher.add(entry.name).add(entry.as);
                   },
                   [&](const GroupedSteps& grouped) { hasher.add(grouped.fingerprint()); },
                   [&](const OddValue& odd) { hasher.add(odd.json); }},
        value);
}

}  // namespace plume
