// Edits of steps and headings.

#include <algorithm>
#include <filesystem>

#include "core/base/listed.hpp"
#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/edits/edit_keys.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/edits/expression_texts.hpp"
#include "core/study/edits/place_base.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

Error no_such_item() {
    return {ErrorCode::unknown_name, "", "That part of the study is no longer there", "Choose another."};
}

std::shared_ptr<Study> copy_of(const Study& study) {
    return std::make_shared<Study>(study);
}

// A new study in which the step `id` went through `change`.
template <class Change>
Edited with_step(const Study& study, ItemId id, Change change) {
    const auto at = study.position(id);
    const Step* old = at ? step_of(study.items[*at]) : nullptr;
    if (!old) return no_such_item();
    auto step = std::make_shared<Step>(*old);
    change(*step);
    auto result = copy_of(study);
    result->items[*at] = StepPointer(std::move(step));
    return StudyPointer(std::move(result));
}

Error still_read(std::string_view name, const std::vector<std::string>& readers) {
    std::vector<std::string> quoted;
    quoted.reserve(readers.size());
    for (const std::string& reader : readers)
        quoted.push_back("‘" + reader + "’");
    return {ErrorCode::still_read, "‘" + std::string(name) + "’", "is read by " + listed(quoted, "and"),
            readers.size() == 1 ? "That would have nothing to read." : "Those would have nothing to read."};
}

// The first step that would read a result standing below it.
std::optional<Error> first_reading_below(const Study& study) {
    const std::vector<Item>& items = study.items;
    std::vector<std::string> above;
    for (const Item& item : items) {
        const Step* step = step_of(item);
        if (!step) continue;
        for (const std::string& name : results_read(study, *step)) {
            const bool exists = std::ranges::any_of(items, [&](const Item& other) {
                const Step* candidate = step_of(other);
                return candidate && candidate->name == name;
            });
            if (exists && std::ranges::find(above, name) == above.end())
                return Error{ErrorCode::reads_below, "‘" + step->name + "’",
                             "reads ‘" + name + "’ and has to stay below it", "Move the other step first."};
        }
        above.push_back(step->name);
    }
    return {};
}

Result<Added> inserted(const Study& study, std::size_t position, Step step) {
    auto result = copy_of(study);
    step.id = result->next_id++;
    const ItemId id = step.id;
    const auto where =
        result->items.begin() + static_cast<std::ptrdiff_t>(std::min(position, result->items.size()));
    result->items.insert(where, std::make_shared<const Step>(std::move(step)));
    return Added{std::move(result), id};
}

// The kinds a step's result can be of, as far as the page tells: one that can be of what it takes is of what
// it reads.
std::vector<Kind> result_kinds(const Study& study, const Catalogue& catalogue, const Step& step) {
    const StepKind* kind = catalogue.find(step);
    if (!kind) return {};
    if (kind->results.size() < 2) return kind->results;
    for (const SlotSpec& slot : kind->slots) {
        const bool follows =
            slot.type == SlotType::reference && std::ranges::all_of(kind->results, [&](Kind result) {
                return std::ranges::find(slot.accepts, result) != slot.accepts.end();
            });
        const auto value = step.slots.find(slot.key);
        const auto* name =
            follows && value != step.slots.end() ? std::get_if<ResultName>(&value->second) : nullptr;
        const Step* input = name ? study.step(name->name) : nullptr;
        // Only from above: what reads itself on the way has no kind.
        if (!input || *study.position(input->id) >= *study.position(step.id)) continue;
        std::vector<Kind> kinds = result_kinds(study, catalogue, *input);
        std::erase_if(kinds, [&](Kind found) {
            return std::ranges::find(kind->results, found) == kind->results.end();
        });
        if (!kinds.empty()) return kinds;
    }
    return kind->results;
}

// Whether what a step reads is seen in its result: points and numbers are, and what becomes a solid or
// another of its kind. Attractors stay, to be dragged; so do outlines that only bound, and what a kind sets
// its result beside.
bool seen_in(const StepKind& kind, Kind input) {
    if (input == Kind::attractors || kind.stays_beside) return false;
    const auto results_in = [&](Kind result) {
        return std::ranges::find(kind.results, result) != kind.results.end();
    };
    return input == Kind::points || input == Kind::field || results_in(input) || results_in(Kind::mesh) ||
           results_in(Kind::bodies);
}

