#pragma once
// Points without an arrangement from files: the vertices of PLY, with their numbers, and lines of x y z (XYZ,
// PTS), with further numbers behind them.

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

struct CloudFile {
    PointLattice points;                    // a scatter
    std::optional<double> metres_per_unit;  // nothing where the file states no unit
    std::vector<std::string> losses;
};

// Errors: file_missing, file_unreadable, file_damaged, file_too_large; empty_input without a point;
// cancelled.
Result<CloudFile> read_cloud_file(const std::filesystem::path& path, const Run& run);
Result<CloudFile> read_cloud_bytes(std::string_view bytes, const Run& run);

}  // namespace plume
