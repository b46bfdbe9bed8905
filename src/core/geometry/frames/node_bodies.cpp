#include "core/geometry/frames/node_bodies.hpp"

#include <cmath>
#include <numbers>

#include "core/data/placements.hpp"
#include "core/geometry/meshes/part_writer.hpp"

namespace plume {
namespace {

constexpr std::size_t ball_rings = 8, ball_sides = 12, disc_sides = 24;

double round_angle(std::size_t side, std::size_t sides) {
    return 2 * std::numbers::pi * static_cast<double>(side) / static_cast<double>(sides);
}

PartSize size_of(bool disc) {
    if (disc) return {2 * disc_sides, disc_sides + 2, 6 * disc_sides};
    return {ball_sides * (ball_rings - 1) + 2, ball_sides * ball_rings,
            ball_sides * (4 * (ball_rings - 2) + 6)};
}

void write_ball(Vec3 middle, double radius, PartWriter::At to) {
    const auto place = [&](std::size_t ring, std::size_t side) {
        const double polar = std::numbers::pi * static_cast<double>(ring) / static_cast<double>(ball_rings);
        const double round = round_angle(side, ball_sides);
        return middle +
               Vec3{std::sin(polar) * std::cos(round), std::sin(polar) * std::sin(round), std::cos(polar)} *
                   radius;
    };
    const std::uint32_t top = to.vertex(place(0, 0));
    for (std::size_t ring = 1; ring < ball_rings; ++ring)
        for (std::size_t side = 0; side < ball_sides; ++side)
            to.vertex(place(ring, side));
    const std::uint32_t bottom = to.vertex(place(ball_rings, 0));
    const auto at = [&](std::size_t ring, std::size_t side) {
        return static_cast<std::uint32_t>(top + 1 + (ring - 1) * ball_sides + side % ball_sides);
    };
    for (std::size_t side = 0; side < ball_sides; ++side) {
        to.triangle(top, at(1, side), at(1, side + 1));
        for (std::size_t ring = 1; ring + 1 < ball_rings; ++ring)
            to.quad(at(ring, side), at(ring + 1, side), at(ring + 1, side + 1), at(ring, side + 1));
        to.triangle(bottom, at(ball_rings - 1, side + 1), at(ball_rings - 1, side));
    }
}

void write_disc(const Placement& at, double diameter, double thickness, PartWriter::At to) {
    std::vector<std::uint32_t> below, above;
    for (std::size_t side = 0; side < disc_sides; ++side) {
        const double round = round_angle(side, disc_sides);
        const double x = diameter / 2 * std::cos(round), y = diameter / 2 * std::sin(round);
        below.push_back(to.vertex(at.to_world({x, y, -thickness / 2})));
        above.push_back(to.vertex(at.to_world({x, y, thickness / 2})));
    }
    for (std::size_t side = 0; side < disc_sides; ++side) {
        const std::size_t next = (side + 1) % disc_sides;
        to.quad(below[side], below[next], above[next], above[side]);
    }
    to.face(above);
    to.face(std::vector<std::uint32_t>(below.rbegin(), below.rend()));
}

}  // namespace

Result<Mesh> node_bodies(const BarFrame& frame, const NodePlan& plan, const Run& run) {
    const std::vector<std::uint32_t> valences = valences_of(frame);
    std::vector<std::size_t> nodes;
    Doubles valence;
    PartWriter writer;
    for (std::size_t node = 0; node < frame.nodes().address_count(); ++node) {
        if (!frame.nodes().present(node)) continue;
        const double diameter = plan.diameter(node);
        if (!(diameter > 0) || !std::isfinite(diameter))
            return Error{ErrorCode::out_of_range, "The diameter of the node " + node_mark(frame, node),
                         "has to be above 0", "Type another."};
        nodes.push_back(node);
        valence.push_back(valences[node]);
        writer.add_part(size_of(plan.discs));
    }
    const Status written = writer.write(
        [&](std::size_t part, PartWriter::At to) {
            const std::size_t node = nodes[part];
            const Vec3 middle = frame.nodes().point(node);
            if (plan.discs)
                write_disc(placement_of(middle, plan.up(node), {1, 0, 0}), plan.diameter(node),
                           plan.thickness, to);
            else
                write_ball(middle, plan.diameter(node) / 2, to);
        },
        run);
    if (!written) return written.error();
    const Result<Mesh> mesh = std::move(writer).mesh({{"valence", std::move(valence), plain_number}});
    if (!mesh) return mesh;
    return mesh->with_marks(
        [frame, nodes = std::move(nodes)](std::size_t part) { return node_mark(frame, nodes[part]); });
}

}  // namespace plume
