#include "core/results/panel_columns.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>
#include <numbers>

#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/measures/outline_area.hpp"
#include "core/geometry/meshes/panel_names.hpp"
#include "core/geometry/meshes/plates.hpp"
#include "core/results/table_making.hpp"

namespace plume {

using namespace table_making;

namespace {

// The outline of the part that was asked about last: a row's cells are read one after the other.
class PanelOutlines {
public:
    explicit PanelOutlines(const Mesh& mesh) : mesh_(mesh) {}

    const std::vector<Vec3>& of(std::size_t part) {
        if (part == part_) return corners_;
        part_ = part;
        corners_.clear();
        if (const auto plate = plate_of(mesh_, part))
            for (const std::uint32_t vertex : plate->loops.front())
                corners_.push_back(mesh_.vertex(vertex));
        return corners_;
    }

private:
    const Mesh& mesh_;
    std::size_t part_ = std::numeric_limits<std::size_t>::max();
    std::vector<Vec3> corners_;
};

std::vector<double> edges_of(const std::vector<Vec3>& corners) {
    std::vector<double> edges;
    for (std::size_t at = 0; at < corners.size(); ++at)
        edges.push_back(length(corners[(at + 1) % corners.size()] - corners[at]));
    return edges;
}

std::vector<double> angles_of(const std::vector<Vec3>& corners) {
    const std::size_t count = corners.size();
    const Vec3 normal = area_vector(corners);
    std::vector<double> angles;
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 onwards = corners[(at + 1) % count] - corners[at],
                   back = corners[(at + count - 1) % count] - corners[at], square = cross(onwards, back);
        const double angle = std::atan2(length(square), dot(onwards, back));
        angles.push_back(dot(square, normal) < 0 ? 2 * std::numbers::pi - angle : angle);
    }
    return angles;
}

}  // namespace

bool are_panels(const Mesh& mesh) {
    return std::ranges::find(mesh.face_fields(), panel_names::panel, &Field::name) !=
           mesh.face_fields().end();
}

void add_panel_shapes(Table& table, const Mesh& mesh) {
    const auto outlines = std::make_shared<PanelOutlines>(mesh);
    add_list(table, "edges", a_length, [outlines](std::size_t row) { return edges_of(outlines->of(row)); });
    add_list(table, "angles", an_angle, [outlines](std::size_t row) { return angles_of(outlines->of(row)); });
    add(table, "warp", a_length, [outlines](std::size_t row) {
        const std::vector<Vec3>& corners = outlines->of(row);
        return corners.empty() ? std::numeric_limits<double>::quiet_NaN() : best_fit(corners).worst;
    });
}

}  // namespace plume
