#include "core/readers/cloud_file.hpp"

#include "core/assets/point_table.hpp"
#include "core/base/file.hpp"
#include "core/base/text.hpp"
#include "core/readers/ply_places.hpp"
#include "core/readers/stated_units.hpp"

namespace plume {
namespace {

constexpr std::uintmax_t largest_file = 16'000'000'000;

// A place that is not finite is a gap.
Result<CloudFile> cloud_of(PointLattice::Parts parts) {
    std::size_t lost = 0;
    parts.arrangement = Arrangement::scatter;
    parts.counts = {parts.x.size(), 1, 1};
    for (std::size_t at = 0; at < parts.x.size(); ++at) {
        if (is_finite(Vec3{parts.x[at], parts.y[at], parts.z[at]})) continue;
        if (parts.present.empty()) parts.present.assign(parts.x.size(), 1);
        parts.present[at] = 0;
        ++lost;
    }
    if (lost == parts.x.size())
        return Error{ErrorCode::empty_input, "", "has no point", "Choose a file with points."};
    Result<PointLattice> points = PointLattice::make(std::move(parts));
    if (!points) return points.error();
    CloudFile made{*std::move(points), {}, {}};
    if (lost > 0)
        made.losses.push_back(
            count_text(lost, "point is a gap: its place is", "points are gaps: their places are") +
            " not finite.");
    return made;
}

Result<CloudFile> read_ply_points(std::string_view bytes, const Run& run) {
    const auto head = read_ply_head(bytes);
    if (!head) return head.error();
    auto body = read_ply_body(bytes, *head, std::vector<std::size_t>(head->elements.size(), SIZE_MAX), run);
    if (!body) return body.error();
    for (std::size_t at = 0; at < head->elements.size(); ++at) {
        if (head->elements[at].name != "vertex") continue;
        auto places = ply_places((*body)[at], head->elements[at]);
        if (!places) return places.error();
        PointLattice::Parts parts;
        parts.x = std::move(places->x);
        parts.y = std::move(places->y);
        parts.z = std::move(places->z);
        parts.fields = std::move(places->fields);
        Result<CloudFile> made = cloud_of(std::move(parts));
        if (made) made->metres_per_unit = stated_unit(head->comments);
        return made;
    }
    return Error{ErrorCode::empty_input, "", "has no vertex", "Choose a file with points."};
}

Result<CloudFile> read_lines(std::string_view text, const Run& run) {
    const auto table = read_point_table(text, Units{}, run);
    if (!table) return table.error();
    CloudFile made{table->points, {}, {}};
    if (table->bad_row_count > 0) made.losses.push_back(bad_rows_text(*table));
    return made;
}

}  // namespace

Result<CloudFile> read_cloud_bytes(std::string_view bytes, const Run& run) {
    if (bytes.empty()) return Error{ErrorCode::empty_input, "", "is empty", "Choose another file."};
    return is_ply(bytes) ? read_ply_points(bytes, run) : read_lines(bytes, run);
}

Result<CloudFile> read_cloud_file(const std::filesystem::path& path, const Run& run) {
    const Result<std::string> bytes = read_file(path, largest_file);
    if (!bytes) return bytes.error();
    return read_cloud_bytes(*bytes, run);
}

}  // namespace plume
