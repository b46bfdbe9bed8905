#pragma once
// Shapes of the geometry kernel (OpenCASCADE 7.6) as our forms, in millimetres. For exact_reader.cpp alone.

#include <TopoDS_Shape.hxx>

#include "core/readers/exact_file.hpp"

namespace plume {

// What a shape has: its solids, faces outside of them, curves outside of these. What cannot be is told in
// `losses`.
ExactPart forms_of(const TopoDS_Shape& shape, const std::string& name, std::vector<std::string>& losses);

}  // namespace plume
