#include "core/exchange/exact_kernel.hpp"

#include "core/base/module.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

void open_seam(SplineCurve& curve) {
    if (curve.closed()) curve = changed(curve, opened(curve.basis()));
}
void open_seams(ExactFace& face) {
    if (face.patch.u().closed) face.patch = changed(face.patch, 0, opened(face.patch.u()));
    if (face.patch.v().closed) face.patch = changed(face.patch, 1, opened(face.patch.v()));
    for (SplineCurve& trim : face.trims)
        open_seam(trim);
}

}  // namespace

Result<const ExactWriter*> exact_writer(const char* name) {
    static const auto* const writer = module_entry<ExactWriter>("exact", "plume_exact_writer");
    if (writer) return writer;
    return Error{ErrorCode::file_unwritable, name,
                 "cannot be written: the part of the program that writes it is missing",
                 "Install the program anew; libplume_exact.so belongs to it."};
}

void open_seams(ExactForm& form) {
    for (SplineCurve& curve : form.curves)
        open_seam(curve);
    for (ExactFace& face : form.faces)
        open_seams(face);
    for (ExactBody& body : form.bodies)
        for (ExactFace& face : body.faces)
            open_seams(face);
}

}  // namespace plume
