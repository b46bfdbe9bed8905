#include "core/sheets/sheet.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/text.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/sheets/sheet_features.hpp"

namespace plume {
namespace {

// Of a triangle with the side lengths a, b, c (Kahan's form of Heron's formula); 0 where there is none.
double area_of(double a, double b, double c) {
    std::array<double, 3> s{a, b, c};
    std::ranges::sort(s, std::greater<>());
    const double product =
        (s[0] + (s[1] + s[2])) * (s[2] - (s[0] - s[1])) * (s[2] + (s[0] - s[1])) * (s[0] + (s[1] - s[2]));
    return product > 0 ? std::sqrt(product) / 4 : 0;
}

Error not_finite() {
    return {ErrorCode::not_finite, "", "has a vertex that is not finite", "Mend the step that makes it."};
}

class SheetMaker {
public:
    SheetMaker(const Mesh& mesh, const RestLengths& rest, const SheetMaterial& material)
        : mesh_(mesh), rest_(rest), material_(material) {}

    Result<Sheet> all() {
        sheet_.vertex_count = mesh_.vertex_count();
        add_triangles();
        if (sheet_.triangles.empty())
            return Error{ErrorCode::empty_input, "", "has no face, so there is no sheet",
                         "Give a mesh with faces."};
        if (Status sided = add_edges(); !sided) return sided.error();
        add_areas();
        add_springs();
        add_hinges();
        link(sheet_);
        return std::move(sheet_);
    }

private:
    void add_triangles() {
        for (std::size_t face = 0; face < mesh_.face_count(); ++face) {
            const auto corners = mesh_.face(face);
            for_each_triangle(mesh_, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                sheet_.triangles.push_back({corners[a], corners[b], corners[c]});
                sheet_.triangle_faces.push_back(static_cast<std::uint32_t>(face));
            });
        }
    }

    Status add_edges() {
        sides_ = sides_of(sheet_.triangles);
        for (std::size_t at = 0; at < sides_.size(); at = next_edge(at))
            edges_.push_back(sides_[at].ends);
        auto rests = measured(sheet_, edges_, rest_);
        if (!rests) return rests.error();
        rests_ = *std::move(rests);
        note_lengths_opposite();
        return Done{};
    }
    void note_lengths_opposite() {
        opposite_.assign(sheet_.triangles.size(), {0, 0, 0});
        std::size_t edge = 0;
        for (std::size_t at = 0; at < sides_.size(); at = next_edge(at), ++edge)
            for (std::size_t side = at; side < next_edge(at); ++side)
                opposite_[sides_[side].triangle][corner_of(sides_[side].triangle, sides_[side].opposite)] =
                    rests_[edge];
    }
    std::size_t corner_of(std::uint32_t triangle, std::uint32_t vertex) const {
        const auto& corners = sheet_.triangles[triangle];
        return vertex == corners[0] ? 0 : vertex == corners[1] ? 1 : 2;
    }
    double length_opposite(std::uint32_t triangle, std::uint32_t vertex) const {
        return opposite_[triangle][corner_of(triangle, vertex)];
    }
    std::size_t next_edge(std::size_t at) const {
        std::size_t end = at + 1;
        while (end < sides_.size() && sides_[end].ends == sides_[at].ends)
            ++end;
        return end;
    }

    void add_areas() {
        sheet_.area.assign(sheet_.vertex_count, 0);
        for (std::size_t triangle = 0; triangle < sheet_.triangles.size(); ++triangle) {
            const auto& [a, b, c] = opposite_[triangle];
            areas_.push_back(area_of(a, b, c));
            for (const std::uint32_t corner : sheet_.triangles[triangle])
                sheet_.area[corner] += areas_.back() / 3;
        }
        sheet_.mass.resize(sheet_.vertex_count);
        const double least = 1e-3 * sheet_.mean_edge * sheet_.mean_edge;
        for (std::size_t at = 0; at < sheet_.vertex_count; ++at)
            sheet_.mass[at] = material_.weight * std::max(sheet_.area[at], least);
    }

    // As stiff as the triangles beside it make it (A. Van Gelder: Approximate simulation of elastic membranes
    // by triangulated spring meshes, 1998).
    void add_springs() {
        std::size_t edge = 0;
        for (std::size_t at = 0; at < sides_.size(); at = next_edge(at), ++edge) {
            double area = 0;
            for (std::size_t side = at; side < next_edge(at); ++side)
                area += areas_[sides_[side].triangle];
            const auto [a, b] = edges_[edge];
            const double rest = rests_[edge];
            const bool diagonal =
                next_edge(at) - at == 2 &&
                sheet_.triangle_faces[sides_[at].triangle] == sheet_.triangle_faces[sides_[at + 1].triangle];
            const double modulus = diagonal ? material_.shear : material_.stretch;
            sheet_.springs.push_back({a, b, rest, modulus * area / (rest * rest), diagonal});
        }
    }

    // The cotangent of the angle of a triangle at the end of an edge that is not `other`.
    double cotangent(std::uint32_t triangle, double edge, std::uint32_t end, std::uint32_t other) const {
        const double b = length_opposite(triangle, other), c = length_opposite(triangle, end);
        // Slivers would be as stiff as boards.
        const double least = 0.02 * edge * b;
        return (edge * edge + b * b - c * c) / (4 * std::max(areas_[triangle], least));
    }

