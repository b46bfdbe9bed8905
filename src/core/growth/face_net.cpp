#include "core/growth/face_net.hpp"

#include <algorithm>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"

namespace plume {
namespace {

// Shares of one edge that are nearer are one: halves of thirds and thirds of halves differ in their last
// digits, and nobody cuts as finely as this.
constexpr double same_share = 1e-9;
constexpr auto none = static_cast<std::uint32_t>(-1);

// A vertex on an edge.
struct OnEdge {
    double share = 0;
    std::uint32_t vertex = 0;
};

class Welder {
public:
    Welder(const FaceNet& net, const FaceLoops& faces, const Run& run)
        : net_(net), faces_(faces), run_(run) {}

    Result<WeldedFaces> all(const std::vector<Field>& fields) {
        find_used();
        list_by_edge();
        if (!weld()) return cancelled_error();
        number_vertices();
        if (!write_faces()) return cancelled_error();
        write_vertices(fields);
        return std::move(made_);
    }

private:
    void find_used() {
        same_.assign(net_.places.size(), none);
        for (const FaceCorner& corner : faces_.corners)
            same_[corner.vertex] = corner.vertex;
    }

    // Vertices that some face has, edge by edge.
    void list_by_edge() {
        first_.assign(net_.edges.size() + 1, 0);
        for (std::size_t vertex = 0; vertex < same_.size(); ++vertex)
            if (same_[vertex] != none && net_.on_edge[vertex] != FaceNet::no_edge)
                ++first_[net_.on_edge[vertex] + 1];
        std::partial_sum(first_.begin(), first_.end(), first_.begin());
        on_edges_.resize(first_.back());
        std::vector<std::uint32_t> next(first_.begin(), first_.end() - 1);
        for (std::size_t vertex = 0; vertex < same_.size(); ++vertex)
            if (same_[vertex] != none && net_.on_edge[vertex] != FaceNet::no_edge)
                on_edges_[next[net_.on_edge[vertex]]++] = {net_.shares[vertex],
                                                           static_cast<std::uint32_t>(vertex)};
    }

    std::span<OnEdge> on(std::uint32_t edge) {
        return std::span(on_edges_).subspan(first_[edge], first_[edge + 1] - first_[edge]);
    }

    bool weld() {
        return parallel_blocks(net_.edges.size(), usual_block, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t edge = begin; edge < end; ++edge)
                weld(static_cast<std::uint32_t>(edge));
        });
    }
    void weld(std::uint32_t edge) {
        const auto vertices = on(edge);
        std::ranges::sort(vertices, [](const OnEdge& a, const OnEdge& b) {
            return a.share != b.share ? a.share < b.share : a.vertex < b.vertex;
        });
        std::size_t kept = 0;
        for (std::size_t at = 0; at < vertices.size(); ++at) {
            if (at > 0 && vertices[at].share - vertices[kept].share <= same_share)
                same_[vertices[at].vertex] = vertices[kept].vertex;
            else
                kept = at;
        }
    }

    void number_vertices() {
        number_.assign(same_.size(), none);
        for (std::size_t vertex = 0; vertex < same_.size(); ++vertex) {
            if (same_[vertex] != vertex) continue;
            number_[vertex] = static_cast<std::uint32_t>(vertices_.size());
            vertices_.push_back(static_cast<std::uint32_t>(vertex));
        }
    }

    // Calls use(vertex) for the corners of a face and for what lies between them, in order.
    template <class Use>
    void walk(std::span<const FaceCorner> face, const Use& use) {
        for (const FaceCorner& corner : face) {
            use(number_[same_[corner.vertex]]);
            const FaceSide& side = corner.side;
            const auto vertices = on(side.edge);
            if (vertices.empty()) continue;
            const double low = std::min(side.from, side.to) + same_share,
                         high = std::max(side.from, side.to) - same_share;
            const auto begin = std::ranges::lower_bound(vertices, low, {}, &OnEdge::share);
            const auto end = std::ranges::upper_bound(vertices, high, {}, &OnEdge::share);
            if (side.from < side.to)
                for (auto at = begin; at < end; ++at)
                    use_welded(*at, use);
            else
                for (auto at = end; at > begin;)
                    use_welded(*--at, use);
        }
    }
    template <class Use>
    void use_welded(const OnEdge& vertex, const Use& use) {
        if (same_[vertex.vertex] == vertex.vertex) use(number_[vertex.vertex]);
    }

    // Corners of a face that differ from the one before them.
    void corners_of(std::size_t face, std::vector<std::uint32_t>& corners) {
        corners.clear();
        walk(faces_.face(face), [&corners](std::uint32_t vertex) {
            if (corners.empty() || corners.back() != vertex) corners.push_back(vertex);
        });
        while (corners.size() > 1 && corners.front() == corners.back())
            corners.pop_back();
        if (corners.size() < 3) corners.clear();
    }

