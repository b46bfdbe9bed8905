#include "core/exchange/slot_json.hpp"

#include <algorithm>

#include "core/base/overloaded.hpp"
#include "core/exchange/keys_json.hpp"
#include "core/exchange/study_json.hpp"

namespace plume {
namespace {

std::optional<Places> places_from(const Json& json) {
    Places places;
    for (const Json& entry : json) {
        JsonReader reader(entry, "");
        Place place{reader.text("name"), reader.expression("x", "0"), reader.expression("y", "0"),
                    reader.expression("z", "0"), reader.expression("weight", "1")};
        place.keys = keys_from<PlaceKey>(reader, [](JsonReader& key, PlaceKey& at) {
            at.x = key.expression("x", "0");
            at.y = key.expression("y", "0");
            at.z = key.expression("z", "0");
        });
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
    JsonReader reader(json, "");
    const Json* lines = reader.member("formula");
    if (!lines || !are_lines(*lines)) return {};
    FormulaText formula{joined_lines(*lines), {}, {}};
    if (const Json* muted = reader.member("muted")) {
        if (!is_list_of_texts(*muted)) return {};
        formula.muted = muted->get<std::vector<std::string>>();
    }
    if (const Json* versions = reader.list("versions"))
        for (const Json& version : *versions) {
            JsonReader one(version, "");
            const std::string name = one.text("name");
            const Json* text = one.member("formula");
            if (one.error() || !text || !are_lines(*text) || !one.unknown().empty()) return {};
            formula.versions.push_back({name, joined_lines(*text)});
        }
    formula.unknown = reader.unknown_once();
    if (reader.error()) return {};
    return formula;
}

// {"results": ["roof", {"result": "posts", "as": "column"}]}, with "all_of": true for all that are seen, or a
// heading's title.
std::optional<ResultList> result_list_from(const Json& json) {
    JsonReader reader(json, "");
    ResultList list;
    if (const Json* all = reader.member("all_of")) {
        if (!all->is_string() && *all != Json(true)) return {};
        list.of = all->is_string() ? ResultList::Of::heading : ResultList::Of::seen;
        if (all->is_string()) list.heading = all->get<std::string>();
    }
    const Json* results = reader.list("results");
    for (std::size_t at = 0; results && at < results->size(); ++at) {
        const Json& entry = (*results)[at];
        if (entry.is_string()) {
            list.entries.push_back({entry.get<std::string>(), ""});
            continue;
        }
        JsonReader one(entry, "");
        list.entries.push_back({one.needed_text("result"), one.text("as")});
        if (one.error() || !one.unknown().empty()) return {};
    }
    if (reader.error() || !reader.unknown().empty()) return {};
    return list;
}

// {"group": {"title": ..., "sentence": ..., "open": [{"key": ..., "of": ..., "slot": ...}], "result": ...,
// "steps": a study}}
std::optional<StepGroup> group_from(const Json& json) {
    JsonReader reader(json, "");
    StepGroup group;
    group.title = reader.needed_text("title");
    group.sentence = reader.needed_text("sentence");
    group.help = reader.text("help");
    group.result = reader.needed_text("result");
    const Json* open = reader.list("open");
    for (std::size_t at = 0; open && at < open->size(); ++at) {
        JsonReader one((*open)[at], "");
        group.open.push_back({one.needed_text("key"), one.text("of"), one.text("slot")});
        if (one.error() || !one.unknown().empty()) return {};
    }
    const Json* steps = reader.object("steps");
    if (!steps || reader.error() || !reader.unknown().empty()) return {};
    const Result<StudyPointer> study = study_from_json(*steps);
    if (!study) return {};
    group.steps = **study;
    return group;
}

Json json_of(const StepGroup& group) {
    Json json{{"title", group.title}, {"sentence", group.sentence}};
    if (!group.help.empty()) json["help"] = group.help;
    json["open"] = Json::array();
    for (const OpenSlot& open : group.open) {
        Json one{{"key", open.key}};
        if (!open.of.empty()) one["of"] = open.of;
        if (!open.slot.empty()) one["slot"] = open.slot;
        json["open"].push_back(std::move(one));
    }
    json["result"] = group.result;
    json["steps"] = json_of(group.steps);
    return json;
}

Json json_of(const ResultList& list) {
    Json json = Json::object();
    if (list.of != ResultList::Of::listed)
        json["all_of"] = list.of == ResultList::Of::seen ? Json(true) : Json(list.heading);
    if (list.of == ResultList::Of::listed || !list.entries.empty()) json["results"] = Json::array();
    for (const ResultList::Entry& entry : list.entries)
        json["results"].push_back(entry.as.empty() ? Json(entry.name)
                                                   : Json{{"result", entry.name}, {"as", entry.as}});
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
        add_keys(json, place.keys, [](const PlaceKey& key) {
            return Json{{"x", key.x}, {"y", key.y}, {"z", key.z}};
        });
        merge_unknown(json, place.unknown);
        list.push_back(std::move(json));
    }
    return list;
}

}  // namespace

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
    if (json.is_object() && (json.contains("results") || json.contains("all_of"))) {
        auto list = result_list_from(json);
        return list ? SlotValue(*std::move(list)) : odd;
    }
    if (json.is_object() && json.size() == 1 && json.contains("group")) {
        auto group = group_from(json["group"]);
        return group ? SlotValue(GroupedSteps(*std::move(group))) : odd;
    }
    if (json.is_object()) {
        auto formula = formula_from(json);
        return formula ? SlotValue(*std::move(formula)) : odd;
    }
    if (!json.is_string()) return odd;
    const std::string text = json.get<std::string>();
    if (!text.starts_with('=')) return WordKey{text};
    return NumberText{without_equals(text)};
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
                                 [](const ResultList& list) { return json_of(list); },
                                 [](const GroupedSteps& grouped) {
                                     return Json{{"group", json_of(*grouped)}};
                                 },
                                 [](const OddValue& odd) { return Json::parse(odd.json, nullptr, false); }},
                      value);
}

}  // namespace plume
