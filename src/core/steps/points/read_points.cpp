#include "core/steps/files/file_support.hpp"
#include "core/steps/points/table_points.hpp"

namespace plume {
namespace {

// Tables of ten million rows are a few hundred megabytes.
constexpr std::uintmax_t largest_file = 2'000'000'000;

Result<Value> make(const Inputs& in, const Run& run) {
    const ResolvedFile& file = in.file("file");
    const auto bytes = file.store->bytes(file.name, largest_file);
    if (!bytes) return bytes.error();
    Result<PointLattice> points = points_of_table(**bytes, in, run);
    if (!points) return error_at(points.error(), "‘" + file.name + "’");
    return as_value(std::move(points));
}

}  // namespace

StepKind read_points() {
    return {
        .key = "points.file",
        .verb = "Read points from a table",
        .synonyms = "CSV file import spreadsheet coordinates survey",
        .sentence = "Read points from the table {file}.",
        .slots = {file_slot("file", "Table", {"Tables", {"csv", "txt", "tsv"}, true})},
        .results = {Kind::points},
        .result_name = "points",
        .help =
            "Points from a file of comma, semicolon, tab or space separated values: x, y, perhaps z, and any "
            "fields. A header is found by itself; rows that cannot be read are left out and listed.",
        // A number takes about six characters in a table and eight bytes in memory.
        .estimate = [](const Inputs& in) { return file_estimate(in, 2.5, 1e-8); },
        .make = make,
    };
}

}  // namespace plume