    // Faces are written block by block, and the blocks put together.
    struct Block {
        std::vector<std::uint32_t> corners, ends;  // the end of each face, 0 of those that are none
    };
    bool write_faces() {
        std::vector<Block> blocks(faces_.count() / usual_block + 1);
        const bool walked =
            parallel_blocks(faces_.count(), usual_block, run_, [&](std::size_t begin, std::size_t end) {
                Block& block = blocks[begin / usual_block];
                block.corners.reserve(5 * (end - begin));
                std::vector<std::uint32_t> corners;
                for (std::size_t face = begin; face < end; ++face) {
                    corners_of(face, corners);
                    block.corners.insert(block.corners.end(), corners.begin(), corners.end());
                    block.ends.push_back(corners.empty() ? 0
                                                         : static_cast<std::uint32_t>(block.corners.size()));
                }
            });
        if (!walked) return false;
        std::size_t count = 0;
        for (const Block& block : blocks)
            count += block.corners.size();
        made_.parts.corners.reserve(count);
        made_.parts.first.reserve(faces_.count() + 1);
        made_.kept.reserve(faces_.count());
        std::uint32_t face = 0;
        for (const Block& block : blocks) {
            const auto before = static_cast<std::uint32_t>(made_.parts.corners.size());
            made_.parts.corners.insert(made_.parts.corners.end(), block.corners.begin(), block.corners.end());
            for (const std::uint32_t end : block.ends) {
                if (end > 0) {
                    made_.kept.push_back(face);
                    made_.parts.first.push_back(before + end);
                }
                ++face;
            }
        }
        return true;
    }

    void write_vertices(const std::vector<Field>& fields) {
        Doubles x(vertices_.size()), y(vertices_.size()), z(vertices_.size());
        for (std::size_t vertex = 0; vertex < vertices_.size(); ++vertex) {
            const Vec3 place = net_.places[vertices_[vertex]];
            x[vertex] = place.x;
            y[vertex] = place.y;
            z[vertex] = place.z;
        }
        for (std::size_t field = 0; field < fields.size(); ++field) {
            Doubles numbers(vertices_.size());
            for (std::size_t vertex = 0; vertex < vertices_.size(); ++vertex)
                numbers[vertex] = net_.numbers[field][vertices_[vertex]];
            made_.parts.fields.push_back({fields[field].name, std::move(numbers), fields[field].dimension});
        }
        made_.parts.x = std::move(x);
        made_.parts.y = std::move(y);
        made_.parts.z = std::move(z);
    }

    const FaceNet& net_;
    const FaceLoops& faces_;
    const Run& run_;
    std::vector<std::uint32_t> same_;   // of each vertex the one it is; none where no face has it
    std::vector<std::uint32_t> first_;  // of each edge in on_edges_
    std::vector<OnEdge> on_edges_;
    std::vector<std::uint32_t> number_;    // of each vertex in the mesh
    std::vector<std::uint32_t> vertices_;  // of the mesh
    WeldedFaces made_;
};

}  // namespace

void FaceLoops::add(std::span<const FaceCorner> face) {
    corners.insert(corners.end(), face.begin(), face.end());
    first.push_back(static_cast<std::uint32_t>(corners.size()));
}

void FaceNet::add(std::size_t vertices, std::size_t edge_count) {
    const std::size_t now = places.size() + vertices;
    places.resize(now);
    on_edge.resize(now, no_edge);
    shares.resize(now);
    edges.resize(edges.size() + edge_count);
    for (Doubles& column : numbers)
        column.resize(now);
}

NetOfMesh net_of(const Mesh& mesh) {
    NetOfMesh made;
    const MeshSides sides = sides_of(mesh);
    FaceNet& net = made.net;
    net.places.reserve(mesh.vertex_count());
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        net.places.push_back(mesh.vertex(vertex));
    net.on_edge.assign(mesh.vertex_count(), FaceNet::no_edge);
    net.shares.assign(mesh.vertex_count(), 0);
    for (const auto& [a, b] : sides.ends)
        net.edges.push_back({a, b});
    for (const Field& field : mesh.fields())
        net.numbers.emplace_back(field.values.span().begin(), field.values.span().end());
    made.faces.first = mesh.parts().first;
    made.faces.corners.reserve(mesh.corner_count());
    for (std::size_t corner = 0; corner < mesh.corner_count(); ++corner) {
        const std::uint32_t vertex = mesh.parts().corners[corner], edge = sides.of_corner[corner];
        const bool forward = net.edges[edge].a == vertex;
        made.faces.corners.push_back({vertex, {edge, forward ? 0.0 : 1.0, forward ? 1.0 : 0.0}});
    }
    return made;
}

Vec3 area_vector(const FaceNet& net, std::span<const FaceCorner> face) {
    const Vec3 origin = net.places[face.front().vertex];
    Vec3 sum;
    for (std::size_t at = 1; at + 1 < face.size(); ++at)
        sum = sum + cross(net.places[face[at].vertex] - origin, net.places[face[at + 1].vertex] - origin);
    return sum * 0.5;
}

Vec3 middle_of(const FaceNet& net, std::span<const FaceCorner> face) {
    Vec3 sum;
    for (const FaceCorner& corner : face)
        sum = sum + net.places[corner.vertex];
    return sum * (1.0 / static_cast<double>(face.size()));
}

Result<WeldedFaces> welded(const FaceNet& net, const FaceLoops& faces, const std::vector<Field>& fields,
                           const Run& run) {
    return Welder(net, faces, run).all(fields);
}

}  // namespace plume
