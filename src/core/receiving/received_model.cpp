#include "core/receiving/received_model.hpp"

#include <cmath>

#include "core/base/file.hpp"
#include "core/base/json_tree.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/json_hash.hpp"
#include "core/handoff/manifest.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

constexpr std::uintmax_t longest_model = 1'000'000'000;
constexpr int model_format_version = 1;
constexpr const char* model_name = "model.json";

fs::path copy_path(const fs::path& folder, const Hash& copy) {
    return folder / received_folder_name / (hex_text(copy) + ".ifc");
}

std::set<Hash> copies_of(const ReceivedModel& model) {
    std::set<Hash> copies;
    for (const PlacedPart& part : model.parts)
        copies.insert(part.copy);
    return copies;
}

Json json_of(const PlacedPart& part) {
    Json json{{"identity", part.identity}, {"copy", hex_text(part.copy)}};
    if (!part.source.empty()) json["source"] = part.source;
    if (part.locked) json["locked"] = true;
    return json;
}

Result<PlacedPart> part_from(const Json& json) {
    JsonReader reader(json, "A part");
    PlacedPart part;
    part.identity = reader.needed_text("identity");
    part.source = reader.text("source");
    part.copy = needed_hash(reader, "copy");
    part.locked = reader.flag("locked", false);
    if (reader.error()) return *reader.error();
    return part;
}

Result<ReceivedModel> model_from(const Json& json) {
    JsonReader reader(json, "The model");
    const double version = reader.number("plume_received", 0);
    if (reader.error()) return *reader.error();
    if (!(version >= 1) || version != std::floor(version))
        return damaged_file("", "It does not say that it is a received model");
    if (version > model_format_version)
        return Error{ErrorCode::file_newer, "",
                     "It was written by a newer version (format " + short_text(version, 6) + ")",
                     "Receive with that version, or move the folder away."};
    ReceivedModel model;
    if (const std::string unit = reader.text("reads_as"); !unit.empty()) {
        model.reads_as = length_unit_from(unit);
        if (!model.reads_as) reader.fail("reads lengths as ‘" + shortened(unit, 20) + "’, which is no unit");
    }
    const Json* parts = reader.list("parts");
    std::set<std::string> known;
    for (std::size_t at = 0; parts && at < parts->size(); ++at) {
        Result<PlacedPart> part = part_from((*parts)[at]);
        if (!part) return part.error();
        if (!known.insert(part->identity).second) reader.fail("has one part twice");
        model.parts.push_back(*std::move(part));
    }
    if (const Json* deleted = reader.object("deleted"))
        for (const auto& [source, identities] : deleted->items()) {
            if (!identities.is_array()) reader.fail("has a ‘deleted’ that is no list");
            for (const Json& identity : identities)
                if (identity.is_string())
                    model.deleted[source].insert(identity.get<std::string>());
                else
                    reader.fail("has an identity in ‘deleted’ that is no text");
        }
    if (reader.error()) return *reader.error();
    return model;
}

Error about_model(Error error, const fs::path& path) {
    error.where = "‘" + path.string() + "’";
    if (error.code == ErrorCode::file_damaged)
        error.mend = "Move the folder ‘" + std::string(received_folder_name) +
                     "’ away: the model is made anew from the files.";
    return error;
}

std::optional<double> scaled(std::optional<double> figure, double factor) {
    if (figure) *figure *= factor;
    return figure;
}

}  // namespace

Result<ReceivedModel> received_model_from_text(std::string_view text) {
    try {
        const Result<Json> json = read_json(text);
        if (!json) return json.error();
        return model_from(*json);
    } catch (const Json::exception&) {
        return damaged_file("", "It has numbers or names that cannot be read");
    }
}

std::string received_model_to_text(const ReceivedModel& model) {
    Json json{{"plume_received", model_format_version}};
    if (model.reads_as) json["reads_as"] = symbol(*model.reads_as);
    json["parts"] = Json::array();
    for (const PlacedPart& part : model.parts)
        json["parts"].push_back(json_of(part));
    if (!model.deleted.empty()) {
        json["deleted"] = Json::object();
        for (const auto& [source, identities] : model.deleted)
            json["deleted"][source] = identities;
    }
    return json.dump(1, ' ', false, Json::error_handler_t::replace) + '\n';
}

