#pragma once
// The manifest: `handoff.json` beside the files that are handed off. It says what was written from which
// state, with a fingerprint for each part under its mark, so that the next time it is known what is new,
// changed, as before and gone. Its form is documented in docs/handoff.md.

#include <cstdint>
#include <filesystem>
#include <map>
#include <optional>

#include "core/handoff/handed_parts.hpp"

namespace plume {

inline constexpr int manifest_format_version = 1;
inline constexpr const char* manifest_name = "handoff.json";

// A file as it was left.
struct HandedFile {
    std::string name;  // relative to the manifest's folder
    std::uintmax_t bytes = 0;
    Hash fingerprint;              // of its bytes
    std::int64_t modified_ns = 0;  // spares reading it while nobody touched it
    bool operator==(const HandedFile&) const = default;
};

struct ManifestEntry {
    std::string name;               // of the sentence that wrote it
    std::string sentence;           // as the study had it
    Hash key;                       // names the state it was written from
    std::string written;            // "2031-05-04 14:20"
    std::string report;             // what was said when it was written
    std::vector<HandedFile> files;  // the file itself first, then those it refers to
    std::vector<HandedPart> parts;
    // What is being written in its place; nothing where the last writing came to its end.
    std::optional<Hash> writing;
};

struct Manifest {
    std::string study;                             // its title
    std::map<std::string, ManifestEntry> entries;  // by the names of the files that sentences write
};

// Errors: file_damaged, file_newer, too_deep; without a place.
Result<Manifest> manifest_from_text(std::string_view text);
std::string manifest_to_text(const Manifest& manifest);
// Nothing where there is none. Errors: file_damaged, file_newer, those of files; at the file.
Result<std::optional<Manifest>> load_manifest(const std::filesystem::path& folder);
Status save_manifest(const Manifest& manifest, const std::filesystem::path& folder);

// Of a file as it is now; nothing where there is none. Cancelled: the error.
Result<std::optional<HandedFile>> handed_file(const std::filesystem::path& folder, const std::string& name,
                                              const Run& run);
// Whether it is as it was left; read only where its size is the same and its time is not.
Result<bool> is_as_left(const std::filesystem::path& folder, const HandedFile& file, const Run& run);

}  // namespace plume
