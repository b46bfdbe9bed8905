#include "core/assets/file_store.hpp"

#include <sys/stat.h>

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
    if (entry.stamp.empty()) entry = {now, nullptr, nullptr, nullptr};
    if (entry.stamp.empty())
        return Error{ErrorCode::file_missing, quoted(name), "is not there",
                     "Put the file back, or choose another."};
    return entry;
}

void FileStore::keep(const std::string& name, const std::string& stamp, const Entry& read) {
    const std::scoped_lock lock(mutex_);
    Entry& entry = entries_[name];
    if (entry.stamp != stamp) return;
    if (read.bytes) entry.bytes = read.bytes;
    if (read.image) entry.image = read.image;
    if (read.facts) entry.facts = read.facts;
}

Result<Hash> FileStore::stamp(const std::string& name) {
    const Result<Entry> entry = current(name);
    if (!entry) return entry.error();
    return Hasher().add(name).add(entry->stamp).finish();
}

namespace {

// What was not read in time cannot be read any more once the file is another.
Status still_the_same(const std::filesystem::path& path, const std::string& stamp, const std::string& name) {
    if (stamp_of(path) == stamp) return Done{};
    return Error{ErrorCode::file_changed, quoted(name), "was changed while the study was open",
                 "Read it again."};
}

}  // namespace

Result<std::shared_ptr<const std::string>> FileStore::bytes(const std::string& name, std::uintmax_t limit) {
    const Result<Entry> entry = current(name);
    if (!entry) return entry.error();
    if (entry->bytes) return entry->bytes;
    if (Status same = still_the_same(path_of(name), entry->stamp, name); !same) return same.error();
    Result<std::string> read = read_file(path_of(name), limit);
    if (!read) return read.error();
    Entry kept;
    kept.bytes = std::make_shared<const std::string>(*std::move(read));
    keep(name, entry->stamp, kept);
    return kept.bytes;
}

Result<ImageFacts> FileStore::image_facts(const std::string& name) {
    const Result<Entry> entry = current(name);
    if (!entry) return entry.error();
    if (entry->facts) return *entry->facts;
    Result<ImageFacts> facts = read_image_facts(path_of(name));
    if (!facts) return error_at(facts.error(), quoted(name));
    Entry kept;
    kept.facts = std::make_shared<const ImageFacts>(*facts);
    keep(name, entry->stamp, kept);
    return facts;
}

Result<RasterPointer> FileStore::image(const std::string& name, const Run& run) {
    const Result<Entry> entry = current(name);
    if (!entry) return entry.error();
    if (entry->image) return entry->image;
    if (Status same = still_the_same(path_of(name), entry->stamp, name); !same) return same.error();
    Result<Raster> raster = read_image(path_of(name), run);
    if (!raster) return error_at(raster.error(), quoted(name));
    Entry kept;
    kept.image = std::make_shared<const Raster>(*std::move(raster));
    keep(name, entry->stamp, kept);
    return kept.image;
}

std::vector<std::string> FileStore::changed() const {
    const std::scoped_lock lock(mutex_);
    std::vector<std::string> names;
    for (const auto& [name, entry] : entries_)
        if (stamp_of(path_of(name)) != entry.stamp) names.push_back(name);
    return names;
}

void FileStore::refresh(const std::string& name) {
    const std::scoped_lock lock(mutex_);
    entries_.erase(name);
}

}  // namespace plume
