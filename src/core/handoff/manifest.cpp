#include "core/handoff/manifest.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <fstream>

#include "core/base/file.hpp"
#include "core/base/json_tree.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/json_hash.hpp"
#include "core/exchange/json_reader.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

constexpr std::uintmax_t longest_manifest = 1'000'000'000;

// "length^2" and the like need not be told: a figure's name says what it measures.
Dimension dimension_of(const std::string& figure) {
    if (figure == "volume") return {3, 0};
    if (figure == "area") return {2, 0};
    return figure == "length" ? a_length : plain_number;
}

Json json_of(const HandedFile& file) {
    return {{"name", file.name},
            {"bytes", file.bytes},
            {"fingerprint", hex_text(file.fingerprint)},
            {"modified_ns", file.modified_ns}};
}

// Places to a millionth of a unit: for whoever looks where it was.
Json json_of(const Box& box) {
    Json json = Json::array();
    for (const double number : {box.low.x, box.low.y, box.low.z, box.high.x, box.high.y, box.high.z})
        json.push_back(std::round(number * 1e6) / 1e6);
    return json;
}

Json json_of(const HandedPart& part) {
    Json json{{"mark", part.mark}};
    if (!part.as.empty()) json["as"] = part.as;
    if (!part.material.empty()) json["material"] = part.material;
    json["fingerprint"] = hex_text(part.fingerprint);
    json["figure"] = part.figure;
    if (std::isfinite(part.value.value)) json["value"] = part.value.value;
    if (!part.where.empty()) json["box"] = json_of(part.where);
    return json;
}

Json json_of(const ManifestEntry& entry) {
    Json json{{"name", entry.name},
              {"sentence", entry.sentence},
              {"key", hex_text(entry.key)},
              {"written", entry.written},
              {"report", entry.report}};
    if (entry.writing) json["writing"] = hex_text(*entry.writing);
    json["files"] = Json::array();
    for (const HandedFile& file : entry.files)
        json["files"].push_back(json_of(file));
    json["parts"] = Json::array();
    for (const HandedPart& part : entry.parts)
        json["parts"].push_back(json_of(part));
    return json;
}

// Names lead to files in the folder or below, wherever the manifest comes from.
bool stays_below(const std::string& name) {
    const fs::path path(name);
    return !name.empty() && path.is_relative() && path.lexically_normal() == path && *path.begin() != "..";
}

Result<HandedFile> file_from(const Json& json) {
    JsonReader reader(json, "A file");
    HandedFile file;
    file.name = reader.needed_text("name");
    const double bytes = reader.number("bytes", 0);
    if (!(bytes >= 0 && bytes < 9e15)) reader.fail("has a size that no file has");
    file.fingerprint = needed_hash(reader, "fingerprint");
    if (const Json* time = reader.member("modified_ns"); time && time->is_number_integer())
        file.modified_ns = time->get<std::int64_t>();
    if (!stays_below(file.name)) reader.fail("names a file outside of its folder");
    if (reader.error()) return *reader.error();
    file.bytes = static_cast<std::uintmax_t>(bytes);
    return file;
}

Box box_from(JsonReader& reader) {
    Box box;
    if (!reader.has("box")) return box;
    constexpr std::size_t numbers = 6;
    const Json* list = reader.list("box");
    if (!list || list->size() != numbers ||
        !std::ranges::all_of(*list, [](const Json& number) { return number.is_number(); })) {
        reader.fail("has a box that is not six numbers");
        return box;
    }
    const auto place = [&](std::size_t at) {
        return Vec3{(*list)[at].get<double>(), (*list)[at + 1].get<double>(), (*list)[at + 2].get<double>()};
    };
    box.include(place(0));
    box.include(place(numbers / 2));
    return box;
}

Result<HandedPart> part_from(const Json& json) {
    JsonReader reader(json, "A part");
    HandedPart part;
    part.mark = reader.needed_text("mark");
    part.as = reader.text("as");
    part.material = reader.text("material");
    part.fingerprint = needed_hash(reader, "fingerprint");
    part.figure = reader.text("figure");
    part.value = {reader.number("value", 0), dimension_of(part.figure)};
    part.where = box_from(reader);
    if (reader.error()) return *reader.error();
    return part;
}

template <class Item>
Status read_list(JsonReader& reader, const char* key, Result<Item> (*read)(const Json&),
                 std::vector<Item>& items) {
    const Json* list = reader.list(key);
    for (std::size_t at = 0; list && at < list->size(); ++at) {
        Result<Item> item = read((*list)[at]);
        if (!item) return item.error();
        items.push_back(*std::move(item));
    }
    return Done{};
}

