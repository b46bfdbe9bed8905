#include "core/geometry/views/hidden_lines.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>
#include <utility>

#include "core/base/parallel.hpp"
#include "core/data/box.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

// Faces that are seen so nearly from their side look nowhere.
constexpr double edge_on = 1e-9;
// Of the size of all: what stands so much nearer hides, what is nearer by less is the same place.
constexpr double same_place = 1e-7;

struct Triangle {
    std::array<Vec3, 3> at;  // as seen
    double nearest = 0;
    std::uint32_t thing = 0, face = 0;
};

struct Edge {
    Vec3 from, to;  // as seen
    std::uint32_t thing = 0;
    SeenEdge sort = SeenEdge::line;
    bool turned_away = false;  // no face of it looks at the viewer, and it is a body's
    // The faces it belongs to, which do not hide it.
    std::array<std::uint32_t, 2> faces{no_face, no_face};
};

double turning(Vec3 a, Vec3 b, Vec3 c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

// --- what may be seen

// Normals of a mesh's faces, and at their corners those of the faces around that are smooth together.
class Normals {
public:
    Normals(const Mesh& mesh, const std::vector<std::uint32_t>& face_of, double crease_cos)
        : mesh_(mesh), crease_cos_(crease_cos), areas_(mesh.face_count()), units_(mesh.face_count()) {
        for (std::size_t face = 0; face < units_.size(); ++face) {
            areas_[face] = area_vector(mesh, face);
            units_[face] = unit_or_zero(areas_[face]);
        }
        const std::vector<std::uint32_t>& corners = mesh.parts().corners;
        first_.assign(mesh.vertex_count() + 1, 0);
        for (const std::uint32_t vertex : corners)
            ++first_[vertex + 1];
        std::partial_sum(first_.begin(), first_.end(), first_.begin());
        std::vector<std::uint32_t> next(first_.begin(), first_.end() - 1);
        around_.resize(corners.size());
        for (std::size_t corner = 0; corner < corners.size(); ++corner)
            around_[next[corners[corner]]++] = face_of[corner];
    }

    Vec3 of(std::uint32_t face) const { return units_[face]; }
    Vec3 at(std::uint32_t face, std::uint32_t vertex) const {
        Vec3 sum;
        for (std::uint32_t at = first_[vertex]; at < first_[vertex + 1]; ++at)
            if (dot(units_[around_[at]], units_[face]) >= crease_cos_) sum = sum + areas_[around_[at]];
        return unit_or_zero(sum);
    }
    const Mesh& mesh() const { return mesh_; }

private:
    const Mesh& mesh_;
    double crease_cos_;
    std::vector<Vec3> areas_, units_;
    std::vector<std::uint32_t> first_, around_;  // of each vertex the faces around it
};

class Edges {
public:
    Edges(const ViewFrame& frame, double crease_rad) : frame_(frame), crease_cos_(std::cos(crease_rad)) {}

    void add(const SeenThing& thing, std::uint32_t number) {
        if (thing.mesh) add_mesh(*thing.mesh, thing.smooth, number);
        for (const auto& [from, to] : thing.lines)
            edges_.push_back({frame_.seen(from), frame_.seen(to), number});
    }
    std::vector<Edge> take() { return std::move(edges_); }

private:
    void add_mesh(const Mesh& mesh, bool smooth, std::uint32_t number) {
        const MeshSides sides = sides_of(mesh);
        const std::vector<std::uint32_t> face_of = faces_of_corners(mesh);
        const Normals normals(mesh, face_of, crease_cos_);
        const bool body = is_closed(mesh) && volume_of(mesh) > 0;
        for (std::size_t side = 0; side < sides.count(); ++side) {
            const auto corners = std::span(sides.corners).subspan(sides.first[side], sides.face_count(side));
            const auto sort = sort_of(normals, face_of, corners, smooth);
            if (!sort) continue;
            const auto [from, to] = sides.ends[side];
            Edge edge{frame_.seen(mesh.vertex(from)), frame_.seen(mesh.vertex(to)), number, *sort};
            edge.turned_away = body;
            for (std::size_t at = 0; at < corners.size(); ++at) {
                if (at < 2) edge.faces[at] = face_of[corners[at]];
                edge.turned_away = edge.turned_away && !looks_here(normals.of(face_of[corners[at]]));
            }
            edges_.push_back(edge);
        }
    }
    bool looks_here(Vec3 normal) const { return dot(normal, frame_.away) < -edge_on; }

    std::optional<SeenEdge> sort_of(const Normals& normals, const std::vector<std::uint32_t>& face_of,
                                    std::span<const std::uint32_t> corners, bool smooth) const {
        if (corners.size() == 1) return SeenEdge::rim;
        if (corners.size() != 2) return SeenEdge::crease;
        const std::uint32_t first = face_of[corners[0]], second = face_of[corners[1]];
        // Faces that run along it the same way look to different sides of one surface.
        const std::vector<std::uint32_t>& vertices = normals.mesh().parts().corners;
        const double sign = vertices[corners[0]] == vertices[corners[1]] ? -1 : 1;
        const Vec3 one = normals.of(first), other = normals.of(second) * sign;
        const bool crease = dot(one, other) < crease_cos_;
        if (looks_here(one) != looks_here(other) &&
            (crease || turns_away(normals, first, second, sign, std::abs(dot(one - other, frame_.away)))))
            return SeenEdge::outline;
        if (!smooth && crease) return SeenEdge::crease;
        return {};
    }
    // Facets of a surface that is seen edge-on look here and there at random: there is an outline only where
    // the surface turns as much as they do. `sign` is that of the second face.
    bool turns_away(const Normals& normals, std::uint32_t first, std::uint32_t second, double sign,
                    double change) const {
        constexpr double as_much = 1;  // where facets lie evenly it is twice that
        double least = 1, most = -1;
        for (const auto& [face, sense] : {std::pair(first, 1.0), std::pair(second, sign)})
            for (const std::uint32_t vertex : normals.mesh().face(face)) {
                const double facing = sense * dot(normals.at(face, vertex), frame_.away);
                least = std::min(least, facing);
                most = std::max(most, facing);
            }
        return least <= 0 && most >= 0 && most - least >= as_much * change;
    }

    const ViewFrame& frame_;
    double crease_cos_;
    std::vector<Edge> edges_;
};

// --- what hides

std::vector<Triangle> triangles_of(std::span<const SeenThing> things, const ViewFrame& frame) {
    std::vector<Triangle> triangles;
    for (std::uint32_t number = 0; number < things.size(); ++number) {
        if (!things[number].mesh) continue;
        const Mesh& mesh = *things[number].mesh;
        for (std::size_t face = 0; face < mesh.face_count(); ++face) {
            const auto corners = mesh.face(face);
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                Triangle triangle;
                std::size_t at = 0;
                for (const std::uint32_t corner : {a, b, c})
                    triangle.at[at++] = frame.seen(mesh.vertex(corners[corner]));
                // Turned anticlockwise in the picture, whichever side is seen.
                if (turning(triangle.at[0], triangle.at[1], triangle.at[2]) < 0)
                    std::swap(triangle.at[1], triangle.at[2]);
                triangle.nearest = std::min({triangle.at[0].z, triangle.at[1].z, triangle.at[2].z});
                triangle.thing = number;
                triangle.face = static_cast<std::uint32_t>(face);
                triangles.push_back(triangle);
            });
        }
    }
    return triangles;
}

