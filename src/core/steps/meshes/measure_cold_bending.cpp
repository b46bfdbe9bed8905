#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// A flat rectangular plate of sides a and b, thickness t, modulus E and Poisson's ratio v, three of whose
// corners are held while the fourth is pushed out by w, takes the form w x y / (a b). Its twist is w / (a b)
// everywhere, and its twisting moment D (1 - v) times that, with D = E t^3 / (12 (1 - v^2)). The stress at
// the faces is 6 / t^2 of the moment: E t w / (2 (1 + v) a b) (Timoshenko, Woinowsky-Krieger, Theory of
// Plates and Shells, 1959, ch. 2). Good as long as w is not many times t, where the plate begins to stretch.
struct Plate {
    double thickness, modulus, ratio;
    double stress(double pushed, double a, double b) const {
        return modulus * thickness * pushed / (2 * (1 + ratio) * a * b);
    }
};

// How far a corner lies off the plane of the other three: twice the distance of the diagonals.
double pushed_out(const Mesh& mesh, std::span<const std::uint32_t> corners) {
    const Vec3 a = mesh.vertex(corners[0]), b = mesh.vertex(corners[1]);
    const Vec3 square = unit_or_zero(cross(mesh.vertex(corners[2]) - a, mesh.vertex(corners[3]) - b));
    return 2 * std::abs(dot(b - a, square));
}

double side(const Mesh& mesh, std::span<const std::uint32_t> corners, std::size_t from) {
    return length(mesh.vertex(corners[(from + 1) % 4]) - mesh.vertex(corners[from]));
}

struct Use {
    Doubles stresses, shares;
    std::size_t beyond = 0, skipped = 0;
    double worst = 0;
};

Use use_of(const Mesh& mesh, const Plate& plate, double limit) {
    Use use{Doubles(mesh.face_count()), Doubles(mesh.face_count())};
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        double stress = 0;
        if (corners.size() == 4) {
            const double a = (side(mesh, corners, 0) + side(mesh, corners, 2)) / 2,
                         b = (side(mesh, corners, 1) + side(mesh, corners, 3)) / 2;
            stress = plate.stress(pushed_out(mesh, corners), a, b);
        } else if (corners.size() > 4) {
            ++use.skipped;
            stress = std::nan("");
        }
        use.stresses[face] = stress;
        use.shares[face] = stress / limit;
        use.beyond += use.shares[face] > 1 ? 1 : 0;
        if (std::isfinite(stress)) use.worst = std::max(use.worst, use.shares[face]);
    }
    return use;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    constexpr double pascal_a_gigapascal = 1e9, pascal_a_megapascal = 1e6;
    const Plate plate{in.number("thickness"), in.number("modulus") * pascal_a_gigapascal, in.number("ratio")};
    Use use = use_of(*mesh, plate, in.number("limit") * pascal_a_megapascal);
    for (double& stress : use.stresses)
        stress /= pascal_a_megapascal;
    if (use.skipped == mesh->face_count())
        return about_slot(Error{ErrorCode::wrong_kind, "", "has no face of three or four corners",
                                "Take quadrangles or triangles."},
                          "mesh");
    if (use.skipped > 0)
        run.remark_loss(count_text(use.skipped, "face of more than four corners was",
                                   "faces of more than four corners were") +
                        " not measured.");
    run.remark(use.beyond == 0
                   ? "All can be bent cold; the most any takes is " + short_text(100 * use.worst, 3) +
                         " % of the limit."
                   : count_text(use.beyond, "face takes", "faces take") + " more than the limit, the worst " +
                         short_text(use.worst, 3) + " times it.");
    Mesh::Parts parts = mesh->parts();
    std::erase_if(parts.face_fields,
                  [](const Field& field) { return field.name == "stress" || field.name == "use"; });
    parts.face_fields.push_back({"stress", std::move(use.stresses), plain_number});
    parts.face_fields.push_back({"use", std::move(use.shares), plain_number});
    return as_value(Mesh::make(std::move(parts)));
}

SlotSpec above_zero(std::string key, std::string label, std::string preset) {
    SlotSpec spec = number_slot(std::move(key), std::move(label), std::move(preset));
    spec.least = 0;
    spec.above_least = true;
    return spec;
}

}  // namespace

StepKind measure_cold_bending() {
    SlotSpec ratio = number_slot("ratio", "Poisson's ratio", "0.23");
    ratio.least = 0;
    ratio.most = 0.5;
    return {
        .key = "mesh.cold_bending",
        .verb = "Measure cold bending",
        .synonyms = "glass panels warp twist stress bent plates quads limit thickness",
        .sentence =
            "Measure what bending the panels of {mesh} cold takes: {thickness} thick[more|, of a modulus of "
            "{modulus} GPa and a Poisson's ratio of {ratio}], against a limit of {limit} MPa.",
        .slots = {changed_mesh_slot(), length_above_zero_slot("thickness", "Thickness", "8 mm"),
                  above_zero("modulus", "Modulus", "70"), ratio, above_zero("limit", "Limit", "15")},
        .results = {Kind::mesh},
        .result_name = "bent",
        .help =
            "Of every quadrangle the stress, in MPa, that pushing a corner of a flat plate out of its plane "
            "until "
            "it fits takes, and as use its share of the limit: stress = E t w / (2 (1 + v) a b), of a plate "
            "of "
            "sides a and b that twists evenly. Presets are those of glass. Triangles take none.",
        .estimate = [](const Inputs& in) { return changed_estimate(in, 20, 2e-7); },
        .make = make,
    };
}

}  // namespace plume