// Places are told by it: it is dragged, and carries them.
bool tells_places(const StepKind& kind, const SlotSpec& slot) {
    return std::ranges::any_of(kind.slots, [&](const SlotSpec& other) { return other.told_by == slot.key; });
}

Study with_hidden_inputs(const Study& study, const Catalogue& catalogue, const StepKind& kind,
                         const Step& step) {
    Study result = study;
    for (const SlotSpec* slot : active_slots(kind, step)) {
        if (slot->type != SlotType::reference || tells_places(kind, *slot)) continue;
        const auto value = step.slots.find(slot->key);
        const auto* name = value == step.slots.end() ? nullptr : std::get_if<ResultName>(&value->second);
        const Step* input = name ? study.step(name->name) : nullptr;
        const std::vector<Kind> kinds = input ? result_kinds(study, catalogue, *input) : std::vector<Kind>();
        if (kinds.empty() || !seen_in(kind, kinds.front()) || !input->show.visible) continue;
        Show hidden = input->show;
        hidden.visible = false;
        result = **set_show(result, input->id, hidden);
    }
    return result;
}

// The text of a coordinate moved to `value`, keeping the unit it was typed in; nothing for an expression.
std::optional<std::string> moved_coordinate(const std::string& text, double value, const Units& units) {
    const auto literal = read_literal(text);
    if (!literal) return {};
    const auto unit = length_unit_from(literal->unit);
    const double factor = unit ? metres_per(units.length) / metres_per(*unit) : 1;
    return literal_text({value * factor, literal->unit}, 6);
}

}  // namespace

std::string free_name(const Study& study, std::string_view wanted) {
    const auto taken = [&](const std::string& name) { return study.step(name) || study.control(name); };
    std::string name(wanted);
    for (int number = 2; taken(name); ++number)
        name = std::string(wanted) + "_" + std::to_string(number);
    return name;
}

std::vector<std::string> readers_of(const Study& study, std::string_view name) {
    std::vector<std::string> readers;
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const auto read = results_read(study, *step);
        if (std::ranges::find(read, name) != read.end()) readers.push_back(step->name);
    }
    return readers;
}

std::vector<ResultAbove> results_above(const Study& study, const Catalogue& catalogue, std::size_t position) {
    std::vector<ResultAbove> results;
    for (std::size_t at = std::min(position, study.items.size()); at-- > 0;)
        if (const Step* step = step_of(study.items[at]))
            results.push_back({step->name, result_kinds(study, catalogue, *step)});
    return results;
}

std::vector<std::string> results_that_fit(const Study& study, const Catalogue& catalogue,
                                          std::size_t position, const std::vector<Kind>& kinds) {
    std::vector<std::string> names;
    for (const ResultAbove& result : results_above(study, catalogue, position))
        if (std::ranges::find_first_of(result.kinds, kinds) != result.kinds.end())
            names.push_back(result.name);
    return names;
}

namespace {

// The kind's companion right below its step: it reads the step, and where it has a slot of the same name what
// the step reads there.
Result<Added> with_companion(const Added& added, const Catalogue& catalogue, const StepKind& kind) {
    const StepKind* companion = catalogue.find(kind.companion);
    assert(companion);
    const Step& main = *added.study->step(added.id);
    const std::size_t below = *added.study->position(added.id) + 1;
    Result<Added> both = add_step(*added.study, catalogue, *companion, below, main.name);
    if (!both) return both;
    Edited edited = both->study;
    for (const auto& [key, value] : main.slots)
        if (std::holds_alternative<ResultName>(value) && companion->slot(key) && edited)
            edited = set_slot(**edited, both->id, key, value);
    // Both parts are seen.
    if (edited) edited = set_show(**edited, main.id, main.show);
    if (!edited) return edited.error();
    return Added{*edited, added.id};
}

}  // namespace

