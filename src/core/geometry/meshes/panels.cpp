#include "core/geometry/meshes/panels.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <optional>
#include <span>

#include "core/base/sum.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/measures/outline_area.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/panel_names.hpp"
#include "core/geometry/meshes/part_writer.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/geometry/moves/affine.hpp"
#include "core/geometry/surfaces/flatness.hpp"

namespace plume {
namespace {

using Outline = std::vector<Vec3>;

// A panel before it is written: its outline in the mesh's surface, and the one of its opening, if any.
struct Panel {
    Outline outer, inner;
    Vec3 up, down;  // from there to its upper and its lower side
    bool solid = false;
};

// Nothing where an edge would turn round.
std::optional<Outline> inset(const Outline& outline, Vec3 normal, double gap) {
    const std::size_t count = outline.size();
    Outline made(count);
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 into = unit_or_zero(outline[at] - outline[(at + count - 1) % count]);
        const Vec3 onwards = unit_or_zero(outline[(at + 1) % count] - outline[at]);
        Vec3 square = unit_or_zero(cross(into, onwards));
        if (square == Vec3{}) square = normal;
        if (dot(square, normal) < 0) square = square * -1;
        const Vec3 from_into = cross(square, into), from_onwards = cross(square, onwards);
        const double share = 1 + dot(from_into, from_onwards);
        if (!(share > 1e-9)) return {};
        made[at] = outline[at] + (from_into + from_onwards) * (gap / share);
    }
    for (std::size_t at = 0; at < count; ++at)
        if (!(dot(made[(at + 1) % count] - made[at], outline[(at + 1) % count] - outline[at]) > 0)) return {};
    return made;
}

Vec3 middle_of(const Outline& outline) {
    Vec3 middle;
    for (const Vec3 corner : outline)
        middle = middle + corner * (1 / static_cast<double>(outline.size()));
    return middle;
}

Outline smaller(const Outline& outline, double share) {
    const Vec3 middle = middle_of(outline);
    Outline made;
    for (const Vec3 corner : outline)
        made.push_back(middle + (corner - middle) * std::sqrt(share));
    return made;
}

struct Hinge {
    Vec3 through, along;
};

// The edge whose middle is lowest, or highest, in the direction it runs.
Hinge edge_of(const Outline& outline, bool lowest) {
    Hinge best;
    double most = -std::numeric_limits<double>::infinity();
    double size = 0;
    for (const Vec3 corner : outline)
        size = std::max(size, length(corner - outline[0]));
    for (std::size_t at = 0; at < outline.size(); ++at) {
        const Vec3 a = outline[at], b = outline[(at + 1) % outline.size()];
        const double height = (lowest ? -0.5 : 0.5) * (a.z + b.z);
        // Of those at one height but for roundings the first.
        if (height <= most + 1e-9 * size) continue;
        most = height;
        best = {a, unit_or_zero(b - a)};
    }
    return best;
}

Hinge level_line(const Outline& outline, Vec3 normal) {
    const Vec3 level = cross({0, 0, 1}, normal);
    return {middle_of(outline),
            length(level) > 1e-6 ? unit_or_zero(level) : unit_or_zero(outline[1] - outline[0])};
}

// Edges run with the inside to their left, so that turning about them lifts the panel.
void turn_about_hinge(Panel& panel, PanelHinge hinge, double angle_rad, Vec3 normal) {
    const Hinge about = hinge == PanelHinge::middle ? level_line(panel.outer, normal)
                                                    : edge_of(panel.outer, hinge == PanelHinge::lower);
    const Affine turn = turned_about(about.through, about.along, angle_rad);
    for (Outline* const outline : {&panel.outer, &panel.inner})
        for (Vec3& corner : *outline)
            corner = turn.at(corner);
    panel.up = turn.turned(panel.up);
    panel.down = turn.turned(panel.down);
}

struct Sizes {
    double gap, thickness, opening, turn;
};
const char* fault_of(const Sizes& sizes) {
    if (!std::isfinite(sizes.gap)) return "has a gap that is not finite";
    if (!std::isfinite(sizes.turn)) return "has a turn that is not finite";
    if (!(sizes.thickness >= 0) || !std::isfinite(sizes.thickness)) return "has a thickness below 0";
    return sizes.opening >= 0 && sizes.opening < 1 ? nullptr : "has an opening that is not from 0 to below 1";
}

std::optional<Panel> panel_at(const Mesh& mesh, std::size_t face, const Sizes& sizes, const PanelPlan& plan) {
    const Outline corners = corner_places(mesh, face);
    const Vec3 normal = unit_or_zero(area_vector(corners));
    if (normal == Vec3{}) return {};
    auto outer = inset(corners, normal, sizes.gap);
    if (!outer) return {};
    Panel panel{*std::move(outer),
                {},
                normal * (sizes.thickness * plan.outside),
                normal * (sizes.thickness * (plan.outside - 1)),
                sizes.thickness > 0};
    if (sizes.opening > 0) panel.inner = smaller(panel.outer, sizes.opening);
    if (plan.hinge != PanelHinge::none) turn_about_hinge(panel, plan.hinge, sizes.turn, normal);
    return panel;
}

PartSize size_of(const Panel& panel) {
    const std::size_t n = panel.outer.size();
    const std::size_t rings = std::size_t{panel.solid ? 2U : 1U} * (panel.inner.empty() ? 1U : 2U);
    const std::size_t sides = panel.solid ? n * (panel.inner.empty() ? 1 : 2) : 0;
    const std::size_t plates = panel.solid ? 2 : 1;
    return panel.inner.empty() ? PartSize{rings * n, sides + plates, 4 * sides + plates * n}
                               : PartSize{rings * n, sides + plates * n, 4 * sides + plates * 4 * n};
}

std::vector<std::uint32_t> write_ring(const Outline& outline, Vec3 by, PartWriter::At& to) {
    std::vector<std::uint32_t> ring;
    for (const Vec3 corner : outline)
        ring.push_back(to.vertex(corner + by));
    return ring;
}

using Ring = std::vector<std::uint32_t>;

// A plate that looks up: whole, or between two rings.
void write_plate(const Ring& outer, const Ring& inner, PartWriter::At& to) {
    if (inner.empty()) return to.face(outer);
    for (std::size_t at = 0; at < outer.size(); ++at) {
        const std::size_t next = (at + 1) % outer.size();
        to.quad(outer[at], outer[next], inner[next], inner[at]);
    }
}

// Sides that look outwards from a ring below to the one above.
void write_sides(const Ring& below, const Ring& above, PartWriter::At& to) {
    for (std::size_t at = 0; at < below.size(); ++at) {
        const std::size_t next = (at + 1) % below.size();
        to.quad(below[at], below[next], above[next], above[at]);
    }
}

Ring reversed(Ring ring) {
    std::ranges::reverse(ring);
    return ring;
}

// Of the corners of a panel in the order they are written in, from those of its face.
void add_beyond(const Panel& panel, std::span<const std::uint32_t> beyond, Doubles& to) {
    for (int side = 0; side < (panel.solid ? 2 : 1); ++side) {
        for (const std::uint32_t face : beyond)
            to.push_back(face == no_face ? panel_names::none : static_cast<double>(face));
        to.insert(to.end(), panel.inner.size(), panel_names::none);
    }
}

void write_panel(const Panel& panel, PartWriter::At to) {
    const Ring top = write_ring(panel.outer, panel.up, to), top_hole = write_ring(panel.inner, panel.up, to);
    write_plate(top, top_hole, to);
    if (!panel.solid) return;
    const Ring bottom = write_ring(panel.outer, panel.down, to),
               bottom_hole = write_ring(panel.inner, panel.down, to);
    write_plate(reversed(bottom), reversed(bottom_hole), to);
    write_sides(bottom, top, to);
    write_sides(reversed(bottom_hole), reversed(top_hole), to);
}

}  // namespace

