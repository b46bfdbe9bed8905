#pragma once
// Files that studies link to, as they were when they were first read. A file that changes on the disk stays
// as it was here until refresh(), so that a result never mixes two states and the user decides. Thread-safe.

#include <filesystem>
#include <functional>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <type_traits>
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
    // What `reader` makes of the file, kept for as long as the file is the same; `as` names the reader. Where
    // what is read has `companions` (paths of files that were read along), these are watched, too. Errors:
    // those of the reader, at the file's name; file_changed when the file is no longer the one that was
    // stamped.
    template <class Reader>
    auto read(const std::string& name, const std::string& as, const Reader& reader);

    // Errors: as of read_file().
    Result<std::shared_ptr<const std::string>> bytes(const std::string& name, std::uintmax_t limit);
    Result<std::shared_ptr<const ImageFacts>> image_facts(const std::string& name);
    Result<RasterPointer> image(const std::string& name, const Run& run);

    // Names asked for whose file is another now, or gone, or back.
    std::vector<std::string> changed() const;
    // Forgets what was read; the next use reads the file anew.
    void refresh(const std::string& name);
    // Lets go of what was read of all other files, which are then read again when they are asked for: still
    // as they were, or it is said that they changed.
    void keep_only(const std::vector<std::string>& names);

private:
    using Anything = std::shared_ptr<const void>;
    struct Companion {
        std::filesystem::path path;
        std::string stamp;
    };
    struct Entry {
        std::string stamp;                     // empty: there was no file
        std::map<std::string, Anything> read;  // by the names of readers
        std::vector<Companion> companions;
    };
    struct Made {
        Anything read;
        std::vector<std::filesystem::path> companions;
    };
    static bool differs(const Companion& companion);
    // The entry, stamped; an error when the file is another than then.
    Result<Entry> current(const std::string& name);
    Result<Anything> read_once(const std::string& name, const std::string& as,
                               const std::function<Result<Made>(const std::filesystem::path&)>& make);

    std::filesystem::path folder_;
    mutable std::mutex mutex_;
    std::map<std::string, Entry> entries_;
    // How often a file was read anew though it was the same, since a companion of it was not.
    std::map<std::string, std::uint64_t> read_again_;
};

template <class Reader>
auto FileStore::read(const std::string& name, const std::string& as, const Reader& reader) {
    using Read = std::remove_cvref_t<decltype(*reader(std::filesystem::path()))>;
    using Pointer = std::shared_ptr<const Read>;
    const auto whole = read_once(name, as, [&](const std::filesystem::path& path) -> Result<Made> {
        Result<Read> read = reader(path);
        if (!read) return read.error();
        Made made;
        if constexpr (requires { read->companions; }) made.companions = read->companions;
        made.read = std::make_shared<const Read>(*std::move(read));
        return made;
    });
    return whole ? Result<Pointer>(std::static_pointer_cast<const Read>(*whole))
                 : Result<Pointer>(whole.error());
}

}  // namespace plume