namespace {

// What is seen, or what is wished for; the nearest that fits where neither is there.
ResultList given_at_first(const Study& study, const Catalogue& catalogue, std::size_t position,
                          const SlotSpec& slot, std::string_view prefer) {
    std::vector<std::string> fitting = results_that_fit(study, catalogue, position, slot.accepts);
    if (fitting.empty()) return {};
    std::vector<std::string> given{fitting.front()};
    std::ranges::reverse(fitting);
    std::vector<std::string> seen;
    std::ranges::copy_if(fitting, std::back_inserter(seen),
                         [&](const std::string& name) { return study.step(name)->show.visible; });
    if (!seen.empty()) given = seen;
    if (std::ranges::find(fitting, prefer) != fitting.end()) given = {std::string(prefer)};
    ResultList list;
    for (const std::string& name : given)
        list.entries.push_back({name, ""});
    return list;
}

// Where something of that page can stand.
std::size_t within_page(const Study& study, Page page, std::size_t position) {
    return std::clamp(position, study.page_begin(page), study.page_end(page));
}

}  // namespace

namespace {

// A step of the kind, its values those of `own` where that has some.
Result<Added> added_step(const Study& study, const Catalogue& catalogue, const StepKind& kind,
                         const Step& own, std::size_t position, std::string_view prefer) {
    Step step = own;
    step.kind = kind.key;
    step.name = free_name(study, own.name.empty() ? kind.result_name : own.name);
    position = within_page(study, page_of(step), position);
    if (kind.drawn_plain) step.show.colour_by = "-";
    std::vector<std::string> taken;
    for (const SlotSpec& slot : kind.slots) {
        SlotValue value = slot.preset_value();
        if (slot.type == SlotType::results) value = given_at_first(study, catalogue, position, slot, prefer);
        if (slot.type == SlotType::reference) {
            auto fitting = results_that_fit(study, catalogue, position, slot.accepts);
            if (std::ranges::find(fitting, prefer) != fitting.end())
                fitting.insert(fitting.begin(), std::string(prefer));
            // Of two that take the same kind the second gets another result, if there is one.
            const auto other = std::ranges::find_if(fitting, [&](const std::string& name) {
                return std::ranges::find(taken, name) == taken.end();
            });
            if (!fitting.empty()) value = ResultName{other != fitting.end() ? *other : fitting.front()};
            taken.push_back(std::get<ResultName>(value).name);
            step.slots.erase(slot.key);
        }
        step.slots.emplace(slot.key, std::move(value));
    }
    const Study prepared = with_hidden_inputs(study, catalogue, kind, step);
    Result<Added> added = inserted(prepared, position, std::move(step));
    if (!added || kind.companion.empty()) return added;
    return with_companion(*std::move(added), catalogue, kind);
}

}  // namespace

Result<Added> add_step(const Study& study, const Catalogue& catalogue, const StepKind& kind,
                       std::size_t position, std::string_view prefer) {
    return added_step(study, catalogue, kind, {}, position, prefer);
}

Result<Added> add_step(const Study& study, const Catalogue& catalogue, const Step& own, std::size_t position,
                       std::string_view prefer) {
    const StepKind* kind = catalogue.find(own);
    if (!kind)
        return Error{ErrorCode::unknown_step_kind, "‘" + own.kind + "’", "is no step of this program",
                     "Choose another one."};
    return added_step(study, catalogue, *kind, own, position, prefer);
}

Edited remove_items(const Study& study, const ItemIds& items, bool even_if_read) {
    for (const ItemId id : items) {
        const auto at = study.position(id);
        if (!at) return no_such_item();
        const Step* step = step_of(study.items[*at]);
        if (!step || even_if_read) continue;
        std::vector<std::string> readers = readers_of(study, step->name);
        std::erase_if(readers,
                      [&](const std::string& reader) { return items.contains(study.step(reader)->id); });
        if (!readers.empty()) return still_read(step->name, readers);
    }
    auto result = copy_of(study);
    std::erase_if(result->items, [&](const Item& item) { return items.contains(id_of(item)); });
    return StudyPointer(std::move(result));
}