Box box_of(const std::vector<Triangle>& triangles, const std::vector<Edge>& edges) {
    Box box;
    for (const Triangle& triangle : triangles)
        for (const Vec3 corner : triangle.at)
            box.include(corner);
    for (const Edge& edge : edges) {
        box.include(edge.from);
        box.include(edge.to);
    }
    return box;
}

// Which triangles lie over which cells of the picture.
class PictureGrid {
public:
    PictureGrid(const std::vector<Triangle>& triangles, const Box& box) : low_(box.low) {
        const Vec3 size = box.size();
        const double area = std::max(size.x, 1e-300) * std::max(size.y, 1e-300);
        cell_ = std::sqrt(area / static_cast<double>(std::max<std::size_t>(triangles.size(), 1)));
        cell_ = std::max(cell_, std::max(size.x, size.y) / most_cells);
        if (!(cell_ > 0)) cell_ = 1;
        columns_ = static_cast<std::size_t>(size.x / cell_) + 1;
        rows_ = static_cast<std::size_t>(size.y / cell_) + 1;
        first_.assign(columns_ * rows_ + 1, 0);
        for_each_cell(triangles, [&](std::size_t cell, std::uint32_t) { ++first_[cell + 1]; });
        for (std::size_t cell = 1; cell < first_.size(); ++cell)
            first_[cell] += first_[cell - 1];
        entries_.resize(first_.back());
        std::vector<std::size_t> next(first_.begin(), first_.end() - 1);
        for_each_cell(triangles,
                      [&](std::size_t cell, std::uint32_t triangle) { entries_[next[cell]++] = triangle; });
    }

