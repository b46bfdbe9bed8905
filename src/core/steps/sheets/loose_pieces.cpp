#include "core/steps/sheets/loose_pieces.hpp"

#include <algorithm>
#include <numeric>

#include "core/data/box.hpp"

namespace plume {
namespace {

// The least vertex of each piece.
class Joined {
public:
    explicit Joined(std::size_t count) : least_(count) { std::iota(least_.begin(), least_.end(), 0U); }

    std::uint32_t least_of(std::uint32_t vertex) {
        while (least_[vertex] != vertex) {
            least_[vertex] = least_[least_[vertex]];
            vertex = least_[vertex];
        }
        return vertex;
    }
    void join(std::uint32_t a, std::uint32_t b) {
        const std::uint32_t of_a = least_of(a), of_b = least_of(b);
        least_[std::max(of_a, of_b)] = std::min(of_a, of_b);
    }

private:
    std::vector<std::uint32_t> least_;
};

Box box_of(const Piece& piece, const std::vector<Vec3>& at) {
    Box box;
    for (const std::uint32_t vertex : piece)
        box.include(at[vertex]);
    return box;
}

}  // namespace

std::vector<std::uint32_t> least_joined(const SheetEdges& edges, std::size_t count) {
    Joined joined(count);
    for (const auto& [a, b] : edges)
        joined.join(a, b);
    std::vector<std::uint32_t> least(count);
    for (std::uint32_t vertex = 0; vertex < count; ++vertex)
        least[vertex] = joined.least_of(vertex);
    return least;
}

std::vector<Piece> pieces_of(const SheetEdges& edges, std::size_t count) {
    const std::vector<std::uint32_t> least = least_joined(edges, count);
    std::vector<Piece> pieces(count);
    for (std::uint32_t vertex = 0; vertex < count; ++vertex)
        pieces[least[vertex]].push_back(vertex);
    std::erase_if(pieces, [](const Piece& piece) { return piece.size() < 2; });
    return pieces;
}

std::vector<Piece> loose_pieces(const SheetEdges& edges, const std::vector<double>& firmness) {
    std::vector<Piece> pieces = pieces_of(edges, firmness.size());
    std::erase_if(pieces, [&](const Piece& piece) {
        return std::ranges::any_of(piece, [&](std::uint32_t vertex) { return firmness[vertex] != 0; });
    });
    return pieces;
}

bool has_gone(const Piece& piece, const std::vector<Vec3>& first, const std::vector<Vec3>& now, Vec3 along) {
    const Box was = box_of(piece, first), is = box_of(piece, now);
    return dot(is.centre() - was.centre(), along) > was.diagonal();
}

bool is_beyond(const Piece& piece, const std::vector<Vec3>& now, const std::vector<Vec3>& places,
               Vec3 along) {
    double nearest = Box::infinite, farthest = -Box::infinite;
    for (const std::uint32_t vertex : piece)
        nearest = std::min(nearest, dot(now[vertex], along));
    for (const Vec3 place : places)
        farthest = std::max(farthest, dot(place, along));
    return nearest > farthest;
}

}  // namespace plume
