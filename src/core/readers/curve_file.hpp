#pragma once
// Curves from drawings: DXF and SVG, by what the file begins with, whatever it is called.
//
// Lines, arcs, ellipses and splines are exact; polylines with arcs are one curve each. Blocks and symbols
// stand where they are placed, as often as they are. Coordinates are the file's, with y up in SVG, too.
// Nothing outside the file is opened or fetched, no script is run. What has to be left out is told in
// `losses`.

#include <filesystem>
#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

struct CurveFile {
    std::vector<SplineCurve> curves;
    std::vector<std::uint32_t> layer_of;    // a curve each
    std::vector<std::string> layers;        // those that have curves
    std::optional<double> metres_per_unit;  // nothing where the file states no unit
    std::vector<std::string> losses;        // sentences
};

// Errors: file_missing, file_unreadable; file_damaged, naming the line; file_too_large where blocks within
// blocks place more curves than can be held; empty_input without a curve; cancelled. O(bytes and curves).
Result<CurveFile> read_curve_file(const std::filesystem::path& path, const Run& run);
Result<CurveFile> read_curve_bytes(std::string_view bytes, const std::filesystem::path& path, const Run& run);

}  // namespace plume
