#include "core/steps/sheets/loose_pieces.hpp"

#include <algorithm>

#include "core/data/box.hpp"
#include "core/geometry/frames/unions.hpp"

namespace plume {
namespace {

Box box_of(const Piece& piece, const std::vector<Vec3>& at) {
    Box box;
    for (const std::uint32_t vertex : piece)
        box.include(at[vertex]);
    return box;
}

}  // namespace

std::vector<Piece> pieces_of(const Sheet& sheet) {
    Unions joined(sheet.vertex_count);
    for (const SheetSpring& spring : sheet.springs)
        joined.join(spring.a, spring.b);
    constexpr auto none = static_cast<std::size_t>(-1);
    std::vector<std::size_t> number(sheet.vertex_count, none);
    std::vector<Piece> pieces;
    for (std::uint32_t vertex = 0; vertex < sheet.vertex_count; ++vertex) {
        std::size_t& piece = number[joined.of(vertex)];
        if (piece == none) {
            piece = pieces.size();
            pieces.emplace_back();
        }
        pieces[piece].push_back(vertex);
    }
    std::erase_if(pieces, [](const Piece& piece) { return piece.size() < 2; });
    return pieces;
}

std::vector<Piece> loose_pieces(const Sheet& sheet, const std::vector<double>& firmness) {
    std::vector<Piece> pieces = pieces_of(sheet);
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