Edited move_items(const Study& study, const ItemIds& items, std::size_t position) {
    // Together only where they all stand on one page.
    const auto first =
        std::ranges::find_if(study.items, [&](const Item& item) { return items.contains(id_of(item)); });
    if (first == study.items.end()) return no_such_item();
    const Page page = page_of(*first);
    position = within_page(study, page, position);
    std::vector<Item> before, moved, behind;
    for (std::size_t at = 0; at < study.items.size(); ++at) {
        const bool mine = items.contains(id_of(study.items[at]));
        (mine ? moved : at < position ? before : behind).push_back(study.items[at]);
    }
    if (moved.size() != items.size() ||
        std::ranges::any_of(moved, [&](const Item& item) { return page_of(item) != page; }))
        return no_such_item();
    auto result = copy_of(study);
    result->items = std::move(before);
    result->items.insert(result->items.end(), moved.begin(), moved.end());
    result->items.insert(result->items.end(), behind.begin(), behind.end());
    if (const auto below = first_reading_below(*result)) return *below;
    return StudyPointer(std::move(result));
}

namespace {

void rename_in_slot(SlotValue& value, const std::string& before, const std::string& name) {
    if (auto* reference = std::get_if<ResultName>(&value); reference && reference->name == before)
        reference->name = name;
    if (auto* list = std::get_if<ResultList>(&value))
        for (ResultList::Entry& entry : list->entries)
            if (entry.name == before) entry.name = name;
}

// Lists of all below a heading follow its title, unless another has it, too.
void retitle_in_lists(Study& study, const std::string& before, const std::string& title) {
    const bool another = std::ranges::any_of(study.items, [&](const Item& item) {
        const Heading* heading = heading_of(item);
        return heading && heading->page == Page::sheet && heading->title == before;
    });
    if (another || before == title) return;
    for (Item& item : study.items) {
        const Step* step = step_of(item);
        if (!step) continue;
        Step changed = *step;
        for (auto& [key, value] : changed.slots)
            if (auto* list = std::get_if<ResultList>(&value); list && list->heading == before)
                list->heading = title;
        if (changed != *step) item = std::make_shared<const Step>(std::move(changed));
    }
}

}  // namespace

Edited rename_step(const Study& study, ItemId id, const std::string& name) {
    const Step* step = study.step(id);
    if (!step) return no_such_item();
    if (Status status = check_result_name(name); !status) return status.error();
    const Step* other = study.step(name);
    if ((other && other->id != id) || study.control(name))
        return Error{ErrorCode::name_clash, "‘" + name + "’", "is already the name of a result or a control",
                     "Choose another name."};
    const std::string before = step->name;
    auto result = copy_of(study);
    for (Item& item : result->items) {
        const Step* reader = step_of(item);
        if (!reader) continue;
        Step changed = *reader;
        if (reader->id == id) changed.name = name;
        for (auto& [key, value] : changed.slots)
            rename_in_slot(value, before, name);
        if (changed.show.colour_by == before) changed.show.colour_by = name;
        if (changed != *reader) item = std::make_shared<const Step>(std::move(changed));
    }
    if (gives_number(*step)) rename_in_texts(*result, before, name);
    return StudyPointer(std::move(result));
}

Edited set_slot(const Study& study, ItemId id, const std::string& slot, SlotValue value) {
    change_numbers(value, nullptr, [](const std::string& text, Dimension) { return without_equals(text); });
    return with_step(study, id, [&](Step& step) {
        step.slots[slot] = std::move(value);
        // Of a key that stood twice this is the one that counts now.
        step.slots.erase(slot + std::string(again_suffix));
    });
}

Edited set_muted(const Study& study, ItemId id, bool muted) {
    return with_step(study, id, [&](Step& step) { step.muted = muted; });
}

Edited set_text_units(const Study& study, ItemId id, std::optional<Units> units) {
    return with_step(study, id,
                     [&](Step& step) { step.text_units = units == study.units ? std::nullopt : units; });
}

Edited set_show(const Study& study, ItemId id, const Show& show) {
    return with_step(study, id, [&](Step& step) { step.show = show; });
}

