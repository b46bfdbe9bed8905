#pragma once
// Files that studies link to, as they were when they were first read. A file that changes on the disk stays
// as it was here until refresh(), so that a result never mixes two states and the user decides. Thread-safe.

#include <filesystem>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <vector>

#include "core/assets/image_file.hpp"
#include "core/base/error.hpp"
#include "core/base/hash.hpp"
#include "core/base/run.hpp"
#include "core/data/raster.hpp"

namespace plume {

class FileStore {
public:
    // Relative names are looked up in `folder`, the study's.
    explicit FileStore(std::filesystem::path folder = {}) : folder_(std::move(folder)) {}

    std::filesystem::path path_of(const std::string& name) const;

    // What names the file's content: its size and the time it was changed. Errors: file_missing, as of
    // reading.
    Result<Hash> stamp(const std::string& name);
    // Errors: as of read_file(); file_changed when the file is no longer the one that was stamped.
    Result<std::shared_ptr<const std::string>> bytes(const std::string& name, std::uintmax_t limit);
    Result<ImageFacts> image_facts(const std::string& name);
    Result<RasterPointer> image(const std::string& name, const Run& run);

    // Names asked for whose file is another now, or gone, or back.
    std::vector<std::string> changed() const;
    // Forgets what was read; the next use reads the file anew.
    void refresh(const std::string& name);

private:
    struct Entry {
        std::string stamp;  // empty: there was no file
        std::shared_ptr<const std::string> bytes;
        RasterPointer image;
        std::shared_ptr<const ImageFacts> facts;
    };
    // The entry, stamped; an error when the file is another than then.
    Result<Entry> current(const std::string& name);
    void keep(const std::string& name, const std::string& stamp, const Entry& read);

    std::filesystem::path folder_;
    mutable std::mutex mutex_;
    std::map<std::string, Entry> entries_;
};

}  // namespace plume
