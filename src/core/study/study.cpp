#include "core/study/study.hpp"

#include <algorithm>
#include <array>

#include "core/formula/expression.hpp"

namespace plume {
namespace {

constexpr std::array<std::string_view, heading_colour_count> colour_keys{"sand",  "rose", "teal",
                                                                         "slate", "moss", "plum"};

bool same_item(const Item& a, const Item& b) {
    if (a.index() != b.index()) return false;
    if (const Step* step = step_of(a)) return *step == *step_of(b);
    return *heading_of(a) == *heading_of(b);
}

}  // namespace

Page page_of(const Step& step) {
    return step.kind.starts_with("handoff.") ? Page::hand_off : Page::sheet;
}

Page page_of(const Item& item) {
    const Step* step = step_of(item);
    return step ? page_of(*step) : heading_of(item)->page;
}

std::string_view key_of(HeadingColour colour) {
    return colour_keys[static_cast<std::size_t>(colour)];
}

std::optional<HeadingColour> heading_colour_from(std::string_view key) {
    const auto found = std::ranges::find(colour_keys, key);
    if (found == colour_keys.end()) return {};
    return static_cast<HeadingColour>(found - colour_keys.begin());
}

ItemId id_of(const Item& item) {
    return std::visit([](const auto& pointer) { return pointer->id; }, item);
}

const Step* step_of(const Item& item) {
    const auto* pointer = std::get_if<StepPointer>(&item);
    return pointer ? pointer->get() : nullptr;
}

const Heading* heading_of(const Item& item) {
    const auto* pointer = std::get_if<HeadingPointer>(&item);
    return pointer ? pointer->get() : nullptr;
}

const Control* Study::control(std::string_view name) const {
    const auto found =
        std::ranges::find(controls, name, [](const auto& c) -> std::string_view { return c->name; });
    return found == controls.end() ? nullptr : found->get();
}

const KeptCamera* Study::camera(std::string_view name) const {
    const auto found = std::ranges::find(cameras, name, &KeptCamera::name);
    return found == cameras.end() ? nullptr : &*found;
}

const Step* Study::step(std::string_view name) const {
    for (const Item& item : items)
        if (const Step* step = step_of(item); step && step->name == name) return step;
    return nullptr;
}

const Step* Study::step(ItemId id) const {
    const auto at = position(id);
    return at ? step_of(items[*at]) : nullptr;
}

std::optional<std::size_t> Study::position(ItemId id) const {
    const auto found = std::ranges::find(items, id, id_of);
    if (found == items.end()) return {};
    return static_cast<std::size_t>(found - items.begin());
}

std::size_t Study::page_begin(Page page) const {
    if (page == Page::sheet) return 0;
    const auto first =
        std::ranges::find_if(items, [](const Item& item) { return page_of(item) == Page::hand_off; });
    return static_cast<std::size_t>(first - items.begin());
}

std::size_t Study::page_end(Page page) const {
    return page == Page::sheet ? page_begin(Page::hand_off) : items.size();
}

bool same(const Study& a, const Study& b) {
    return a.title == b.title && a.note == b.note && a.units == b.units && a.unknown == b.unknown &&
           a.hand_off_folder == b.hand_off_folder && a.cameras == b.cameras && a.time == b.time &&
           std::ranges::equal(a.controls, b.controls,
                              [](const auto& c, const auto& d) { return *c == *d; }) &&
           std::ranges::equal(a.items, b.items, same_item);
}

std::vector<std::string> results_read(const Step& step) {
    std::vector<std::string> names;
    for (const auto& [key, value] : step.slots)
        if (const auto* result = std::get_if<ResultName>(&value); result && !result->name.empty())
            names.push_back(result->name);
    return names;
}

std::vector<std::string> unknown_parts(const Study& study) {
    std::vector<std::string> sentences;
    const auto add = [&](const std::string& where, const UnknownParts& parts) {
        for (const auto& [key, json] : parts)
            sentences.emplace_back(where).append(" has ‘").append(key).append(
                "’, which this program does not know. It is kept and does nothing.");
    };
    add("The study", study.unknown);
    for (const ControlPointer& control : study.controls)
        add("The control ‘" + control->name + "’", control->unknown);
    for (const KeptCamera& camera : study.cameras)
        add("The camera ‘" + camera.name + "’", camera.unknown);
    for (const Item& item : study.items)
        if (const Heading* heading = heading_of(item))
            add("The heading ‘" + heading->title + "’", heading->unknown);
    return sentences;
}

std::vector<std::string> linked_files(const Study& study) {
    std::vector<std::string> paths;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        for (const auto& [key, value] : step->slots)
            if (const auto* file = std::get_if<FileName>(&value); file && !file->path.empty())
                paths.push_back(file->path);
    }
    return paths;
}

bool gives_number(const Step& step) {
    if (step.kind.starts_with("number.")) return true;
    return std::ranges::any_of(step.slots, [](const auto& slot) {
        const auto* group = std::get_if<GroupedSteps>(&slot.second);
        const Step* result = group ? (*group)->steps.step((*group)->result) : nullptr;
        return result && gives_number(*result);
    });
}

std::vector<std::string> results_of(const Study& study, const ResultList& list) {
    std::vector<std::string> names;
    if (list.of == ResultList::Of::listed) {
        for (const ResultList::Entry& entry : list.entries)
            names.push_back(entry.name);
        return names;
    }
    bool below = list.of == ResultList::Of::seen;
    for (std::size_t at = 0; at < study.page_end(Page::sheet); ++at) {
        const Step* step = step_of(study.items[at]);
        if (const Heading* heading = heading_of(study.items[at]);
            heading && list.of == ResultList::Of::heading)
            below = heading->title == list.heading;
        if (step && below && step->show.visible && !step->muted && !gives_number(*step))
            names.push_back(step->name);
    }
    return names;
}

std::vector<std::string> results_read(const Study& study, const Step& step) {
    std::vector<std::string> names = results_read(step);
    for (const auto& [key, value] : step.slots)
        if (const auto* list = std::get_if<ResultList>(&value))
            for (std::string& name : results_of(study, *list))
                names.push_back(std::move(name));
    for (std::string& name : names_in_expressions(step)) {
        const Step* read = study.step(name);
        if (read && gives_number(*read)) names.push_back(std::move(name));
    }
    return names;
}

std::vector<std::string> names_in_expressions(const Step& step) {
    std::vector<std::string> names;
    const auto add = [&](const std::string& text) {
        for (std::string& name : names_used(text))
            if (std::ranges::find(names, name) == names.end()) names.push_back(std::move(name));
    };
    for (const auto& [key, value] : step.slots) {
        if (const auto* number = std::get_if<NumberText>(&value)) add(number->text);
        if (const auto* formula = std::get_if<FormulaText>(&value)) add(formula->text);
        if (const auto* places = std::get_if<Places>(&value))
            for (const Place& place : *places) {
                for (const std::string* text : {&place.x, &place.y, &place.z, &place.weight})
                    add(*text);
                for (const PlaceKey& at : place.keys)
                    for (const std::string* text : {&at.x, &at.y, &at.z})
                        add(*text);
            }
    }
    return names;
}

}  // namespace plume
