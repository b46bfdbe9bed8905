#include "core/exchange/study_json.hpp"

#include <algorithm>
#include <cmath>
#include <variant>

#include "core/base/numbers.hpp"
#include "core/exchange/keys_json.hpp"
#include "core/exchange/slot_json.hpp"
#include "core/exchange/study_file.hpp"

namespace plume {
namespace {

Show show_from(JsonReader& step) {
    Show show;
    const Json* json = step.object("show");
    if (!json) return show;
    JsonReader reader(*json, "");
    show.visible = reader.flag("visible", true);
    show.points = reader.flag("points", true);
    show.edges = reader.flag("edges", true);
    show.faces = reader.flag("faces", true);
    show.labels = reader.flag("labels", false);
    show.colour_by = reader.text("colour_by");
    show.label_by = reader.text("label_by");
    show.heavier_each = static_cast<int>(std::clamp(reader.number("heavier_each", 0), 0.0, 1e3));
    // A ramp of another version is shown as the usual one.
    show.ramp.ramp = ramp_from(reader.text("ramp")).value_or(Ramp::estuary);
    show.ramp.reversed = reader.flag("ramp_reversed", false);
    show.ramp.steps = std::clamp(static_cast<int>(std::clamp(reader.number("ramp_steps", 0), 0.0, 1e3)), 0,
                                 most_ramp_steps);
    show.material.key = reader.text("material");
    show.material.paint = reader.text("paint", show.material.paint);
    show.unknown = reader.unknown_once();
    if (reader.error()) step.fail("has a ‘show’ that cannot be read");
    return show;
}

std::optional<Units> units_from(JsonReader& reader, const char* key) {
    const Json* units = reader.object(key);
    if (!units) return {};
    JsonReader unit_reader(*units, key);
    const auto length = length_unit_from(unit_reader.text("length", "m"));
    const auto angle = angle_unit_from(unit_reader.text("angle", "°"));
    if (!unit_reader.error() && length && angle) return Units{*length, *angle};
    reader.fail("has a unit that is not known; use m, cm, mm, ft or in, and ° or rad");
    return {};
}
Json json_of(const Units& units) {
    return {{"length", symbol(units.length)}, {"angle", symbol(units.angle)}};
}

Result<Step> step_from(const Json& json, const std::string& where) {
    JsonReader reader(json, where);
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

Result<Heading> heading_from(const Json& json, const std::string& where) {
    JsonReader reader(json, where);
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

template <class Key>
void refuse_keyed_twice(JsonReader& reader, const std::string& name, const std::vector<Key>& keys) {
    if (const auto twice = twice_keyed(keys)) reader.fail(keyed_twice(name, *twice));
}

Result<Control> control_from(const Json& json, const std::string& where) {
    JsonReader reader(json, where);
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
            reader.fail(damaged_file(where, sentence(named.error())));
    if (!control.unit.empty() && !unit_quantity(control.unit, LengthUnit::metre))
        reader.fail("has the unit ‘" + control.unit + "’, which is not known");
    if (!(control.least < control.most)) reader.fail("has a range that does not run upwards");
    control.keys = keys_from<ControlKey>(
        reader, [](JsonReader& key, ControlKey& at) { at.value = key.number("value", 0); });
    refuse_keyed_twice(reader, control.name, control.keys);
    control.unknown = reader.unknown_once();
    if (reader.error()) return *reader.error();
    return control;
}

std::string numbered(const char* what, std::size_t index) {
    return std::string(what) + " " + std::to_string(index + 1);
}

Status read_controls(JsonReader& reader, Study& study) {
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

// Items as they are read, before it is known where they stand.
using ReadItem = std::variant<Heading, Step>;
struct ReadPages {
    std::vector<ReadItem> sheet, hand_off;
};

Status read_page(JsonReader& reader, Page page, ReadPages& pages) {
    const bool sheet = page == Page::sheet;
    std::vector<ReadItem>& own = sheet ? pages.sheet : pages.hand_off;
    const Json* list = reader.list(sheet ? "page" : "handoff");
    for (std::size_t index = 0; list && index < list->size(); ++index) {
        const Json& entry = (*list)[index];
        const std::string place =
            numbered("Part", index) + (sheet ? " of the page" : " of what is handed off");
        if (entry.is_object() && entry.contains("heading")) {
            Result<Heading> heading = heading_from(entry, place);
            if (!heading) return heading.error();
            heading->page = page;
            own.emplace_back(*std::move(heading));
        } else {
            Result<Step> step = step_from(entry, place);
            if (!step) return step.error();
            // What stands in the list of the other page goes to its own.
            (page_of(*step) == Page::sheet ? pages.sheet : pages.hand_off).emplace_back(*std::move(step));
        }
    }
    return Done{};
}

void add_items(std::vector<ReadItem> items, Study& study) {
    for (ReadItem& item : items)
        std::visit(
            [&]<class One>(One& one) {
                one.id = study.next_id++;
                study.items.emplace_back(std::make_shared<const One>(std::move(one)));
            },
            item);
}

std::optional<Vec3> vector_from(const Json* list) {
    if (!list || list->size() != 3) return {};
    for (const Json& entry : *list)
        if (!entry.is_number()) return {};
    return Vec3{(*list)[0].get<double>(), (*list)[1].get<double>(), (*list)[2].get<double>()};
}

void read_camera(JsonReader& reader, Camera& camera) {
    if (const auto target = vector_from(reader.list("target")))
        camera.target = *target;
    else
        reader.fail("needs a list of three numbers for ‘target’");
    camera.distance = reader.number("distance", camera.distance);
    set_degrees(camera, reader.number("azimuth", azimuth_degrees(camera)),
                reader.number("elevation", elevation_degrees(camera)));
    camera.perspective = !reader.flag("parallel", false);
    if (!(camera.distance > 0)) reader.fail("needs a distance above 0");
}

KeptCamera camera_from(const Json& json, const std::string& where, JsonReader& study) {
    JsonReader reader(json, where);
    KeptCamera kept;
    kept.name = reader.needed_text("name");
    read_camera(reader, kept.camera);
    kept.keys =
        keys_from<CameraKey>(reader, [](JsonReader& key, CameraKey& at) { read_camera(key, at.camera); });
    refuse_keyed_twice(reader, kept.name, kept.keys);
    kept.unknown = reader.unknown_once();
    if (reader.error()) study.fail(*reader.error());
    return kept;
}

void read_cameras(JsonReader& reader, Study& study) {
    const Json* list = reader.list("cameras");
    for (std::size_t index = 0; list && index < list->size() && !reader.error(); ++index) {
        KeptCamera kept = camera_from((*list)[index], numbered("Camera", index), reader);
        if (study.camera(kept.name))
            reader.fail(Error{ErrorCode::name_clash, numbered("Camera", index),
                              "has the name ‘" + kept.name + "’, which another camera has",
                              "Rename one of the two."});
        study.cameras.push_back(std::move(kept));
    }
}

Timeline time_from(JsonReader& study) {
    Timeline time;
    const Json* json = study.object("time");
    if (!json) return time;
    JsonReader reader(*json, "The time");
    time.seconds = reader.number("seconds", time.seconds);
    time.rate = reader.number("rate", time.rate);
    if (!(time.seconds > 0 && time.seconds <= longest_time_s))
        reader.fail("needs ‘seconds’ above 0, at most a day");
    if (!(time.rate >= 1 && time.rate <= fastest_rate)) reader.fail("needs a ‘rate’ from 1 to 240");
    for (const auto& [key, json_text] : reader.unknown())
        reader.fail("has ‘" + key + "’, which is not known");
    if (reader.error()) study.fail(*reader.error());
    return time;
}

Status check_version(JsonReader& reader) {
    const double version = reader.number("plume", 0);
    if (!reader.has("plume") || !(version >= 1))
        return damaged_file("", "It does not say that it is a study");
    if (version != std::floor(version))
        return damaged_file("",
                            "It is of format " + short_text(version, 6) + ", and formats are whole numbers");
    if (version > study_format_version)
        return Error{ErrorCode::file_newer, "",
                     "It was made by a newer version (format " + short_text(version, 6) +
                         "; this one reads up to format " + std::to_string(study_format_version) + ")",
                     "Open it with that version."};
    return Done{};
}

Json json_of(const Camera& camera) {
    Json json{{"target", {camera.target.x, camera.target.y, camera.target.z}},
              {"distance", camera.distance},
              {"azimuth", azimuth_degrees(camera)},
              {"elevation", elevation_degrees(camera)}};
    if (!camera.perspective) json["parallel"] = true;
    return json;
}

}  // namespace

Json json_of(const Control& control) {
    Json json{{"name", control.name}, {"value", control.value}, {"least", control.least},
              {"most", control.most}, {"step", control.step},   {"unit", control.unit}};
    if (!control.note.empty()) json["note"] = control.note;
    add_keys(json, control.keys, [](const ControlKey& key) { return Json{{"value", key.value}}; });
    merge_unknown(json, control.unknown);
    return json;
}

Json json_of(const KeptCamera& kept) {
    Json json{{"name", kept.name}};
    json.update(json_of(kept.camera));
    add_keys(json, kept.keys, [](const CameraKey& key) { return json_of(key.camera); });
    merge_unknown(json, kept.unknown);
    return json;
}

Json json_of(const Heading& heading) {
    Json json{{"heading", heading.title}, {"colour", key_of(heading.colour)}};
    if (!heading.note.empty()) json["note"] = heading.note;
    if (heading.folded) json["folded"] = true;
    merge_unknown(json, heading.unknown);
    return json;
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
    if (step.show.heavier_each != 0) show["heavier_each"] = step.show.heavier_each;
    if (step.show.ramp.ramp != usual.ramp.ramp) show["ramp"] = std::string(key_of(step.show.ramp.ramp));
    if (step.show.ramp.reversed) show["ramp_reversed"] = true;
    if (step.show.ramp.steps != 0) show["ramp_steps"] = step.show.ramp.steps;
    if (!step.show.material.key.empty()) show["material"] = step.show.material.key;
    if (step.show.material.paint != usual.material.paint) show["paint"] = step.show.material.paint;
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
    if (study.time != Timeline())
        json["time"] = Json{{"seconds", study.time.seconds}, {"rate", study.time.rate}};
    if (study.hand_off_folder != Study().hand_off_folder) json["handoff_folder"] = study.hand_off_folder;
    merge_unknown(json, study.unknown);
    return json;
}

Json json_of(const Study& study) {
    Json json = head_json_of(study);
    if (!study.controls.empty()) json["controls"] = Json::array();
    for (const ControlPointer& control : study.controls)
        json["controls"].push_back(json_of(*control));
    for (const KeptCamera& camera : study.cameras)
        json["cameras"].push_back(json_of(camera));
    json["page"] = Json::array();
    for (const Item& item : study.items) {
        const Step* step = step_of(item);
        json[page_of(item) == Page::sheet ? "page" : "handoff"].push_back(step ? json_of(*step)
                                                                               : json_of(*heading_of(item)));
    }
    return json;
}

Result<StudyPointer> study_from_json(const Json& json) {
    JsonReader reader(json, "The study");
    if (reader.error()) return *reader.error();
    if (Status status = check_version(reader); !status) return status.error();
    auto study = std::make_shared<Study>();
    study->title = reader.text("title");
    study->note = reader.text("note");
    study->units = units_from(reader, "units").value_or(Units());
    study->time = time_from(reader);
    if (Status status = read_controls(reader, *study); !status) return status.error();
    read_cameras(reader, *study);
    study->hand_off_folder = reader.text("handoff_folder", study->hand_off_folder);
    ReadPages pages;
    for (const Page page : {Page::sheet, Page::hand_off})
        if (Status status = read_page(reader, page, pages); !status) return status.error();
    add_items(std::move(pages.sheet), *study);
    add_items(std::move(pages.hand_off), *study);
    study->unknown = reader.unknown_once();
    if (reader.error()) return *reader.error();
    return StudyPointer(std::move(study));
}

}  // namespace plume