    // Calls use(triangle) for those over the cells that a line of the picture runs through, some more than
    // once.
    template <class Use>
    void for_each_near(Vec3 from, Vec3 to, const Use& use) const {
        const auto [low_row, high_row] = range(std::min(from.y, to.y), std::max(from.y, to.y), low_.y, rows_);
        for (std::size_t row = low_row; row <= high_row; ++row) {
            const auto [left, right] = reach_in(row, from, to);
            const auto [low_column, high_column] = range(left, right, low_.x, columns_);
            const std::size_t begin = first_[row * columns_ + low_column],
                              end = first_[row * columns_ + high_column + 1];
            for (std::size_t entry = begin; entry < end; ++entry)
                use(entries_[entry]);
        }
    }

private:
    static constexpr double most_cells = 2000;

    std::pair<std::size_t, std::size_t> range(double from, double to, double low, std::size_t count) const {
        const auto cell = [&](double at) {
            return static_cast<std::size_t>(
                std::clamp((at - low) / cell_, 0.0, static_cast<double>(count - 1)));
        };
        return {cell(from), cell(to)};
    }
    // From where to where a line runs within a row of cells, and a little further.
    std::pair<double, double> reach_in(std::size_t row, Vec3 from, Vec3 to) const {
        const double bottom = low_.y + static_cast<double>(row) * cell_, top = bottom + cell_;
        double left = std::min(from.x, to.x), right = std::max(from.x, to.x);
        const double rise = to.y - from.y;
        if (std::abs(rise) > 1e-12 * cell_) {
            const double a = from.x + (to.x - from.x) * (bottom - from.y) / rise,
                         b = from.x + (to.x - from.x) * (top - from.y) / rise;
            left = std::max(left, std::min(a, b) - 1e-6 * cell_);
            right = std::min(right, std::max(a, b) + 1e-6 * cell_);
        }
        return {left, std::max(left, right)};
    }
    template <class Use>
    void for_each_cell(const std::vector<Triangle>& triangles, const Use& use) const {
        for (std::uint32_t number = 0; number < triangles.size(); ++number) {
            const auto& [a, b, c] = triangles[number].at;
            const auto [left, right] =
                range(std::min({a.x, b.x, c.x}), std::max({a.x, b.x, c.x}), low_.x, columns_);
            const auto [bottom, top] =
                range(std::min({a.y, b.y, c.y}), std::max({a.y, b.y, c.y}), low_.y, rows_);
            for (std::size_t row = bottom; row <= top; ++row)
                for (std::size_t column = left; column <= right; ++column)
                    use(row * columns_ + column, number);
        }
    }

    Vec3 low_;
    double cell_ = 1;
    std::size_t columns_ = 1, rows_ = 1;
    std::vector<std::size_t> first_;
    std::vector<std::uint32_t> entries_;
};

struct Span {
    double begin = 0, end = 0;
};

// Where along the edge, from 0 to 1, the triangle stands before it; `nearer` is how much.
std::optional<Span> hidden_by(const Triangle& triangle, const Edge& edge, double nearer) {
    const Vec3 a = triangle.at[0], b = triangle.at[1], c = triangle.at[2];
    const double twice_area = turning(a, b, c);
    if (!(twice_area > nearer * nearer)) return {};  // seen from its side it hides nothing
    Span span{0, 1};
    const auto keep_above = [&](double at_begin, double at_end) {
        if (at_begin <= 0 && at_end <= 0) return span.begin = 1, span.end = 0, void();
        if (at_begin >= 0 && at_end >= 0) return;
        const double crossing = at_begin / (at_begin - at_end);
        if (at_begin < 0)
            span.begin = std::max(span.begin, crossing);
        else
            span.end = std::min(span.end, crossing);
    };
    for (const auto& [from, to] : {std::pair(a, b), std::pair(b, c), std::pair(c, a)})
        keep_above(turning(from, to, edge.from), turning(from, to, edge.to));
    const auto depth_behind = [&](Vec3 place) {
        const double share_b = turning(a, place, c) / twice_area, share_c = turning(a, b, place) / twice_area;
        return place.z - (a.z + share_b * (b.z - a.z) + share_c * (c.z - a.z)) - nearer;
    };
    keep_above(depth_behind(edge.from), depth_behind(edge.to));
    if (span.begin >= span.end) return {};
    return span;
}

