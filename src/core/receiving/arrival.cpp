#include "core/receiving/arrival.hpp"

#include <algorithm>
#include <array>

#include "core/base/listed.hpp"
#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"
#include "core/handoff/manifest.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

constexpr std::size_t most_files = 1000;

// Names relative to the folder, in their order.
Result<std::vector<std::string>> ifc_files_in(const fs::path& folder) {
    std::vector<std::string> names;
    std::error_code problem;
    fs::recursive_directory_iterator at(folder, fs::directory_options::skip_permission_denied, problem), end;
    for (; !problem && at != end; at.increment(problem)) {
        if (at.depth() == 0 && at->path().filename() == received_folder_name) at.disable_recursion_pending();
        std::error_code ignored;
        if (ending_of(at->path()) != ".ifc" || !at->is_regular_file(ignored)) continue;
        names.push_back(at->path().lexically_relative(folder).string());
        if (names.size() > most_files)
            return Error{ErrorCode::file_too_large, "‘" + folder.string() + "’",
                         "has more than " + std::to_string(most_files) + " IFC files",
                         "Name the folder of one hand-off."};
    }
    if (problem)
        return Error{ErrorCode::file_unreadable, "‘" + folder.string() + "’",
                     "cannot be read: " + problem.message(), "Look whether the folder is still there."};
    std::ranges::sort(names);
    return names;
}

// Parts here by identity.
using PartsHere = std::map<std::string, Received::Part>;
PartsHere parts_here(const Received& here) {
    PartsHere parts;
    for (const Received::Part& part : here.parts())
        parts.emplace(part.placed->identity, part);
    return parts;
}

bool is_deleted(const ReceivedModel& model, const std::string& source, const std::string& identity) {
    const auto found = model.deleted.find(source);
    return found != model.deleted.end() && found->second.contains(identity);
}

// `claimed`: identities of files before this one.
void compare(const Received& here, const PartsHere& parts, std::map<std::string, std::string>& claimed,
             ArrivedFile& file) {
    for (const TakenPart& part : file.file->parts) {
        const std::string& identity = part.element.identity;
        const auto found = parts.find(identity);
        ArrivingPart arriving{identity, Arriving::fresh, nullptr, &part};
        const bool claimed_before = !claimed.emplace(identity, file.name).second;
        if (found != parts.end()) {
            arriving.was = found->second.taken;
            const bool same = arriving.was->fingerprint == part.fingerprint;
            arriving.state = found->second.placed->source != file.name ? Arriving::taken_already
                             : same                                    ? Arriving::as_before
                             : found->second.placed->locked            ? Arriving::locked
                                                                       : Arriving::changed;
        } else if (claimed_before) {
            arriving.state = Arriving::taken_already;
        } else if (is_deleted(here.model(), file.name, identity)) {
            arriving.state = Arriving::deleted;
        }
        file.parts.push_back(arriving);
    }
    for (const auto& [identity, part] : parts)
        if (part.placed->source == file.name && !file.file->part(identity))
            file.parts.push_back(
                {identity, part.placed->locked ? Arriving::locked : Arriving::gone, part.taken, nullptr});
    std::ranges::sort(file.parts, {}, &ArrivingPart::identity);
}

// The file as it was taken before, or read now.
Result<std::shared_ptr<const TakenFile>> taken(const Received& here, const fs::path& path, const Hash& hash,
                                               const Run& run) {
    if (const auto* held = here.file(hash)) return *held;
    Result<TakenFile> file = take_file(path, run);
    if (!file) return file.error();
    return std::make_shared<const TakenFile>(*std::move(file));
}

}  // namespace

std::string_view plain_name(Arriving state) {
    constexpr std::array<std::string_view, 7> names = {"new",    "changed",      "as before",   "gone",
                                                       "locked", "deleted here", "here already"};
    return names[static_cast<std::size_t>(state)];
}

std::size_t ArrivedFile::count(Arriving state) const {
    return static_cast<std::size_t>(std::ranges::count(parts, state, &ArrivingPart::state));
}

std::string ArrivedFile::counts_text() const {
    std::vector<std::string> texts;
    for (const Arriving state : {Arriving::fresh, Arriving::changed, Arriving::gone, Arriving::locked,
                                 Arriving::deleted, Arriving::taken_already, Arriving::as_before})
        if (const std::size_t number = count(state); number > 0)
            texts.push_back(std::to_string(number) + ' ' + std::string(plain_name(state)));
    return listed(texts);
}

bool ArrivedFile::changes_anything() const {
    return count(Arriving::fresh) + count(Arriving::changed) + count(Arriving::gone) > 0;
}

bool Arrival::changes_anything() const {
    return std::ranges::any_of(files, &ArrivedFile::changes_anything);
}

Result<Arrival> look_at_arrival(const Received& here, const Run& run) {
    const auto names = ifc_files_in(here.folder());
    if (!names) return names.error();
    const PartsHere parts = parts_here(here);
    Arrival arrival;
    arrival.before = here.files();
    std::map<std::string, std::string> claimed;
    for (const std::string& name : *names) {
        const auto as_it_is = handed_file(here.folder(), name, run);
        if (!as_it_is && as_it_is.error().code == ErrorCode::cancelled) return as_it_is.error();
        ArrivedFile file{name, {}, {}, {}, {}};
        if (!as_it_is) {
            file.error = as_it_is.error();
        } else if (!*as_it_is) {
            continue;  // gone since it was listed
        } else {
            file.hash = (*as_it_is)->fingerprint;
            auto made = taken(here, here.folder() / name, file.hash, run);
            if (!made && made.error().code == ErrorCode::cancelled) return made.error();
            if (made) {
                file.file = *std::move(made);
                compare(here, parts, claimed, file);
            } else {
                file.error = made.error();
            }
        }
        if (file.error) file.error->where = "‘" + name + "’";
        arrival.files.push_back(std::move(file));
    }
    std::set<std::string> missing;
    for (const PlacedPart& part : here.model().parts)
        if (!part.source.empty() && std::ranges::find(*names, part.source) == names->end())
            missing.insert(part.source);
    arrival.missing.assign(missing.begin(), missing.end());
    return arrival;
}

