#include "core/geometry/frames/node_normals.hpp"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <cmath>
#include <queue>
#include <utility>

namespace plume {
namespace {

// The direction in which the ways of the members here, and of those of its neighbours, spread least.
Vec3 flattest(const BarFrame& frame, const Spokes& spokes, std::uint32_t node) {
    Eigen::Matrix3d spread = Eigen::Matrix3d::Zero();
    const auto add = [&](std::uint32_t half, double weight) {
        const Vec3 way = way_of(frame, half);
        const Eigen::Vector3d v(way.x, way.y, way.z);
        spread += weight * v * v.transpose();
    };
    for (std::uint32_t at = spokes.first[node]; at < spokes.first[node + 1]; ++at) {
        add(spokes.half[at], 1);
        const std::uint32_t beside = goal_of(frame, spokes.half[at]);
        for (std::uint32_t other = spokes.first[beside]; other < spokes.first[beside + 1]; ++other)
            add(spokes.half[other], 0.1);
    }
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(spread);
    const Eigen::Vector3d least = solver.eigenvectors().col(0);
    return {least.x(), least.y(), least.z()};
}

// Turned so that neighbours agree, from the highest node of each piece on, whose normal looks up.
void turn_alike(const BarFrame& frame, const Spokes& spokes, std::vector<Vec3>& normals) {
    std::vector<std::uint32_t> highest_first;
    for (std::uint32_t node = 0; node < normals.size(); ++node)
        if (frame.nodes().present(node)) highest_first.push_back(node);
    std::ranges::stable_sort(highest_first, [&](std::uint32_t a, std::uint32_t b) {
        return frame.nodes().z()[a] > frame.nodes().z()[b];
    });
    std::vector<std::uint8_t> turned(normals.size(), 0);
    for (const std::uint32_t start : highest_first) {
        if (turned[start] != 0) continue;
        if (normals[start].z < 0) normals[start] = normals[start] * -1;
        turned[start] = 1;
        std::queue<std::uint32_t> open;
        for (open.push(start); !open.empty(); open.pop()) {
            const std::uint32_t node = open.front();
            for (std::uint32_t at = spokes.first[node]; at < spokes.first[node + 1]; ++at) {
                const std::uint32_t beside = goal_of(frame, spokes.half[at]);
                if (std::exchange(turned[beside], std::uint8_t{1}) != 0) continue;
                if (dot(normals[beside], normals[node]) < 0) normals[beside] = normals[beside] * -1;
                open.push(beside);
            }
        }
    }
}

}  // namespace

std::uint32_t origin_of(const BarFrame& frame, std::uint32_t half) {
    const Member& member = frame.members()[half / 2];
    return half % 2 == 0 ? member.from : member.to;
}
std::uint32_t goal_of(const BarFrame& frame, std::uint32_t half) {
    return origin_of(frame, half ^ 1U);
}
Vec3 way_of(const BarFrame& frame, std::uint32_t half) {
    const PointLattice& nodes = frame.nodes();
    return unit_or_zero(nodes.point(goal_of(frame, half)) - nodes.point(origin_of(frame, half)));
}

Spokes spokes_of(const BarFrame& frame) {
    const std::vector<std::uint32_t> valences = valences_of(frame);
    Spokes spokes;
    spokes.first.assign(1, 0);
    for (const std::uint32_t valence : valences)
        spokes.first.push_back(spokes.first.back() + valence);
    spokes.half.resize(spokes.first.back());
    std::vector<std::uint32_t> next(spokes.first.begin(), spokes.first.end() - 1);
    for (std::uint32_t half = 0; half < 2 * frame.member_count(); ++half)
        spokes.half[next[origin_of(frame, half)]++] = half;
    return spokes;
}

double angle_between(const BarFrame& frame, std::uint32_t half, std::uint32_t other) {
    const Vec3 a = way_of(frame, half), b = way_of(frame, other);
    return std::atan2(length(cross(a, b)), dot(a, b));
}

std::vector<double> angles_at(const BarFrame& frame, const Spokes& spokes, std::size_t node) {
    std::vector<double> angles;
    for (std::uint32_t a = spokes.first[node]; a < spokes.first[node + 1]; ++a)
        for (std::uint32_t b = a + 1; b < spokes.first[node + 1]; ++b)
            angles.push_back(angle_between(frame, spokes.half[a], spokes.half[b]));
    std::ranges::sort(angles);
    return angles;
}

Result<std::vector<Vec3>> node_normals(const BarFrame& frame, const Run& run) {
    const Spokes spokes = spokes_of(frame);
    std::vector<Vec3> normals(frame.nodes().address_count());
    for (std::uint32_t node = 0; node < normals.size(); ++node) {
        if (node % 4096 == 0 && run.cancelled()) return cancelled_error();
        if (frame.nodes().present(node)) normals[node] = flattest(frame, spokes, node);
    }
    turn_alike(frame, spokes, normals);
    return normals;
}

}  // namespace plume
