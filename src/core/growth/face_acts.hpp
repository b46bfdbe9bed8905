#pragma once
// What can be done to a face: split, cut, inset, raised. Which pieces come of it and where they lie.
//
// A face of four corners is a bilinear patch: along from its first to its second corner, across from its
// first to its last. Pieces keep the way they lie in it; pieces beside and around run along the side they
// stand on.

#include <optional>

#include "core/growth/face_net.hpp"
#include "core/growth/growth_rules.hpp"

namespace plume {

// An act with the numbers that a face gives it.
struct FaceDoing {
    FaceAct::Type type = FaceAct::Type::split;
    double along = 1, across = 1;  // how many pieces
    double number = 0;             // cut at, inset or raised by
    double tapered = 1;
    bool cut_along = true, absolute = false;
};

// Why nothing is done to a face.
enum class FaceRefusal {
    no_number,   // a number is none, or counts less than one piece
    corners,     // it is to be cut, and has not four corners
    outside,     // the cut is not between its ends
    too_narrow,  // inset by more than there is, or by nothing
    flat         // without area, or raised by nothing and not tapered
};

struct FaceCounts {
    std::size_t vertices = 0, edges = 0, pieces = 0, corners = 0;
};

// What will be done.
struct FacePlan {
    FaceDoing doing;
    FaceCounts counts;
    std::optional<FaceRefusal> refused;
    // It is split in another way than asked for: as often across as along, or once a corner.
    bool otherwise = false;
};
// `area`: the face's area_vector().
FacePlan plan_for(const FaceNet& net, std::span<const FaceCorner> face, Vec3 area, const FaceDoing& doing);

struct FacePiece {
    PiecePlace place = PiecePlace::anywhere;
    std::uint32_t number = 0, siblings = 1;  // among those at its place
    std::uint32_t i = 0, j = 0;
    std::uint32_t corner_end = 0;  // behind its last corner, counted from the first of all pieces
};

// Where an act writes: as many entries as the plan counts, vertices and edges from these on.
struct FaceRoom {
    std::size_t vertex = 0, edge = 0;
    std::span<FaceCorner> corners;
    std::span<FacePiece> pieces;
};
// May run for several faces at a time.
void carry_out(FaceNet& net, std::span<const FaceCorner> face, const FacePlan& plan, const FaceRoom& room);

}  // namespace plume
