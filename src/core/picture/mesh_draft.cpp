#include "core/picture/mesh_draft.hpp"

#include <algorithm>
#include <bit>
#include <cmath>

#include "core/base/noise.hpp"
#include "core/base/parallel.hpp"
#include "core/geometry/triangulate.hpp"

namespace plume {
namespace {

using Cell = std::uint64_t;  // 21 bits an axis

struct Cells {
    Vec3 low;
    double size = 1;

    Cell of(Vec3 p) const {
        const auto along = [&](double value, double from) {
            return static_cast<Cell>(std::clamp((value - from) / size, 0.0, 2097151.0));
        };
        return along(p.x, low.x) | along(p.y, low.y) << 21U | along(p.z, low.z) << 42U;
    }
};

// Gives every key it meets a number of its own, from 0 on in the order they are met. Open addressing.
class Numbering {
public:
    explicit Numbering(std::size_t expected) : slots_(std::bit_ceil(2 * expected + 16), Slot{0, none}) {}

    std::uint32_t number_of(std::uint64_t key) {
        const std::size_t mask = slots_.size() - 1;
        for (std::size_t at = random_bits(key) & mask;; at = (at + 1) & mask) {
            Slot& slot = slots_[at];
            if (slot.number == none) slot = {key, count_++};
            if (slot.key == key) return slot.number;
        }
    }
    std::uint32_t count() const { return count_; }

private:
    static constexpr auto none = static_cast<std::uint32_t>(-1);
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

// The means of the vertices of each cell: cells are numbered as they are met.
struct Means {
    std::vector<std::uint32_t> number;  // of each vertex
    std::vector<Vec3> place;
};

Means means_of(const Mesh& mesh, const std::vector<Cell>& cells) {
    Numbering numbering(cells.size());
    Means means;
    means.number.resize(cells.size());
    std::vector<double> counts;
    for (std::size_t vertex = 0; vertex < cells.size(); ++vertex) {
        const std::uint32_t number = numbering.number_of(cells[vertex]);
        means.number[vertex] = number;
        means.place.resize(numbering.count());
        counts.resize(numbering.count());
        means.place[number] = means.place[number] + mesh.vertex(vertex);
        counts[number] += 1;
    }
    for (std::size_t number = 0; number < counts.size(); ++number)
        means.place[number] = means.place[number] * (1 / counts[number]);
    return means;
}

}  // namespace

Result<std::vector<DraftTriangle>> draft_of(const Mesh& mesh, const std::vector<std::uint32_t>& faces,
                                            std::size_t most, const Run& run) {
    const Box box = mesh.bounds();
    std::vector<Cell> cells(mesh.vertex_count());
    std::vector<DraftTriangle> triangles;
    // A surface fills about as many cells as its longest side squared; half as many again is tried until it
    // is few.
    double across = std::sqrt(static_cast<double>(most) / 2);
    for (bool few = false; !few; across /= 1.5) {
        if (run.cancelled()) return cancelled_error();
        const double longest = std::max({box.size().x, box.size().y, box.size().z, 1e-300});
        const Cells grid{box.low, longest / across};
        parallel_blocks(cells.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t vertex = begin; vertex < end; ++vertex)
                cells[vertex] = grid.of(mesh.vertex(vertex));
        });
        const Means means = means_of(mesh, cells);
        Numbering met(mesh.corner_count());
        triangles.clear();
        few = true;
        for (const std::uint32_t face : faces) {
            const auto corners = mesh.face(face);
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                const std::array<std::uint32_t, 3> three{corners[a], corners[b], corners[c]};
                const std::array<Cell, 3> in{cells[three[0]], cells[three[1]], cells[three[2]]};
                if (met.number_of(triple(in)) < triangles.size()) return;  // one of them is kept
                DraftTriangle& kept = triangles.emplace_back();
                kept.vertices = three;
                kept.face = face;
                const bool apart = in[0] != in[1] && in[1] != in[2] && in[2] != in[0];
                for (std::size_t at = 0; at < 3; ++at)
                    kept.corners[at] = apart ? means.place[means.number[three[at]]] : mesh.vertex(three[at]);
            });
            few = triangles.size() <= most || across < 8;
            if (!few) break;
        }
    }
    return triangles;
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