std::optional<double> Received::Part::area_m2() const {
    return scaled(taken->area_m2, scale * scale);
}
std::optional<double> Received::Part::volume_m3() const {
    return scaled(taken->volume_m3, scale * scale * scale);
}
std::optional<double> Received::Part::length_m() const {
    return scaled(taken->length_m, scale);
}

std::vector<Received::Part> Received::parts() const {
    std::vector<Part> parts;
    for (const PlacedPart& placed : model_.parts) {
        const TakenFile& file = *files_.at(placed.copy);
        const double scale = model_.reads_as ? metres_per(*model_.reads_as) / file.metres_per_unit : 1;
        parts.push_back({&placed, file.part(placed.identity), scale});
    }
    return parts;
}

std::vector<std::shared_ptr<const TakenFile>> Received::files() const {
    std::vector<std::shared_ptr<const TakenFile>> files;
    for (const auto& [copy, file] : files_)
        files.push_back(file);
    return files;
}

const std::shared_ptr<const TakenFile>* Received::file(const Hash& copy) const {
    const auto found = files_.find(copy);
    return found == files_.end() ? nullptr : &found->second;
}

Result<Received> Received::open(const fs::path& folder, const Run& run) {
    std::error_code problem;
    if (!fs::is_directory(folder, problem))
        return Error{ErrorCode::file_missing, "‘" + folder.string() + "’", "is no folder",
                     "Name the folder that the files are handed off into."};
    const fs::path path = folder / received_folder_name / model_name;
    const Result<std::string> text = read_file(path, longest_model);
    if (!text && text.error().code == ErrorCode::file_missing) return Received(folder, {}, {});
    if (!text) return text.error();
    Result<ReceivedModel> model = received_model_from_text(*text);
    if (!model) return about_model(model.error(), path);
    std::map<Hash, std::shared_ptr<const TakenFile>> files;
    for (const Hash& copy : copies_of(*model)) {
        const fs::path from = copy_path(folder, copy);
        Result<TakenFile> file = take_file(from, run);
        if (!file) return about_model(file.error(), from);
        files.emplace(copy, std::make_shared<const TakenFile>(*std::move(file)));
    }
    for (const PlacedPart& part : model->parts)
        if (!files.at(part.copy)->part(part.identity))
            return about_model(damaged_file("", "It has a part that is not in the copy of its file"), path);
    return Received(folder, *std::move(model), std::move(files));
}

Result<Received> Received::with(ReceivedModel model, const std::map<Hash, Copy>& more, const Run& run) const {
    std::map<Hash, std::shared_ptr<const TakenFile>> files;
    const fs::path place = folder_ / received_folder_name;
    std::error_code problem;
    if (fs::is_directory(folder_, problem)) fs::create_directory(place, problem);
    if (!fs::is_directory(place, problem))
        return Error{ErrorCode::file_unwritable, "‘" + place.string() + "’", "cannot be made",
                     "Look whether the folder is still there, and yours to write into."};
    for (const Hash& copy : copies_of(model)) {
        if (run.cancelled()) return cancelled_error();
        if (const auto held = files_.find(copy); held != files_.end()) {
            files.insert(*held);
            continue;
        }
        const Copy& fresh = more.at(copy);
        const Result<std::string> bytes = read_file(fresh.path, longest_model);
        if (!bytes) return error_at(bytes.error(), "‘" + fresh.path.string() + "’");
        const auto now = handed_file(fresh.path.parent_path(), fresh.path.filename().string(), run);
        if (!now) return now.error();
        if (!*now || (*now)->fingerprint != copy)
            return Error{ErrorCode::file_changed, "‘" + fresh.path.string() + "’",
                         "was changed while it was read", "Receive again."};
        if (Status written = write_file(copy_path(folder_, copy), *bytes); !written) return written.error();
        files.emplace(copy, fresh.file);
    }
    if (Status written = write_file(place / model_name, received_model_to_text(model)); !written)
        return written.error();
    for (const auto& [copy, file] : files_)
        if (!files.contains(copy)) fs::remove(copy_path(folder_, copy), problem);
    return Received(folder_, std::move(model), std::move(files));
}

}  // namespace plume