Status read_entry(const Json& json, Manifest& manifest) {
    JsonReader reader(json, "An entry");
    ManifestEntry entry;
    entry.name = reader.needed_text("name");
    entry.sentence = reader.text("sentence");
    entry.key = needed_hash(reader, "key");
    entry.written = reader.text("written");
    entry.report = reader.text("report");
    if (reader.has("writing")) entry.writing = needed_hash(reader, "writing");
    if (Status read = read_list(reader, "files", file_from, entry.files); !read) return read.error();
    if (Status read = read_list(reader, "parts", part_from, entry.parts); !read) return read.error();
    if (entry.files.empty()) reader.fail("names no file");
    if (reader.error()) return *reader.error();
    const std::string file = entry.files.front().name;
    manifest.entries.insert_or_assign(file, std::move(entry));
    return Done{};
}

Result<Manifest> manifest_from(const Json& json) {
    JsonReader reader(json, "The manifest");
    const double version = reader.number("plume_handoff", 0);
    if (reader.error()) return *reader.error();
    if (!(version >= 1) || version != std::floor(version))
        return damaged_file("", "It does not say that it is a manifest");
    if (version > manifest_format_version)
        return Error{ErrorCode::file_newer, "",
                     "It was written by a newer version (format " + short_text(version, 6) + ")",
                     "Hand off with that version, or choose another folder."};
    Manifest manifest;
    manifest.study = reader.text("study");
    const Json* list = reader.list("deliveries");
    for (std::size_t at = 0; list && at < list->size(); ++at)
        if (Status read = read_entry((*list)[at], manifest); !read) return read.error();
    if (reader.error()) return *reader.error();
    return manifest;
}

Error about_manifest(Error error, const fs::path& path) {
    error.where = "‘" + path.string() + "’";
    if (error.code == ErrorCode::file_damaged)
        error.mend = "Move it away and hand off anew: you are asked before a file that is there is replaced.";
    return error;
}

std::int64_t modified_ns(const fs::path& path) {
    std::error_code ignored;
    const auto time = fs::last_write_time(path, ignored);
    return std::chrono::file_clock::to_sys(time).time_since_epoch().count();
}

}  // namespace

Result<Manifest> manifest_from_text(std::string_view text) {
    try {
        const Result<Json> json = read_json(text);
        if (!json) return json.error();
        return manifest_from(*json);
    } catch (const Json::exception&) {
        return damaged_file("", "It has numbers or names that cannot be read");
    }
}

Result<std::optional<Manifest>> load_manifest(const fs::path& folder) {
    const fs::path path = folder / manifest_name;
    const Result<std::string> text = read_file(path, longest_manifest);
    if (!text && text.error().code == ErrorCode::file_missing) return std::optional<Manifest>();
    if (!text) return text.error();
    Result<Manifest> manifest = manifest_from_text(*text);
    if (!manifest) return about_manifest(manifest.error(), path);
    return std::optional(*std::move(manifest));
}

std::string manifest_to_text(const Manifest& manifest) {
    Json json{{"plume_handoff", manifest_format_version}, {"study", manifest.study}};
    json["deliveries"] = Json::array();
    for (const auto& [file, entry] : manifest.entries)
        json["deliveries"].push_back(json_of(entry));
    return json.dump(1, ' ', false, Json::error_handler_t::replace) + '\n';
}

Status save_manifest(const Manifest& manifest, const fs::path& folder) {
    return write_file(folder / manifest_name, manifest_to_text(manifest));
}

Result<std::optional<HandedFile>> handed_file(const fs::path& folder, const std::string& name,
                                              const Run& run) {
    const fs::path path = folder / name;
    std::error_code problem;
    if (!fs::exists(path, problem)) return std::optional<HandedFile>();
    if (Status regular = check_regular_file(path); !regular) return regular.error();
    HandedFile file{name, 0, {}, modified_ns(path)};
    std::ifstream stream(path, std::ios::binary);
    std::string piece(1U << 20U, '\0');
    Hasher hasher;
    while (stream) {
        if (run.cancelled()) return cancelled_error();
        stream.read(piece.data(), static_cast<std::streamsize>(piece.size()));
        const auto count = static_cast<std::size_t>(stream.gcount());
        hasher.add(std::string_view(piece.data(), count));
        file.bytes += count;
    }
    file.fingerprint = hasher.finish();
    return std::optional(file);
}

Result<bool> is_as_left(const fs::path& folder, const HandedFile& file, const Run& run) {
    const fs::path path = folder / file.name;
    std::error_code problem;
    if (!fs::exists(path, problem) || fs::file_size(path, problem) != file.bytes || problem) return false;
    if (modified_ns(path) == file.modified_ns) return true;
    const auto now = handed_file(folder, file.name, run);
    if (!now) return now.error();
    return *now && (*now)->fingerprint == file.fingerprint;
}

}  // namespace plume