// Sorted, and those that touch put together.
void put_together(std::vector<Span>& spans) {
    std::ranges::sort(spans, {}, &Span::begin);
    std::size_t kept = 0;
    for (std::size_t at = 1; at < spans.size(); ++at)
        if (spans[at].begin <= spans[kept].end)
            spans[kept].end = std::max(spans[kept].end, spans[at].end);
        else
            spans[++kept] = spans[at];
    if (!spans.empty()) spans.resize(kept + 1);
}

// The edge cut where it comes and goes; pieces that are hardly longer than nothing fall away.
void cut(const Edge& edge, const std::vector<Span>& hidden, bool keep_hidden, double least,
         std::vector<SeenPiece>& pieces) {
    const Vec3 along = edge.to - edge.from;
    const double drawn = std::hypot(along.x, along.y);
    const auto add = [&](double begin, double end, bool is_hidden) {
        if ((end - begin) * drawn <= least || (is_hidden && !keep_hidden)) return;
        pieces.push_back(
            {edge.from + along * begin, edge.from + along * end, edge.thing, edge.sort, is_hidden});
    };
    double at = 0;
    for (const Span& span : hidden) {
        add(at, span.begin, false);
        add(span.begin, span.end, true);
        at = span.end;
    }
    add(at, 1, false);
}

}  // namespace

ViewFrame plan_view() {
    return {};
}

ViewFrame view_towards(double azimuth_rad, double elevation_rad) {
    const double north = std::cos(azimuth_rad), east = std::sin(azimuth_rad);
    const double level = std::cos(elevation_rad), down = std::sin(elevation_rad);
    return {{north, -east, 0}, {east * down, north * down, level}, {east * level, north * level, -down}};
}

Result<std::vector<SeenPiece>> seen_lines(std::span<const SeenThing> things, const ViewFrame& frame,
                                          const HiddenLineOptions& options, const Run& run) {
    Edges maker(frame, options.crease_rad);
    for (std::uint32_t number = 0; number < things.size(); ++number) {
        if (run.cancelled()) return cancelled_error();
        maker.add(things[number], number);
    }
    const std::vector<Edge> edges = maker.take();
    const std::vector<Triangle> triangles = triangles_of(things, frame);
    const Box box = box_of(triangles, edges);
    if (box.empty()) return std::vector<SeenPiece>();
    const double nearer = same_place * std::max(box.diagonal(), 1e-300);
    const PictureGrid grid(triangles, box);
    constexpr std::size_t block = 1024;
    std::vector<std::vector<SeenPiece>> of_block(edges.size() / block + 1);
    const bool done = parallel_blocks(edges.size(), block, run, [&](std::size_t begin, std::size_t end) {
        // Which triangles were looked at, by the edge that looked last.
        std::vector<std::uint32_t> looked(triangles.size(), 0);
        std::vector<Span> hidden;
        for (std::size_t at = begin; at < end; ++at) {
            const Edge& edge = edges[at];
            const double furthest = std::max(edge.from.z, edge.to.z);
            hidden.clear();
            if (edge.turned_away) hidden.push_back({0, 1});
            const auto mark = static_cast<std::uint32_t>(at - begin + 1);
            const auto look = [&](std::uint32_t number) {
                if (std::exchange(looked[number], mark) == mark) return;
                const Triangle& triangle = triangles[number];
                if (triangle.nearest > furthest) return;
                const bool own = triangle.thing == edge.thing &&
                                 (triangle.face == edge.faces[0] || triangle.face == edge.faces[1]);
                if (own) return;
                if (const auto span = hidden_by(triangle, edge, nearer)) hidden.push_back(*span);
            };
            if (!edge.turned_away) grid.for_each_near(edge.from, edge.to, look);
            put_together(hidden);
            cut(edge, hidden, options.keep_hidden, nearer, of_block[begin / block]);
        }
    });
    if (!done) return cancelled_error();
    std::vector<SeenPiece> pieces;
    for (const std::vector<SeenPiece>& some : of_block)
        pieces.insert(pieces.end(), some.begin(), some.end());
    return pieces;
}

}  // namespace plume
