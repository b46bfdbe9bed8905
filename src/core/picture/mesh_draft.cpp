#include "core/picture/mesh_draft.hpp"

#include <algorithm>
#include <bit>
#include <cmath>

#include "core/base/noise.hpp"
#include "core/base/parallel.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

using Cell = std::uint64_t;  // 21 bits an axis

struct Cells {
    Vec3 low;
    double size = 1;

    Cell of(Vec3 p) const {
        const auto along = [&](double value, double from) {
            const double cell = (value - from) / size;
            return cell > 0 ? static_cast<Cell>(std::min(cell, 2097151.0)) : Cell{0};
        };
        return along(p.x, low.x) | along(p.y, low.y) << 21U | along(p.z, low.z) << 42U;
    }
};

// Gives every key it meets a number of its own, from 0 on in the order they are met. Open addressing; keys
// are random bits.
class Numbering {
public:
    explicit Numbering(std::size_t expected) : slots_(std::bit_ceil(2 * expected + 16), Slot{0, none}) {}

    static constexpr auto none = static_cast<std::uint32_t>(-1);

    // At most as many as were expected may be met.
    std::uint32_t number_of(std::uint64_t key) {
        Slot& slot = slots_[place_of(key)];
        if (slot.number == none) slot = {key, count_++};
        return slot.number;
    }
    // None where it was not met.
    std::uint32_t known_number_of(std::uint64_t key) const { return slots_[place_of(key)].number; }
    std::uint32_t count() const { return count_; }

private:
    std::size_t place_of(std::uint64_t key) const {
        const std::size_t mask = slots_.size() - 1;
        std::size_t at = key & mask;
        while (slots_[at].number != none && slots_[at].key != key)
            at = (at + 1) & mask;
        return at;
    }
    struct Slot {
        std::uint64_t key;
        std::uint32_t number;
    };
    std::vector<Slot> slots_;
    std::uint32_t count_ = 0;
};

// One number for three cells in whatever order.
std::uint64_t triple(std::array<Cell, 3> cells) {
    std::ranges::sort(cells);
    return random_bits(random_bits(random_bits(cells[0]) ^ cells[1]) ^ cells[2]);
}

// Cells so large that the triangles between them are few, and one triangle of the mesh for each three of
// them.
class Thinning {
public:
    Thinning(const Mesh& mesh, const std::vector<std::uint32_t>& faces)
        : mesh_(mesh), faces_(faces), box_(mesh.bounds()) {
        for (const std::uint32_t face : faces)
            largest_face_ = std::max(largest_face_, mesh.face(face).size());
    }

    // False when there are more than `most` (unless `anyway`), or it was cancelled.
    bool try_cells(double across, std::size_t most, bool anyway, const Run& run) {
        const Vec3 size = box_.size();
        const Cells grid{box_.low, std::max({size.x, size.y, size.z, 1e-300}) / across};
        cells_.resize(mesh_.vertex_count());
        const bool finished =
            parallel_blocks(cells_.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
                for (std::size_t vertex = begin; vertex < end; ++vertex)
                    cells_[vertex] = grid.of(mesh_.vertex(vertex));
            });
        if (!finished) return false;
        triangles_.clear();
        Numbering met((anyway ? mesh_.corner_count() : most) + largest_face_);
        for (const std::uint32_t face : faces_) {
            const auto corners = mesh_.face(face);
            for_each_triangle(mesh_, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                const std::array<std::uint32_t, 3> three{corners[a], corners[b], corners[c]};
                if (met.number_of(triple({cells_[three[0]], cells_[three[1]], cells_[three[2]]})) <
                    triangles_.size())
                    return;  // one of them is kept
                triangles_.push_back({{}, three, face});
            });
            if (triangles_.size() > most && !anyway) return false;
        }
        return true;
    }

    // Corners in three cells go to the means of their cells' vertices; others stay where they are.
    std::vector<DraftTriangle> placed() {
        Numbering used(3 * triangles_.size());
        for (const DraftTriangle& triangle : triangles_)
            for (const std::uint32_t vertex : triangle.vertices)
                used.number_of(random_bits(cells_[vertex]));
        std::vector<Vec3> sums(used.count());
        std::vector<double> counts(used.count(), 0);
        for (std::size_t vertex = 0; vertex < cells_.size(); ++vertex) {
            const std::uint32_t number = used.known_number_of(random_bits(cells_[vertex]));
            if (number == Numbering::none || !is_finite(mesh_.vertex(vertex))) continue;
            sums[number] = sums[number] + mesh_.vertex(vertex);
            counts[number] += 1;
        }
        for (DraftTriangle& triangle : triangles_) {
            const auto& [a, b, c] = triangle.vertices;
            const bool apart = cells_[a] != cells_[b] && cells_[b] != cells_[c] && cells_[c] != cells_[a];
            for (std::size_t at = 0; at < 3; ++at) {
                const std::uint32_t vertex = triangle.vertices[at];
                const std::uint32_t number = used.known_number_of(random_bits(cells_[vertex]));
                triangle.corners[at] = apart ? sums[number] * (1 / counts[number]) : mesh_.vertex(vertex);
            }
        }
        return std::move(triangles_);
    }

private:
    const Mesh& mesh_;
    const std::vector<std::uint32_t>& faces_;
    Box box_;
    std::size_t largest_face_ = 0;
    std::vector<Cell> cells_;  // of every vertex
    std::vector<DraftTriangle> triangles_;
};

}  // namespace

Result<std::vector<DraftTriangle>> draft_of(const Mesh& mesh, const std::vector<std::uint32_t>& faces,
                                            std::size_t most, const Run& run) {
    Thinning thinning(mesh, faces);
    // A surface fills about as many cells as its longest side squared; half as many again is tried until it
    // is few.
    for (double across = std::sqrt(static_cast<double>(most) / 2);; across /= 1.5) {
        if (thinning.try_cells(across, most, across < 8, run)) return thinning.placed();
        if (run.cancelled()) return cancelled_error();
    }
}

void thin_layers(std::vector<DraftTriangle>& triangles, const Box& box) {
    // A closed body covers the surface of its box once at most; of more than that a part is enough.
    constexpr double most_whole = 1.2, left = 0.6;
    double area = 0;
    for (const DraftTriangle& t : triangles)
        area += length(cross(t.corners[1] - t.corners[0], t.corners[2] - t.corners[0])) / 2;
    const Vec3 size = box.size();
    const double around = 2 * (size.x * size.y + size.y * size.z + size.z * size.x);
    if (!(area > most_whole * around)) return;
    const auto every = static_cast<std::size_t>(std::ceil(area / (left * around)));
    std::size_t kept = 0;
    for (std::size_t at = 0; at < triangles.size(); at += every)
        triangles[kept++] = triangles[at];
    triangles.resize(kept);
}

}  // namespace plume
