#include "core/geometry/levels/mesh_levels.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/geometry/levels/segment_chains.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

constexpr std::uint32_t no_number = static_cast<std::uint32_t>(-1);

// Two vertices, the lower one first: what the triangles on both sides call it.
std::uint64_t edge_between(std::uint32_t a, std::uint32_t b) {
    return (static_cast<std::uint64_t>(std::min(a, b)) << 32U) | std::max(a, b);
}

// Within a triangle, from one edge to another.
struct Segment {
    std::uint64_t from, to;
    std::uint32_t level;
};

struct Found {
    std::vector<Segment> segments;
    std::size_t level_faces = 0, faces_without = 0;
};

// How many levels are at or below each vertex's number.
std::vector<std::uint32_t> levels_below(std::span<const double> values, std::span<const double> levels,
                                        const Run& run) {
    std::vector<std::uint32_t> below(values.size());
    parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t vertex = begin; vertex < end; ++vertex)
            below[vertex] = std::isfinite(values[vertex])
                                ? static_cast<std::uint32_t>(
                                      std::ranges::upper_bound(levels, values[vertex]) - levels.begin())
                                : no_number;
    });
    return below;
}

class Marching {
public:
    Marching(const Mesh& mesh, std::span<const double> values, std::span<const double> levels,
             const std::vector<std::uint32_t>& below)
        : mesh_(mesh), values_(values), levels_(levels), below_(below) {}

    void look_at(std::size_t face, Found& found) const {
        const std::span<const std::uint32_t> corners = mesh_.face(face);
        std::uint32_t least = no_number, most = 0;
        for (const std::uint32_t corner : corners) {
            least = std::min(least, below_[corner]);
            most = std::max(most, below_[corner]);
        }
        if (most == no_number) {
            ++found.faces_without;
            return;
        }
        if (least == most) {
            if (is_level(corners)) ++found.level_faces;
            return;
        }
        for_each_triangle(mesh_, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            march({corners[a], corners[b], corners[c]}, found.segments);
        });
    }

private:
    bool is_level(std::span<const std::uint32_t> corners) const {
        const double value = values_[corners[0]];
        const std::uint32_t below = below_[corners[0]];
        return below > 0 && levels_[below - 1] == value &&
               std::ranges::all_of(corners, [&](std::uint32_t corner) { return values_[corner] == value; });
    }
    // Corners lowest first, still anticlockwise. Levels up to the middle one pass beside the lowest, those
    // above beside the highest.
    void march(std::array<std::uint32_t, 3> corners, std::vector<Segment>& segments) const {
        const auto below = [&](std::size_t corner) { return below_[corners[corner]]; };
        while (below(0) > below(1) || below(0) > below(2))
            std::rotate(corners.begin(), corners.begin() + 1, corners.end());
        const std::uint64_t first = edge_between(corners[0], corners[1]),
                            opposite = edge_between(corners[1], corners[2]),
                            last = edge_between(corners[2], corners[0]);
        const std::uint32_t middle = std::min(below(1), below(2)), top = std::max(below(1), below(2));
        const bool second_is_top = below(1) > below(2);
        std::uint32_t level = below(0);
        for (; level < middle; ++level)
            segments.push_back({last, first, level});
        for (; level < top; ++level)
            segments.push_back(second_is_top ? Segment{opposite, first, level}
                                             : Segment{last, opposite, level});
    }

    const Mesh& mesh_;
    std::span<const double> values_, levels_;
    const std::vector<std::uint32_t>& below_;
};

// One run of segments a level, in the order of faces.
struct ByLevel {
    std::vector<Segment> segments;
    std::vector<std::size_t> starts;
};
ByLevel by_level(const std::vector<Found>& blocks, std::size_t levels, const Run& run) {
    // Where the segments of each block go: behind those of the levels below and of the blocks before.
    std::vector<std::size_t> next(blocks.size() * levels, 0);
    parallel_blocks(blocks.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t block = begin; block < end; ++block)
            for (const Segment& segment : blocks[block].segments)
                ++next[block * levels + segment.level];
    });
    ByLevel sorted;
    std::size_t total = 0;
    for (std::size_t level = 0; level < levels; ++level) {
        sorted.starts.push_back(total);
        for (std::size_t block = 0; block < blocks.size(); ++block)
            total += std::exchange(next[block * levels + level], total);
    }
    sorted.starts.push_back(total);
    sorted.segments.resize(total);
    parallel_blocks(blocks.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t block = begin; block < end; ++block)
            for (const Segment& segment : blocks[block].segments)
                sorted.segments[next[block * levels + segment.level]++] = segment;
    });
    return sorted;
}

