// Values of slots as they are kept, named by a hash; and with it groups of steps.

#include "core/base/overloaded.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {

void add_to_hash(Hasher& hasher, const Units& units) {
    hasher.add(static_cast<std::uint64_t>(units.length)).add(static_cast<std::uint64_t>(units.angle));
}

namespace {

template <class Key>
Hasher& add_key(Hasher& hasher, const Key& key) {
    return hasher.add(key.seconds).add(static_cast<std::uint64_t>(key.easing));
}

}  // namespace

void add_to_hash(Hasher& hasher, const Control& control) {
    hasher.add(control.name).add(control.value).add(control.unit).add(control.step);
    for (const ControlKey& at : control.keys)
        add_key(hasher, at).add(at.value);
}

void add_to_hash(Hasher& hasher, const Camera& camera) {
    for (const double number : {camera.target.x, camera.target.y, camera.target.z, camera.distance,
                                camera.azimuth_rad, camera.elevation_rad})
        hasher.add(number);
    hasher.add(std::uint64_t{camera.perspective});
}

void add_to_hash(Hasher& hasher, const KeptCamera& camera) {
    add_to_hash(hasher, camera.camera);
    for (const CameraKey& at : camera.keys)
        add_to_hash(add_key(hasher, at), at.camera);
}

void add_to_hash(Hasher& hasher, const SlotValue& value) {
    hasher.add(static_cast<std::uint64_t>(value.index()));
    std::visit(
        Overloaded{[&](const NumberText& number) { hasher.add(number.text); },
                   [&](const WordKey& word) { hasher.add(word.key); },
                   [&](const ResultName& result) { hasher.add(result.name); },
                   [&](const Places& places) {
                       for (const Place& place : places) {
                           hasher.add(place.name).add(place.x).add(place.y).add(place.z).add(place.weight);
                           for (const PlaceKey& at : place.keys)
                               add_key(hasher, at).add(at.x).add(at.y).add(at.z);
                       }
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

namespace {

void add_step(Hasher& hasher, const Step& step) {
    hasher.add(step.kind).add(step.name).add(static_cast<std::uint64_t>(step.muted ? 1 : 0));
    if (step.text_units) add_to_hash(hasher, *step.text_units);
    for (const auto& [key, value] : step.slots) {
        hasher.add(key);
        add_to_hash(hasher, value);
    }
}

Hash fingerprint_of(const StepGroup& group) {
    Hasher hasher;
    hasher.add(group.title).add(group.sentence).add(group.help).add(group.result);
    for (const OpenSlot& open : group.open)
        hasher.add(open.key).add(open.of).add(open.slot);
    add_to_hash(hasher, group.steps.units);
    for (const ControlPointer& control : group.steps.controls) {
        add_to_hash(hasher, *control);
        hasher.add(control->least).add(control->most);
    }
    for (const Item& item : group.steps.items)
        if (const Step* step = step_of(item)) add_step(hasher, *step);
    return hasher.finish();
}

}  // namespace

GroupedSteps::GroupedSteps(StepGroup group)
    : group_(std::make_shared<const StepGroup>(std::move(group))), fingerprint_(fingerprint_of(*group_)) {}

}  // namespace plume
