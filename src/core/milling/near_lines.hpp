#pragma once
// Which of many straight pieces of a plane are near a place, and which of many places is the next one: by
// Boost's R-tree (Beckmann, Kriegel, Schneider & Seeger, The R*-tree, SIGMOD 1990, doi 10.1145/93597.98741).

#include <memory>
#include <optional>
#include <vector>

#include "core/geometry/levels/line_strips.hpp"

namespace plume {

double length_of(const FlatEdge& piece);
double distance(FlatPoint place, const FlatEdge& piece);

struct NearPiece {
    std::size_t piece = 0;  // its number
    double distance = 0;
};
class NearPieces {
public:
    explicit NearPieces(std::vector<FlatEdge> pieces);
    ~NearPieces();
    NearPieces(NearPieces&&) noexcept;

    const FlatEdge& piece(std::size_t number) const;
    // All within `reach`, in no order. O(log n + found).
    void find(FlatPoint place, double reach, std::vector<NearPiece>& found) const;
    // Nothing where there is none at all.
    std::optional<NearPiece> nearest(FlatPoint place) const;

private:
    struct Tree;
    std::unique_ptr<Tree> tree_;
};

// Places that are waited at, each with a number of the caller's.
class OpenPlaces {
public:
    OpenPlaces();
    ~OpenPlaces();

    void add(FlatPoint place, std::size_t number);
    void remove(FlatPoint place, std::size_t number);
    std::optional<std::size_t> nearest(FlatPoint place) const;

private:
    struct Tree;
    std::unique_ptr<Tree> tree_;
};

}  // namespace plume