// The lines of one level.
struct Lines {
    std::vector<Vec3> points;
    std::vector<std::size_t> ends;
    std::vector<std::uint8_t> closed;
};

class LineMaker {
public:
    LineMaker(const Mesh& mesh, std::span<const double> values) : mesh_(mesh), values_(values) {}

    Lines lines(std::span<const Segment> segments, double level) const {
        std::vector<std::uint64_t> keys;
        keys.reserve(2 * segments.size());
        for (const Segment& segment : segments) {
            keys.push_back(segment.from);
            keys.push_back(segment.to);
        }
        Lines lines;
        lines.points.reserve(segments.size() + 1);
        for (const SegmentChain& chain : chains_of(partners_by_key(keys)))
            add(chain, keys, level, lines);
        return lines;
    }

private:
    void add(const SegmentChain& chain, const std::vector<std::uint64_t>& keys, double level,
             Lines& lines) const {
        const std::size_t first = lines.points.size();
        const auto put = [&](std::uint64_t edge) {
            const Vec3 place = place_on(edge, level);
            // Edges that meet at a vertex at the level have one place.
            if (lines.points.size() == first || lines.points.back() != place) lines.points.push_back(place);
        };
        for (const std::uint32_t end : chain.entered)
            put(keys[end]);
        if (!chain.closed) put(keys[chain.entered.back() ^ 1U]);
        bool closed = chain.closed;
        if (closed && lines.points.size() - first > 1 && lines.points.back() == lines.points[first])
            lines.points.pop_back();
        // What is no longer than a place, and closed ones that are run through to and fro, are no lines.
        const std::size_t least = closed ? 3 : 2;
        if (lines.points.size() - first < least) {
            lines.points.resize(first);
            return;
        }
        lines.ends.push_back(lines.points.size());
        lines.closed.push_back(closed ? 1 : 0);
    }
    // The same from either side.
    Vec3 place_on(std::uint64_t edge, double level) const {
        const auto low = static_cast<std::uint32_t>(edge >> 32U), high = static_cast<std::uint32_t>(edge);
        const double share = (level - values_[low]) / (values_[high] - values_[low]);
        return mesh_.vertex(low) + (mesh_.vertex(high) - mesh_.vertex(low)) * std::clamp(share, 0.0, 1.0);
    }

    const Mesh& mesh_;
    std::span<const double> values_;
};

void append(MeshLevels& all, const Lines& lines, std::uint32_t level) {
    const std::size_t before = all.points.size();
    all.points.insert(all.points.end(), lines.points.begin(), lines.points.end());
    for (const std::size_t end : lines.ends)
        all.starts.push_back(before + end);
    all.closed.insert(all.closed.end(), lines.closed.begin(), lines.closed.end());
    all.level.insert(all.level.end(), lines.ends.size(), level);
}

}  // namespace

Result<MeshLevels> mesh_levels(const Mesh& mesh, std::span<const double> values,
                               std::span<const double> levels, const Run& run) {
    constexpr std::size_t faces_together = 16'384;
    const std::vector<std::uint32_t> below = levels_below(values, levels, run);
    const Marching marching(mesh, values, levels, below);
    std::vector<Found> blocks((mesh.face_count() + faces_together - 1) / faces_together);
    bool done = parallel_blocks(blocks.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t block = begin; block < end; ++block)
            for (std::size_t face = block * faces_together;
                 face < std::min(mesh.face_count(), (block + 1) * faces_together); ++face)
                marching.look_at(face, blocks[block]);
    });
    if (!done) return cancelled_error();
    MeshLevels all;
    for (const Found& block : blocks) {
        all.level_faces += block.level_faces;
        all.faces_without += block.faces_without;
    }
    const ByLevel sorted = by_level(blocks, levels.size(), run);
    blocks.clear();
    std::vector<Lines> lines(levels.size());
    const LineMaker maker(mesh, values);
    done = parallel_blocks(levels.size(), 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t level = begin; level < end; ++level)
            lines[level] = maker.lines(
                std::span(sorted.segments)
                    .subspan(sorted.starts[level], sorted.starts[level + 1] - sorted.starts[level]),
                levels[level]);
    });
    if (!done) return cancelled_error();
    for (std::size_t level = 0; level < levels.size(); ++level)
        append(all, lines[level], static_cast<std::uint32_t>(level));
    return all;
}

}  // namespace plume
