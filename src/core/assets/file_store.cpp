#include "core/assets/file_store.hpp"

#include <sys/stat.h>

#include <algorithm>

#include "core/base/file.hpp"

namespace plume {
namespace {

// Empty when there is no such file.
std::string stamp_of(const std::filesystem::path& path) {
    struct stat facts {};
    if (stat(path.c_str(), &facts) != 0) return {};
    return std::to_string(facts.st_size) + ' ' + std::to_string(facts.st_mtim.tv_sec) + '.' +
           std::to_string(facts.st_mtim.tv_nsec) + ' ' + std::to_string(facts.st_ino);
}

std::string quoted(const std::string& name) {
    return "‘" + name + "’";
}

}  // namespace

std::filesystem::path FileStore::path_of(const std::string& name) const {
    const std::filesystem::path path(name);
    return path.is_absolute() || folder_.empty() ? path : folder_ / path;
}

Result<FileStore::Entry> FileStore::current(const std::string& name) {
    if (name.empty()) return Error{ErrorCode::missing_input, "", "No file is chosen yet", "Choose one."};
    const std::string now = stamp_of(path_of(name));
    const std::scoped_lock lock(mutex_);
    Entry& entry = entries_[name];
    // A file that was missing is taken as soon as it is there.
    if (entry.stamp.empty()) entry.stamp = now;
    if (entry.stamp.empty())
        return Error{ErrorCode::file_missing, quoted(name), "is not there",
                     "Put the file back, or choose another."};
    return entry;
}

Result<Hash> FileStore::stamp(const std::string& name) {
    const Result<Entry> entry = current(name);
    if (!entry) return entry.error();
    const std::scoped_lock lock(mutex_);
    const auto again = read_again_.find(name);
    return Hasher()
        .add(name)
        .add(entry->stamp)
        .add(again == read_again_.end() ? std::uint64_t{0} : again->second)
        .finish();
}

namespace {

// What was not read in time cannot be read any more once the file is another.
Status still_the_same(const std::filesystem::path& path, const std::string& stamp, const std::string& name) {
    if (stamp_of(path) == stamp) return Done{};
    return Error{ErrorCode::file_changed, quoted(name), "was changed while the study was open",
                 "Read it again."};
}

}  // namespace

Result<FileStore::Anything> FileStore::read_once(
    const std::string& name, const std::string& as,
    const std::function<Result<Made>(const std::filesystem::path&)>& make) {
    const Result<Entry> entry = current(name);
    if (!entry) return entry.error();
    if (const auto known = entry->read.find(as); known != entry->read.end()) return known->second;
    const std::filesystem::path path = path_of(name);
    if (Status same = still_the_same(path, entry->stamp, name); !same) return same.error();
    Result<Made> made = make(path);
    if (!made) return error_at(made.error(), quoted(name));
    std::vector<Companion> companions;
    for (const std::filesystem::path& companion : made->companions)
        companions.push_back({companion, stamp_of(companion)});
    const std::scoped_lock lock(mutex_);
    Entry& kept = entries_[name];
    if (kept.stamp == entry->stamp) {
        kept.read[as] = made->read;
        kept.companions.insert(kept.companions.end(), companions.begin(), companions.end());
    }
    return made->read;
}

Result<std::shared_ptr<const std::string>> FileStore::bytes(const std::string& name, std::uintmax_t limit) {
    return read(name, "bytes", [&](const std::filesystem::path& path) { return read_file(path, limit); });
}

Result<std::shared_ptr<const ImageFacts>> FileStore::image_facts(const std::string& name) {
    return read(name, "image facts", read_image_facts);
}

Result<RasterPointer> FileStore::image(const std::string& name, const Run& run) {
    return read(name, "image", [&](const std::filesystem::path& path) { return read_image(path, run); });
}

bool FileStore::differs(const Companion& companion) {
    return stamp_of(companion.path) != companion.stamp;
}

std::vector<std::string> FileStore::changed() const {
    const std::scoped_lock lock(mutex_);
    std::vector<std::string> names;
    for (const auto& [name, entry] : entries_)
        if (stamp_of(path_of(name)) != entry.stamp || std::ranges::any_of(entry.companions, differs))
            names.push_back(name);
    return names;
}

void FileStore::keep_only(const std::vector<std::string>& names) {
    const std::scoped_lock lock(mutex_);
    for (auto& [name, entry] : entries_)
        if (std::ranges::find(names, name) == names.end()) entry.read.clear();
}

void FileStore::refresh(const std::string& name) {
    const std::scoped_lock lock(mutex_);
    const auto entry = entries_.find(name);
    if (entry == entries_.end()) return;
    if (std::ranges::any_of(entry->second.companions, differs)) ++read_again_[name];
    entries_.erase(entry);
}

}  // namespace plume
