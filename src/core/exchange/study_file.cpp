#include "core/exchange/study_file.hpp"

#include <algorithm>
#include <array>

#include "core/base/file.hpp"
#include "core/base/json_tree.hpp"
#include "core/exchange/study_json.hpp"

namespace plume {
namespace {

std::string compact(const Json& json) {
    return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

std::string quoted(const std::string& text) {
    return compact(Json(text));
}

// {"a": 1, "b": 2} on one line, with a space after colons and commas.
std::string one_line(const Json& object) {
    std::string text = "{";
    for (const auto& [key, value] : object.items()) {
        if (text.size() > 1) text += ", ";
        text += quoted(key) + ": " + (value.is_object() ? one_line(value) : compact(value));
    }
    return text + "}";
}

bool is_list_of_objects(const Json& json) {
    return json.is_array() && !json.empty() &&
           std::ranges::all_of(json, [](const Json& e) { return e.is_object(); });
}

// The lines of a formula, one a line of the file, so that a change of one shows as one.
std::string formula_lines(const Json& lines, const std::string& indent) {
    std::string text = "[";
    for (std::size_t line = 0; line < lines.size(); ++line)
        text += (line > 0 ? ",\n" : "\n") + indent + "  " + compact(lines[line]);
    return text + "\n" + indent + "]";
}

bool spreads(const Json& value) {
    return std::ranges::any_of(std::array{"formula", "group", "steps", "page"},
                               [&](const char* key) { return value.contains(key); });
}

// An object over several lines: one a member, one an entry of a member that is a list of objects or, when
// `spread` names it, an object.
std::string many_lines(const Json& object, const std::string& indent, std::string_view spread) {
    const std::string inner = indent + "  ";
    std::string text = "{";
    for (const auto& [key, value] : object.items()) {
        text += (text.size() > 1 ? ",\n" : "\n") + inner + quoted(key) + ": ";
        if (value.is_object() && (key == spread || spreads(value))) {
            text += many_lines(value, inner, {});
        } else if (key == "formula" && value.is_array()) {
            text += formula_lines(value, inner);
        } else if (is_list_of_objects(value)) {
            text += "[";
            for (std::size_t entry = 0; entry < value.size(); ++entry)
                text += (entry > 0 ? ",\n" : "\n") + inner + "  " + one_line(value[entry]);
            text += "\n" + inner + "]";
        } else {
            text += value.is_object() ? one_line(value) : compact(value);
        }
    }
    return text.size() > 1 ? text + "\n" + indent + "}" : "{}";
}

void append_list(std::string& text, const char* key, const std::vector<std::string>& entries) {
    text += std::string(",\n  \"") + key + "\": [";
    for (std::size_t index = 0; index < entries.size(); ++index)
        text += (index > 0 ? ",\n    " : "\n    ") + entries[index];
    text += entries.empty() ? "]" : "\n  ]";
}

std::vector<std::string> entries_of(const Study& study, Page page) {
    std::vector<std::string> entries;
    for (std::size_t at = study.page_begin(page); at < study.page_end(page); ++at) {
        const Step* step = step_of(study.items[at]);
        entries.push_back(step ? many_lines(json_of(*step), "    ", "slots")
                               : one_line(json_of(*heading_of(study.items[at]))));
    }
    return entries;
}

}  // namespace

std::string study_to_text(const Study& study) {
    std::string text = many_lines(head_json_of(study), "", {});
    text.resize(text.size() - 2);  // the closing "\n}", which comes after the lists
    std::vector<std::string> entries;
    for (const ControlPointer& control : study.controls)
        entries.push_back(one_line(json_of(*control)));
    append_list(text, "controls", entries);
    if (!study.cameras.empty()) {
        std::vector<std::string> cameras;
        for (const KeptCamera& camera : study.cameras)
            cameras.push_back(one_line(json_of(camera)));
        append_list(text, "cameras", cameras);
    }
    append_list(text, "page", entries_of(study, Page::sheet));
    const std::vector<std::string> leaving = entries_of(study, Page::hand_off);
    if (!leaving.empty()) append_list(text, "handoff", leaving);
    return text + "\n}\n";
}

Result<StudyPointer> study_from_text(std::string_view text) {
    if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
    if (std::ranges::all_of(text, [](char c) { return c == ' ' || c == '\n' || c == '\t' || c == '\r'; }))
        return Error{ErrorCode::file_damaged, "", "It is empty", "Go back to an older copy."};
    const Result<Json> json = read_json(text, again_suffix);
    if (!json) return json.error();
    try {
        return study_from_json(*json);
    } catch (const Json::exception&) {
        return Error{ErrorCode::file_damaged, "", "It has numbers or names that cannot be read",
                     "Go back to an older copy."};
    }
}

Result<StudyPointer> load_study(const std::filesystem::path& path) {
    const Result<std::string> text = read_file(path, longest_study_file);
    if (!text) return text.error();
    Result<StudyPointer> study = study_from_text(*text);
    if (study) return study;
    Error error = study.error();
    error.message = (error.where.empty() ? "" : error.where + ' ') + error.message;
    error.where = "‘" + path.string() + "’ cannot be opened:";
    return error;
}

Status save_study(const Study& study, const std::filesystem::path& path) {
    return write_file(path, study_to_text(study));
}

}  // namespace plume
