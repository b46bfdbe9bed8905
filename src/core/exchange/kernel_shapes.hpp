#pragma once
// Our forms as shapes of the geometry kernel (OpenCASCADE 7.6), in millimetres. For exact_module.cpp alone.

#include <TopoDS_Shape.hxx>
#include <vector>

#include "core/results/exact_form.hpp"

namespace plume {

// A shape, and what it is to be counted as.
enum class KernelKind { point, curve, face, body, facets };
struct KernelShape {
    TopoDS_Shape shape;
    KernelKind kind;
    std::size_t facets = 0;
    bool loose = false;  // a body whose faces could not be put together
};

// Throws what the kernel throws (Standard_Failure).
class KernelShapes {
public:
    explicit KernelShapes(double millimetres) : scale_(millimetres) {}

    KernelShape of(Vec3 point) const;
    KernelShape of(const SplineCurve& curve) const;  // one that is straight between poles as lines
    KernelShape of(const ExactFace& face) const;
    KernelShape of(const ExactBody& body) const;
    // A solid where it is closed, else a shell; facets that are not flat as triangles.
    KernelShape of(const Mesh& mesh) const;

private:
    double scale_;
};

}  // namespace plume