namespace {

// Of a place or of one of its keys; coordinates that hold an expression stay.
template <class At>
Status move_coordinates(const Study& study, const SlotSpec& slot, const std::string& name, At& at, Vec3 to,
                        double seconds) {
    const Scope scope = scope_of(study, seconds);
    std::string fixed;
    bool moved = false;
    const auto move = [&](const char* axis, std::string& text, double value) {
        const bool share = !slot.told_by.empty() && &text == &at.x;
        const auto now = evaluate_as(share ? plain_number : a_length, text, scope);
        if (now && *now == value) return;
        if (auto changed = moved_coordinate(text, value, study.units)) {
            text = *std::move(changed);
            moved = true;
        } else {
            fixed += (fixed.empty() ? "" : " and ") + std::string(axis);
        }
    };
    move("x", at.x, to.x);
    move("y", at.y, to.y);
    move("z", at.z, to.z);
    if (moved || fixed.empty()) return Done{};
    return Error{ErrorCode::input_failed, "‘" + name + "’",
                 "cannot be dragged: its " + fixed + " follows an expression", "Type a number there first."};
}

}  // namespace

Edited move_place(const Study& study, const Catalogue& catalogue, ItemId id, const std::string& slot,
                  std::size_t index, Vec3 to, double seconds) {
    const Step* step = study.step(id);
    const StepKind* kind = step ? catalogue.find(*step) : nullptr;
    const SlotSpec* spec = kind ? kind->slot(slot) : nullptr;
    if (!spec || spec->type != SlotType::places) return no_such_item();
    Places places = std::get<Places>(slot_value(*spec, *step));
    if (const std::size_t own = own_place(*spec, index, places.size()); own != index) {
        index = own;
        const std::string across = std::get<WordKey>(slot_value(*kind->slot(spec->mirrored_by), *step)).key;
        (across == "x" ? to.x : to.y) *= -1;
    }
    if (index >= places.size()) return no_such_item();
    if (!is_finite(to))
        return Error{ErrorCode::not_finite, "‘" + places[index].name + "’", "cannot be moved there",
                     "Drag it elsewhere."};
    Place& place = places[index];
    if (place.keys.empty()) {
        if (Status moved = move_coordinates(study, *spec, place.name, place, to, seconds); !moved)
            return moved.error();
        return set_slot(study, id, slot, std::move(places));
    }
    Result<PlaceKey> key = key_of_place(study, *spec, place, seconds);
    if (!key) return key.error();
    if (Status moved = move_coordinates(study, *spec, place.name, *key, to, seconds); !moved)
        return moved.error();
    put_key(place.keys, *std::move(key));
    return set_slot(study, id, slot, std::move(places));
}

namespace {

// Where a place goes in the coordinates it is kept in.
Vec3 told_by_base(const Study& study, const Catalogue& catalogue, const PlaceMove& move,
                  const ShownValue& shown) {
    const Step* step = study.step(move.step);
    const StepKind* kind = step ? catalogue.find(*step) : nullptr;
    const SlotSpec* slot = kind ? kind->slot(move.slot) : nullptr;
    const auto base = slot ? base_of(*kind, *slot, *step, shown) : std::nullopt;
    if (!base) return move.to;
    const auto rounded = [&](double value, double unit) {
        return move.unit > 0 ? std::round(value / unit) * unit : value;
    };
    const Vec3 told = base->told(move.to);
    return {rounded(told.x, 1e-4), rounded(told.y, move.unit), rounded(told.z, move.unit)};
}

}  // namespace

Edited move_places(const Study& study, const Catalogue& catalogue, std::span<const PlaceMove> moves,
                   const ShownValue& shown, double seconds) {
    StudyPointer moved = std::make_shared<const Study>(study);
    for (const PlaceMove& move : moves) {
        Edited edited = move_place(*moved, catalogue, move.step, move.slot, move.index,
                                   told_by_base(*moved, catalogue, move, shown), seconds);
        if (!edited) return edited;
        moved = *std::move(edited);
    }
    return moved;
}