Result<Panels> panels_of(const Mesh& mesh, const PanelPlan& plan, const Run& run) {
    std::vector<Panel> panels;
    std::vector<std::size_t> faces;
    PartWriter writer;
    Sum area;
    Doubles areas, numbers_of_panels, beyond;
    const std::vector<std::uint32_t> faces_across = faces_beyond(mesh);
    std::size_t used_up = 0, first_used_up = 0, corner = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        if (face % 4096 == 0 && run.cancelled()) return cancelled_error();
        const auto across = std::span(faces_across).subspan(corner, mesh.face(face).size());
        corner += across.size();
        const Sizes sizes{plan.gap(face), plan.thickness(face), plan.opening(face),
                          plan.turn ? plan.turn(face) : 0};
        if (const char* fault = fault_of(sizes))
            return Error{ErrorCode::out_of_range, "The panel " + std::to_string(face), fault,
                         "Type another."};
        auto panel = panel_at(mesh, face, sizes, plan);
        if (!panel) {
            if (used_up++ == 0) first_used_up = face;
            continue;
        }
        areas.push_back(length(area_vector(panel->outer)) * (1 - sizes.opening));
        area.add(areas.back());
        writer.add_part(size_of(*panel));
        add_beyond(*panel, across, beyond);
        faces.push_back(face);
        numbers_of_panels.push_back(static_cast<double>(face));
        panels.push_back(*std::move(panel));
    }
    if (panels.empty())
        return Error{ErrorCode::empty_input, "", "leave no panel: gaps are wider than faces",
                     "Type a smaller gap."};
    const Status written =
        writer.write([&](std::size_t part, PartWriter::At to) { write_panel(panels[part], to); }, run);
    if (!written) return written.error();
    std::vector<Field> numbers{{panel_names::panel, std::move(numbers_of_panels), plain_number},
                               {"area", std::move(areas), {2, 0}}};
    for (const Field& field : mesh.face_fields())
        if (field.name != panel_names::panel && field.name != "area")
            numbers.push_back({field.name, gathered(field.values, faces), field.dimension});
    auto made = std::move(writer).mesh(numbers, {{panel_names::beyond, std::move(beyond), plain_number}});
    if (!made) return made.error();
    return Panels{*std::move(made), area.value(), used_up, first_used_up};
}