Result<Received> take_in(const Received& here, const Arrival& arrival, const Run& run) {
    ReceivedModel model = here.model();
    std::map<std::string, PlacedPart> parts;
    for (PlacedPart& part : model.parts)
        parts.emplace(part.identity, std::move(part));
    std::map<Hash, Received::Copy> copies;
    for (const ArrivedFile& file : arrival.files) {
        if (!file.file) continue;
        copies[file.hash] = {here.folder() / file.name, file.file};
        for (const ArrivingPart& part : file.parts) {
            if (part.state == Arriving::gone) parts.erase(part.identity);
            if (part.state == Arriving::fresh) parts[part.identity] = {part.identity, file.name, file.hash};
            // One that is as before is taken from the file as it is now, so that the old copy can go.
            if (part.state == Arriving::changed || part.state == Arriving::as_before)
                parts[part.identity].copy = file.hash;
        }
        // What its file no longer has need not be remembered as deleted.
        if (const auto deleted = model.deleted.find(file.name); deleted != model.deleted.end()) {
            std::erase_if(deleted->second, [&](const std::string& one) { return !file.file->part(one); });
            if (deleted->second.empty()) model.deleted.erase(deleted);
        }
    }
    model.parts.clear();
    for (auto& [identity, part] : parts)
        model.parts.push_back(std::move(part));
    return here.with(std::move(model), copies, run);
}

std::size_t ghosts_of(const Received& here, const ArrivedFile& file) {
    return static_cast<std::size_t>(std::ranges::count_if(here.model().parts, [&](const PlacedPart& part) {
        return part.source == file.name && file.file && !file.file->part(part.identity);
    }));
}

std::string presence_text(const Received& here, const ArrivedFile& file) {
    const auto of_it = std::ranges::count(here.model().parts, file.name, &PlacedPart::source);
    std::string text = count_text(file.file->parts.size(), "part", "parts") + " in it, " +
                       std::to_string(of_it) + " of it here";
    if (const std::size_t ghosts = ghosts_of(here, file); ghosts > 0)
        text += ", " + std::to_string(ghosts) + " of these locked and no longer in it";
    return text;
}

Result<Received::Part> part_named(const Received& here, const std::string& name) {
    std::vector<Received::Part> found;
    for (const Received::Part& part : here.parts()) {
        if (part.placed->identity == name) return part;
        if (part.taken->element.name == name) found.push_back(part);
    }
    const std::string where = "‘" + shortened(printable(name), 60) + "’";
    if (found.empty())
        return Error{ErrorCode::unknown_name, where, "is no part of the model",
                     "Parts are listed by: plume receive FOLDER --json."};
    if (found.size() > 1)
        return Error{ErrorCode::name_clash, where,
                     "is the name of " + std::to_string(found.size()) + " parts",
                     "Name one by its identity, as --json lists them."};
    return found.front();
}

namespace {

// Where it stands in the model's list.
PlacedPart& placed(ReceivedModel& model, const Received& here, const Received::Part& part) {
    return model.parts[static_cast<std::size_t>(part.placed - here.model().parts.data())];
}

}  // namespace

Result<Received> with_lock(const Received& here, const std::string& name, bool locked, const Run& run) {
    const Result<Received::Part> found = part_named(here, name);
    if (!found) return found.error();
    ReceivedModel model = here.model();
    placed(model, here, *found).locked = locked;
    return here.with(std::move(model), {}, run);
}

Result<Received> without_part(const Received& here, const std::string& name, const Run& run) {
    const Result<Received::Part> found = part_named(here, name);
    if (!found) return found.error();
    ReceivedModel model = here.model();
    const PlacedPart part = *found->placed;
    std::erase(model.parts, part);
    if (!part.source.empty()) model.deleted[part.source].insert(part.identity);
    return here.with(std::move(model), {}, run);
}

Result<Received> with_deleted_again(const Received& here, const Run& run) {
    ReceivedModel model = here.model();
    model.deleted.clear();
    return here.with(std::move(model), {}, run);
}

Result<Received> reading_as(const Received& here, std::optional<LengthUnit> unit, const Run& run) {
    ReceivedModel model = here.model();
    model.reads_as = unit;
    return here.with(std::move(model), {}, run);
}

Result<Received> with_others(const Received& here, const fs::path& path, const Run& run) {
    const auto as_it_is = handed_file(path.parent_path(), path.filename().string(), run);
    if (!as_it_is) return as_it_is.error();
    const std::string where = "‘" + path.string() + "’";
    if (!*as_it_is) return Error{ErrorCode::file_missing, where, "is not there", "Choose another file."};
    const Hash hash = (*as_it_is)->fingerprint;
    auto file = taken(here, path, hash, run);
    if (!file) return error_at(file.error(), where);
    ReceivedModel model = here.model();
    const PartsHere known = parts_here(here);
    for (const TakenPart& part : (*file)->parts)
        if (!known.contains(part.element.identity)) model.parts.push_back({part.element.identity, {}, hash});
    std::ranges::sort(model.parts, {}, &PlacedPart::identity);
    return here.with(std::move(model), {{hash, {path, *file}}}, run);
}

}  // namespace plume