namespace {

const SlotSpec* active_seed(const Catalogue& catalogue, const Step& step) {
    const StepKind* kind = catalogue.find(step);
    if (!kind) return nullptr;
    const auto active = active_slots(*kind, step);
    const auto seed =
        std::ranges::find_if(active, [](const SlotSpec* slot) { return slot->type == SlotType::seed; });
    return seed == active.end() ? nullptr : *seed;
}

}  // namespace

bool throws_numbers(const Catalogue& catalogue, const Step& step) {
    return active_seed(catalogue, step) != nullptr;
}

Edited throw_again(const Study& study, const Catalogue& catalogue, ItemId id, bool forward) {
    const Step* step = study.step(id);
    const SlotSpec* slot = step ? active_seed(catalogue, *step) : nullptr;
    if (!slot)
        return Error{ErrorCode::input_failed, "", "This step throws no random numbers",
                     "Choose one that has a seed."};
    const std::string text = std::get<NumberText>(slot_value(*slot, *step)).text;
    const double by = forward ? 1 : -1;
    if (const Control* control = study.control(text)) {
        if (control->value + by < 0)
            return Error{ErrorCode::input_failed, slot->label, "is 0: there is no throw before it",
                         "Throw forward."};
        return set_control_value(study, control->name, control->value + by);
    }
    const auto literal = read_literal(text);
    if (!literal)
        return Error{ErrorCode::input_failed, slot->label, "follows an expression",
                     "Type a number there first."};
    if (literal->number + by < 0)
        return Error{ErrorCode::input_failed, slot->label, "is 0: there is no throw before it",
                     "Throw forward."};
    return set_slot(study, id, slot->key, NumberText{exact_text(literal->number + by)});
}

std::string link_from(const std::string& folder, const std::string& file) {
    const std::filesystem::path whole = std::filesystem::path(file).lexically_normal();
    const std::string near = whole.lexically_relative(folder).string();
    const bool far = near.empty() || near.starts_with("../../..");
    return far ? whole.string() : near;
}

StudyPointer with_links_from(const Study& study, const std::string& old_folder,
                             const std::string& new_folder) {
    namespace fs = std::filesystem;
    auto result = copy_of(study);
    for (Item& item : result->items) {
        const Step* old = step_of(item);
        if (!old) continue;
        Step step = *old;
        for (auto& [key, value] : step.slots) {
            auto* file = std::get_if<FileName>(&value);
            if (!file || file->path.empty()) continue;
            const fs::path whole =
                fs::path(file->path).is_absolute() ? fs::path(file->path) : fs::path(old_folder) / file->path;
            file->path = link_from(new_folder, whole.string());
        }
        if (step != *old) item = std::make_shared<const Step>(std::move(step));
    }
    return result;
}

Edited set_hand_off_folder(const Study& study, std::string folder) {
    auto result = copy_of(study);
    result->hand_off_folder = std::move(folder);
    return StudyPointer(std::move(result));
}

Added add_heading(const Study& study, std::size_t position, std::string title, Page page) {
    auto result = copy_of(study);
    auto heading = std::make_shared<Heading>();
    heading->id = result->next_id++;
    heading->title = std::move(title);
    heading->page = page;
    const auto headings = std::ranges::count_if(study.items, heading_of);
    heading->colour = static_cast<HeadingColour>(headings % heading_colour_count);
    const ItemId id = heading->id;
    const auto where =
        result->items.begin() + static_cast<std::ptrdiff_t>(within_page(study, page, position));
    result->items.insert(where, HeadingPointer(std::move(heading)));
    return {std::move(result), id};
}

Edited set_heading(const Study& study, ItemId id, const Heading& heading) {
    const auto at = study.position(id);
    if (!at || !heading_of(study.items[*at])) return no_such_item();
    auto result = copy_of(study);
    auto changed = std::make_shared<Heading>(heading);
    changed->id = id;
    changed->page = page_of(study.items[*at]);
    const std::string before = heading_of(study.items[*at])->title, title = changed->title;
    result->items[*at] = HeadingPointer(std::move(changed));
    if (page_of(study.items[*at]) == Page::sheet) retitle_in_lists(*result, before, title);
    return StudyPointer(std::move(result));
}

}  // namespace plume
