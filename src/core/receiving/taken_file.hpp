#pragma once
// A building model as whoever receives it has it before him: parts with a shape that is measured anew,
// whatever the file says of it, and a fingerprint of all that arrives.

#include <filesystem>

#include "core/base/hash.hpp"
#include "core/readers/building_file.hpp"

namespace plume {

struct TakenPart {
    BuildingElement element;  // curved ones with facets that stand for them
    Hash fingerprint;  // the same as long as nothing of it is another; places to a tenth of a micrometre
    // Of the shape: the volume where it is closed, the length where it is an axis. Exact where it is curved.
    std::optional<double> volume_m3, area_m2, length_m;
};

struct TakenFile {
    std::string project;
    double metres_per_unit = 1;
    std::vector<TakenPart> parts;
    std::vector<std::string> losses;

    const TakenPart* part(const std::string& identity) const;
};

// Errors: those of read_building_file() and, of curved shapes, read_exact_file(); file_damaged where elements
// have no identity or share one; cancelled.
Result<TakenFile> take_file(const std::filesystem::path& path, const Run& run);

}  // namespace plume