    void add_hinges() {
        std::size_t edge = 0;
        for (std::size_t at = 0; at < sides_.size(); at = next_edge(at), ++edge) {
            if (next_edge(at) - at != 2) continue;
            const auto [a, b] = sides_[at].ends;
            const std::uint32_t c = sides_[at].opposite, d = sides_[at + 1].opposite;
            if (c == d) continue;
            const std::uint32_t first = sides_[at].triangle, second = sides_[at + 1].triangle;
            const double area = areas_[first] + areas_[second], rest = rests_[edge];
            if (!(area > 0)) continue;
            const double ca = cotangent(first, rest, a, b), cb = cotangent(first, rest, b, a),
                         da = cotangent(second, rest, a, b), db = cotangent(second, rest, b, a);
            sheet_.hinges.push_back(
                {{a, b, c, d}, {cb + db, ca + da, -ca - cb, -da - db}, 3 * material_.bending / area});
        }
    }

    const Mesh& mesh_;
    const RestLengths& rest_;
    const SheetMaterial& material_;
    Sheet sheet_;
    std::vector<TriangleSide> sides_;
    std::vector<std::array<std::uint32_t, 2>> edges_;
    std::vector<double> rests_;                    // of edges
    std::vector<double> areas_;                    // of triangles, at rest
    std::vector<std::array<double, 3>> opposite_;  // to each corner of a triangle: the length there, at rest
};

}  // namespace

Result<RestLengths> lengths_between(std::vector<Vec3> rest, std::vector<double> growth) {
    if (!std::ranges::all_of(rest, [](Vec3 at) { return is_finite(at); })) return not_finite();
    for (const double more : growth)
        if (!(more > -1) || !std::isfinite(more))
            return Error{ErrorCode::out_of_range, "", "cannot grow by -1 or less: nothing would be left",
                         "Grow it by more than -1; 0 leaves it as it is."};
    return RestLengths(
        [rest = std::move(rest), growth = std::move(growth)](std::uint32_t a, std::uint32_t b) {
            const double as_it_is = length(rest[b] - rest[a]);
            return growth.empty() ? as_it_is : as_it_is * (1 + (growth[a] + growth[b]) / 2);
        });
}

SheetEdges edges_of(const Sheet& sheet) {
    SheetEdges edges;
    edges.reserve(sheet.springs.size());
    for (const SheetSpring& spring : sheet.springs)
        if (!spring.diagonal) edges.push_back({spring.a, spring.b});
    return edges;
}

Result<std::vector<double>> measured(Sheet& sheet, const SheetEdges& edges, const RestLengths& rest) {
    std::vector<double> lengths;
    double sum = 0;
    sheet.shortest_edge = std::numeric_limits<double>::infinity();
    for (const auto& [a, b] : edges) {
        lengths.push_back(rest(a, b));
        if (!std::isfinite(lengths.back())) return not_finite();
        if (!(lengths.back() > 0))
            return Error{ErrorCode::out_of_range, "",
                         "has an edge without length, at vertex " + std::to_string(a),
                         "Close its gaps or merge its vertices first."};
        sum += lengths.back();
        sheet.shortest_edge = std::min(sheet.shortest_edge, lengths.back());
    }
    sheet.mean_edge = sum / static_cast<double>(edges.size());
    return lengths;
}

void link(Sheet& sheet) {
    const std::size_t count = sheet.vertex_count;
    sheet.pull.assign(count, 0);
    for (const SheetSpring& spring : sheet.springs) {
        sheet.pull[spring.a] += spring.stiffness;
        sheet.pull[spring.b] += spring.stiffness;
    }
    sheet.springs_at = incidence(count, [&](auto use) {
        for (std::uint32_t index = 0; index < sheet.springs.size(); ++index)
            for (const std::uint32_t end : {sheet.springs[index].a, sheet.springs[index].b})
                use(end, index);
    });
    sheet.hinges_at = incidence(count, [&](auto use) {
        for (std::uint32_t index = 0; index < sheet.hinges.size(); ++index)
            for (std::size_t corner = 0; corner < 4; ++corner)
                if (const SheetHinge& hinge = sheet.hinges[index]; hinge.weights[corner] != 0)
                    use(hinge.corners[corner], index);
    });
    sheet.ring = sheet.springs_at;
    for (std::size_t at = 0; at < count; ++at)
        for (std::uint32_t k = sheet.ring.first[at]; k < sheet.ring.first[at + 1]; ++k) {
            const SheetSpring& spring = sheet.springs[sheet.springs_at.of[k]];
            sheet.ring.of[k] = spring.a == at ? spring.b : spring.a;
        }
}

Result<Sheet> make_sheet(const Mesh& mesh, const RestLengths& rest, const SheetMaterial& material) {
    return SheetMaker(mesh, rest, material).all();
}

Result<Sheet> make_sheet(const Mesh& mesh, const std::vector<Vec3>& rest, const SheetMaterial& material) {
    const auto lengths = lengths_between(rest);
    if (!lengths) return lengths.error();
    return make_sheet(mesh, *lengths, material);
}

}  // namespace plume
