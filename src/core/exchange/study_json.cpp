#include "core/exchange/study_json.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/exchange/study_file.hpp"
#include "core/formula/expression.hpp"

namespace plume {
namespace {

Error damaged(std::string place, std::string message) {
    return {ErrorCode::file_damaged, std::move(place), std::move(message),
            "Mend that line, or go back to an older copy."};
}

std::string text_of(const Json& json) {
    return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

// Reads members of one JSON object, remembers the first thing that is wrong and which keys were asked for.
class Reader {
public:
    Reader(const Json& json, std::string place) : json_(json), place_(std::move(place)) {
        if (!json.is_object()) fail("has to be an object in braces");
    }

    bool has(const char* key) {
        known_.insert(key);
        return json_.is_object() && json_.contains(key);
    }
    std::string text(const char* key, std::string otherwise = {}) {
        const Json* member = find(key);
        if (!member) return otherwise;
        if (member->is_string()) return member->get<std::string>();
        fail(std::string("needs text for ‘") + key + "’");
        return otherwise;
    }
    std::string needed_text(const char* key) {
        if (!has(key)) fail(std::string("has no ‘") + key + "’");
        return text(key);
    }
    double number(const char* key, double otherwise) {
        const Json* member = find(key);
        if (!member) return otherwise;
        if (member->is_number()) return member->get<double>();
        fail(std::string("needs a number for ‘") + key + "’");
        return otherwise;
    }
    bool flag(const char* key, bool otherwise) {
        const Json* member = find(key);
        if (!member) return otherwise;
        if (member->is_boolean()) return member->get<bool>();
        fail(std::string("needs true or false for ‘") + key + "’");
        return otherwise;
    }
    const Json* list(const char* key) {
        const Json* member = find(key);
        if (member && !member->is_array()) fail(std::string("needs a list for ‘") + key + "’");
        return member && member->is_array() ? member : nullptr;
    }
    const Json* object(const char* key) {
        const Json* member = find(key);
        if (member && !member->is_object()) fail(std::string("needs an object for ‘") + key + "’");
        return member && member->is_object() ? member : nullptr;
    }
    // A number or its text, as an expression.
    std::string expression(const char* key, std::string otherwise) {
        const Json* found = find(key);
        if (!found) return otherwise;
        if (found->is_number()) return found->dump();
        return without_equals(text(key));
    }
    const Json* member(const char* key) { return find(key); }
    void fail(std::string message) {
        if (!error_) error_ = damaged(place_, std::move(message));
    }
    void fail(const Error& error) {
        if (!error_) error_ = error_at(error, place_);
    }
    const std::optional<Error>& error() const { return error_; }

    // Everything never asked for.
    UnknownParts unknown() const {
        UnknownParts rest;
        if (json_.is_object())
            for (const auto& [key, value] : json_.items())
                if (!known_.contains(key)) rest[key] = text_of(value);
        return rest;
    }
    // The same where a key that stands twice leaves open what is meant.
    UnknownParts unknown_once() {
        UnknownParts rest = unknown();
        for (const auto& [key, json] : rest)
            if (key.ends_with(again_suffix))
                fail("has ‘" + key.substr(0, key.size() - again_suffix.size()) + "’ twice");
        return rest;
    }

private:
    const Json* find(const char* key) { return has(key) ? &json_.at(key) : nullptr; }

    const Json& json_;
    std::string place_;
    std::set<std::string, std::less<>> known_;
    std::optional<Error> error_;
};

void merge_unknown(Json& json, const UnknownParts& unknown) {
    for (const auto& [key, text] : unknown)
        if (!json.contains(key)) json[key] = Json::parse(text, nullptr, false);
}

std::optional<Places> places_from(const Json& json) {
    Places places;
    for (const Json& entry : json) {
        Reader reader(entry, "");
        Place place{reader.text("name"), reader.expression("x", "0"), reader.expression("y", "0"),
                    reader.expression("z", "0"), reader.expression("weight", "1")};
        place.unknown = reader.unknown_once();
        if (reader.error()) return {};
        places.push_back(std::move(place));
    }
    return places;
}

std::string joined_lines(const Json& lines) {
    if (lines.is_string()) return lines.get<std::string>();
    std::string text;
    for (const Json& line : lines) {
        if (&line != &lines.front()) text += '\n';
        text += line.get<std::string>();
    }
    return text;
}

bool is_list_of_texts(const Json& json) {
    return json.is_array() && std::ranges::all_of(json, [](const Json& entry) { return entry.is_string(); });
}
// One text stands for its lines.
bool are_lines(const Json& json) {
    return json.is_string() || is_list_of_texts(json);
}

// {"formula": [lines], "muted": [names], "versions": [{"name": ..., "formula": [lines]}]}
std::optional<FormulaText> formula_from(const Json& json) {
    Reader reader(json, "");
    const Json* lines = reader.member("formula");
    if (!lines || !are_lines(*lines)) return {};
    FormulaText formula{joined_lines(*lines), {}, {}};
    if (const Json* muted = reader.member("muted")) {
        if (!is_list_of_texts(*muted)) return {};
        formula.muted = muted->get<std::vector<std::string>>();
    }
    if (const Json* versions = reader.list("versions"))
        for (const Json& version : *versions) {
            Reader one(version, "");
            const std::string name = one.text("name");
            const Json* text = one.member("formula");
            if (one.error() || !text || !are_lines(*text) || !one.unknown().empty()) return {};
            formula.versions.push_back({name, joined_lines(*text)});
        }
    formula.unknown = reader.unknown_once();
    if (reader.error()) return {};
    return formula;
}

// A form that is not known is kept as it stands.
SlotValue slot_from(const Json& json) {
    const OddValue odd{text_of(json)};
    if (json.is_number()) return NumberText{json.dump()};
    if (json.is_array()) {
        auto places = places_from(json);
        return places ? SlotValue(*std::move(places)) : odd;
    }
    if (json.is_object() && json.size() == 1 && json.contains("result") && json["result"].is_string())
        return ResultName{json["result"].get<std::string>()};
    if (json.is_object() && json.size() == 1 && json.contains("file") && json["file"].is_string())
        return FileName{json["file"].get<std::string>()};
    if (json.is_object() && json.size() == 1 && json.contains("text") && are_lines(json["text"]))
        return Lines{joined_lines(json["text"])};
    if (json.is_object()) {
        auto formula = formula_from(json);
        return formula ? SlotValue(*std::move(formula)) : odd;
    }
    if (!json.is_string()) return odd;
    const std::string text = json.get<std::string>();
    if (!text.starts_with('=')) return WordKey{text};
    return NumberText{without_equals(text)};
}

Show show_from(Reader& step) {
    Show show;
    const Json* json = step.object("show");
    if (!json) return show;
    Reader reader(*json, "");
    show.visible = reader.flag("visible", true);
    show.points = reader.flag("points", true);
    show.edges = reader.flag("edges", true);
    show.faces = reader.flag("faces", true);
    show.labels = reader.flag("labels", false);
    show.colour_by = reader.text("colour_by");
    show.label_by = reader.text("label_by");
    // A ramp of another version is shown as the usual one.
    show.ramp.ramp = ramp_from(reader.text("ramp")).value_or(Ramp::estuary);
    show.ramp.reversed = reader.flag("ramp_reversed", false);
    show.ramp.steps = std::clamp(static_cast<int>(std::clamp(reader.number("ramp_steps", 0), 0.0, 1e3)), 0,
                                 most_ramp_steps);
    show.unknown = reader.unknown_once();
    if (reader.error()) step.fail("has a ‘show’ that cannot be read");
    return show;
}

std::optional<Units> units_from(Reader& reader, const char* key) {
    const Json* units = reader.object(key);
    if (!units) return {};
    Reader unit_reader(*units, key);
    const auto length = length_unit_from(unit_reader.text("length", "m"));
    const auto angle = angle_unit_from(unit_reader.text("angle", "°"));
    if (!unit_reader.error() && length && angle) return Units{*length, *angle};
    reader.fail("has a unit that is not known; use m, cm, mm, ft or in, and ° or rad");
    return {};
}
Json json_of(const Units& units) {
    return {{"length", symbol(units.length)}, {"angle", symbol(units.angle)}};
}

Result<Step> step_from(const Json& json, const std::string& place) {
    Reader reader(json, place);
    Step step;
    step.kind = reader.needed_text("step");
    step.name = reader.needed_text("result");
    step.muted = reader.flag("muted", false);
    step.text_units = units_from(reader, "text_units");
    step.show = show_from(reader);
    if (const Json* slots = reader.object("slots"))
        for (const auto& [key, value] : slots->items())
            step.slots.emplace(key, slot_from(value));
    if (reader.error()) return *reader.error();
    step.unknown = reader.unknown();
    return step;
}

Result<Heading> heading_from(const Json& json, const std::string& place) {
    Reader reader(json, place);
    Heading heading;
    heading.title = reader.text("heading");
    heading.note = reader.text("note");
    heading.folded = reader.flag("folded", false);
    const std::string colour = reader.text("colour", "sand");
    heading.colour = heading_colour_from(colour).value_or(HeadingColour::sand);
    heading.unknown = reader.unknown_once();
    if (reader.error()) return *reader.error();
    return heading;
}

Result<Control> control_from(const Json& json, const std::string& place) {
    Reader reader(json, place);
    Control control;
    control.name = reader.needed_text("name");
    control.value = reader.number("value", 0);
    control.least = reader.number("least", 0);
    control.most = reader.number("most", 1);
    control.step = reader.number("step", 0);
    control.unit = reader.text("unit");
    control.note = reader.text("note");
    if (!reader.error())
        if (const Status named = check_name(control.name); !named)
            reader.fail(damaged(place, sentence(named.error())));
    if (!control.unit.empty() && !length_unit_from(control.unit) && !angle_unit_from(control.unit))
        reader.fail("has the unit ‘" + control.unit + "’, which is not known");
    if (!(control.least < control.most)) reader.fail("has a range that does not run upwards");
    control.unknown = reader.unknown_once();
    if (reader.error()) return *reader.error();
    return control;
}

std::string numbered(const char* what, std::size_t index) {
    return std::string(what) + " " + std::to_string(index + 1);
}

Status read_controls(Reader& reader, Study& study) {
    const Json* list = reader.list("controls");
    for (std::size_t index = 0; list && index < list->size(); ++index) {
        Result<Control> control = control_from((*list)[index], numbered("Control", index));
        if (!control) return control.error();
        if (study.control(control->name))
            return Error{ErrorCode::name_clash, numbered("Control", index),
                         "has the name ‘" + control->name + "’, which another control has",
                         "Rename one of the two."};
        study.controls.push_back(std::make_shared<const Control>(*std::move(control)));
    }
    return Done{};
}

Status read_page(Reader& reader, Study& study) {
    const Json* list = reader.list("page");
    for (std::size_t index = 0; list && index < list->size(); ++index) {
        const Json& entry = (*list)[index];
        const std::string place = numbered("Part", index) + " of the page";
        if (entry.is_object() && entry.contains("heading")) {
            Result<Heading> heading = heading_from(entry, place);
            if (!heading) return heading.error();
            heading->id = study.next_id++;
            study.items.emplace_back(std::make_shared<const Heading>(*std::move(heading)));
        } else {
            Result<Step> step = step_from(entry, place);
            if (!step) return step.error();
            step->id = study.next_id++;
            study.items.emplace_back(std::make_shared<const Step>(*std::move(step)));
        }
    }
    return Done{};
}

Status check_version(Reader& reader) {
    const double version = reader.number("plume", 0);
    if (!reader.has("plume") || !(version >= 1)) return damaged("", "It does not say that it is a study");
    if (version != std::floor(version))
        return damaged("", "It is of format " + short_text(version, 6) + ", and formats are whole numbers");
    if (version > study_format_version)
        return Error{ErrorCode::file_newer, "",
                     "It was made by a newer version (format " + short_text(version, 6) +
                         "; this one reads up to format " + std::to_string(study_format_version) + ")",
                     "Open it with that version."};
    return Done{};
}

}  // namespace

Json json_of(const Control& control) {
    Json json{{"name", control.name}, {"value", control.value}, {"least", control.least},
              {"most", control.most}, {"step", control.step},   {"unit", control.unit}};
    if (!control.note.empty()) json["note"] = control.note;
    merge_unknown(json, control.unknown);
    return json;
}

Json json_of(const Heading& heading) {
    Json json{{"heading", heading.title}, {"colour", key_of(heading.colour)}};
    if (!heading.note.empty()) json["note"] = heading.note;
    if (heading.folded) json["folded"] = true;
    merge_unknown(json, heading.unknown);
    return json;
}

Json lines_of(const std::string& text) {
    Json lines = Json::array();
    std::size_t begin = 0;
    for (std::size_t end = text.find('\n'); end != std::string::npos; end = text.find('\n', begin)) {
        lines.push_back(text.substr(begin, end - begin));
        begin = end + 1;
    }
    lines.push_back(text.substr(begin));
    return lines;
}

Json json_of(const FormulaText& formula) {
    Json json{{"formula", lines_of(formula.text)}};
    if (!formula.muted.empty()) json["muted"] = formula.muted;
    for (const FormulaVersion& version : formula.versions)
        json["versions"].push_back(Json{{"name", version.name}, {"formula", lines_of(version.text)}});
    merge_unknown(json, formula.unknown);
    return json;
}

Json json_of(const Places& places) {
    Json list = Json::array();
    for (const Place& place : places) {
        Json json{
            {"name", place.name}, {"x", place.x}, {"y", place.y}, {"z", place.z}, {"weight", place.weight}};
        merge_unknown(json, place.unknown);
        list.push_back(std::move(json));
    }
    return list;
}

Json json_of(const SlotValue& value) {
    return std::visit(Overloaded{[](const NumberText& number) { return Json("= " + number.text); },
                                 [](const WordKey& word) { return Json(word.key); },
                                 [](const ResultName& result) {
                                     return Json{{"result", result.name}};
                                 },
                                 [](const Places& places) { return json_of(places); },
                                 [](const FormulaText& formula) { return json_of(formula); },
                                 [](const Lines& lines) {
                                     return Json{{"text", lines_of(lines.text)}};
                                 },
                                 [](const FileName& file) {
                                     return Json{{"file", file.path}};
                                 },
                                 [](const OddValue& odd) { return Json::parse(odd.json, nullptr, false); }},
                      value);
}

Json json_of(const Step& step) {
    Json json{{"step", step.kind}, {"result", step.name}};
    if (step.text_units) json["text_units"] = json_of(*step.text_units);
    if (step.muted) json["muted"] = true;
    Json show = Json::object();
    const Show usual;
    if (step.show.visible != usual.visible) show["visible"] = step.show.visible;
    if (step.show.points != usual.points) show["points"] = step.show.points;
    if (step.show.edges != usual.edges) show["edges"] = step.show.edges;
    if (step.show.faces != usual.faces) show["faces"] = step.show.faces;
    if (step.show.labels != usual.labels) show["labels"] = step.show.labels;
    if (!step.show.colour_by.empty()) show["colour_by"] = step.show.colour_by;
    if (!step.show.label_by.empty()) show["label_by"] = step.show.label_by;
    if (step.show.ramp.ramp != usual.ramp.ramp) show["ramp"] = std::string(key_of(step.show.ramp.ramp));
    if (step.show.ramp.reversed) show["ramp_reversed"] = true;
    if (step.show.ramp.steps != 0) show["ramp_steps"] = step.show.ramp.steps;
    merge_unknown(show, step.show.unknown);
    if (!show.empty()) json["show"] = show;
    Json slots = Json::object();
    for (const auto& [key, value] : step.slots)
        slots[key] = json_of(value);
    json["slots"] = slots;
    merge_unknown(json, step.unknown);
    return json;
}

Json head_json_of(const Study& study) {
    Json json{{"plume", study_format_version}, {"title", study.title}};
    if (!study.note.empty()) json["note"] = study.note;
    json["units"] = json_of(study.units);
    merge_unknown(json, study.unknown);
    return json;
}

Result<StudyPointer> study_from_json(const Json& json) {
    Reader reader(json, "The study");
    if (reader.error()) return *reader.error();
    if (Status status = check_version(reader); !status) return status.error();
    auto study = std::make_shared<Study>();
    study->title = reader.text("title");
    study->note = reader.text("note");
    study->units = units_from(reader, "units").value_or(Units());
    if (Status status = read_controls(reader, *study); !status) return status.error();
    if (Status status = read_page(reader, *study); !status) return status.error();
    study->unknown = reader.unknown_once();
    if (reader.error()) return *reader.error();
    return StudyPointer(std::move(study));
}

}  // namespace plume