Result<SplitFaces> split_warped(const Mesh& mesh, double limit_abs, const Run& run) {
    const auto gaps = panel_gaps(mesh, run);
    if (!gaps) return gaps.error();
    FaceBuilder builder(mesh);
    std::size_t split = 0;
    double worst = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        if (!((*gaps)[face] > limit_abs)) {
            worst = std::max(worst, (*gaps)[face]);
            builder.add(corners, face);
            continue;
        }
        ++split;
        if (corners.size() != 4) {
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                builder.add(std::array{corners[a], corners[b], corners[c]}, face);
            });
            continue;
        }
        const auto normal = [&](std::size_t a, std::size_t b, std::size_t c) {
            return unit_or_zero(cross(mesh.vertex(corners[b]) - mesh.vertex(corners[a]),
                                      mesh.vertex(corners[c]) - mesh.vertex(corners[a])));
        };
        const bool first = dot(normal(0, 1, 2), normal(0, 2, 3)) >= dot(normal(0, 1, 3), normal(1, 2, 3));
        const std::array<std::array<std::uint32_t, 3>, 2> halves =
            first ? std::array<std::array<std::uint32_t, 3>, 2>{{{corners[0], corners[1], corners[2]},
                                                                 {corners[0], corners[2], corners[3]}}}
                  : std::array<std::array<std::uint32_t, 3>, 2>{
                        {{corners[0], corners[1], corners[3]}, {corners[1], corners[2], corners[3]}}};
        for (const auto& half : halves)
            builder.add(half, face);
    }
    auto made = std::move(builder).over_its_vertices();
    if (!made) return made.error();
    return SplitFaces{*std::move(made), split, worst};
}

}  // namespace plume
