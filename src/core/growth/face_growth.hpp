#pragma once
// Faces that are cut into others by rules, generation by generation.
//
// Every face of a generation that has a rule does what the first choice of it says that holds; each piece
// becomes what the first line says that holds of it. Faces without a rule, or of which no choice holds, are
// done with. Chance is drawn by what a face is: which piece of which piece. The same on any number of
// threads; O(pieces), no recursion.
//
// Shape grammars (G. Stiny, J. Gips, Shape Grammars and the Generative Specification of Painting and
// Sculpture, 1972) whose shapes are the faces of a mesh and whose generations are rewritten at once.

#include <array>
#include <string>
#include <vector>

#include "core/data/part_tree.hpp"
#include "core/growth/face_acts.hpp"
#include "core/growth/face_crowd.hpp"
#include "core/growth/growth.hpp"

namespace plume {

struct FaceStart {
    Mesh mesh;
    std::vector<std::uint64_t> identities;  // one each, below 2^53
    std::vector<Doubles> inherited;         // as RulesSetting::inherited
    // Where they are only some of more: the number of the first, and how many there are.
    std::uint32_t first_number = 0;
    std::size_t siblings = 0;
};
// All faces of a mesh; `seed` is what chance goes by.
FaceStart start_on(const Mesh& mesh, double seed);

struct FaceLimits {
    std::size_t generations = 0;
    std::size_t most = 1'000'000;  // faces that there are at a time
    double least_area = 0;         // smaller faces stay as they are
    double reach = 0;              // faces this near to an attractor stay as they are; 0: none
};

struct GrownFaces {
    FaceNet net;
    FaceCrowd faces;              // all there are at the end
    std::vector<Doubles> fields;  // of them, as GrowthRules::fields
    // All faces there ever were; which piece of its parent each is, or which face it began with.
    // PartTree::next counts pieces, `doing` the faces that they would be of.
    PartTree tree;
    std::vector<std::uint32_t> pieces;
    std::size_t doing = 0;
    GrowthEnd end = GrowthEnd::generations;
    std::size_t depth = 0;  // generations there were
    std::size_t split_otherwise = 0;
    std::array<std::size_t, 5> refused{};  // faces that stay, by FaceRefusal
    // Of the first refused one.
    std::string first_refused;
};

// Surroundings::contains: faces whose middle is not inside stay as they are. Error: cancelled.
Result<GrownFaces> grow_faces(const GrowthRules& rules, const FaceStart& start, const FaceLimits& limits,
                              const Surroundings& around, const Run& run);

// A face's line of descent: what the face with this number became, piece by piece, each with its area where
// Ancestor has a size. As far as it is found again. Error: cancelled.
Result<std::vector<Ancestor>> retraced_face(const GrowthRules& rules, const FaceStart& start,
                                            std::size_t root, const std::vector<std::uint32_t>& pieces,
                                            const Surroundings& around, const Run& run);

}  // namespace plume
