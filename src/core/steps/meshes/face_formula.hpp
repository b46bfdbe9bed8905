#pragma once
// Formulas over the faces of a mesh.

#include "core/steps/formula_support.hpp"

namespace plume {

// Reads x, y, z of the middle, area, corners, face, slope (of the normal from Z), and numbers of faces and of
// vertices, as the mean of the corners'.
FormulaSite site_on_faces(const Mesh& mesh);

}  // namespace plume
