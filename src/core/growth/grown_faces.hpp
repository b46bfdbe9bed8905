#pragma once
// What grew of faces, as a mesh that knows what each face came of.

#include <memory>

#include "core/growth/face_growth.hpp"

namespace plume {

// What is a part of the mesh: each face, or all of one name.
enum class FaceParts { each, by_name };

// The name in the mark of a part that grew.
std::string name_in_mark(const std::string& mark);

// Numbers of faces are those of the face each came of, then `number`, `depth`, values and fields of the
// rules. Parts are marked by their name and the way to them, or by their name. Errors: cancelled; empty_input
// where no face is left.
Result<Mesh> grown_faces(GrownFaces grown, std::shared_ptr<const GrowthRules> rules, FaceStart start,
                         Surroundings around, const Units& units, FaceParts parts, const Run& run);

}  // namespace plume
