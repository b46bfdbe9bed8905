// Equal regular polygons, more of them at each vertex than a plane has room for.

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/sheets/patchwork.hpp"
#include "core/steps/sheets/brought_sheet.hpp"

namespace plume {
namespace {

constexpr std::size_t most_sides = 60;

// All polygons turn left at every corner: then none lies on another.
bool lies_plane(const Patchwork& patchwork, const std::vector<Vec3>& places) {
    return std::ranges::all_of(patchwork.faces, [&](const std::vector<std::uint32_t>& face) {
        for (std::size_t at = 0; at < face.size(); ++at) {
            const Vec3 corner = places[face[at]], next = places[face[(at + 1) % face.size()]],
                       last = places[face[(at + 2) % face.size()]];
            if (!(cross(next - corner, last - next).z > 0)) return false;
        }
        return true;
    });
}

// In the plane, in lengths of an edge, as nearly as long as its edges are to be as that goes: by how far a
// place is from the middle in the hyperbolic plane, which keeps lengths along rays; or else in the disc of
// Poincaré; or else in Klein's, where sides are straight and nothing can lie on anything.
std::vector<Vec3> laid_out(const Patchwork& patchwork) {
    const double half_side = std::numbers::pi / static_cast<double>(patchwork.faces[0].size());
    const auto laid = [&](double (*radius)(double)) {
        const auto far = [&](Vec3 at) { return radius(2 * std::atanh(std::min(length(at), 1 - 1e-15))); };
        const double scale = 1 / (2 * std::sin(half_side) * far(patchwork.at[patchwork.faces[0][0]]));
        std::vector<Vec3> places;
        for (const Vec3 at : patchwork.at)
            places.push_back(unit_or_zero(at) * (far(at) * scale));
        return places;
    };
    for (double (*radius)(double) :
         {+[](double far) { return far; }, +[](double far) { return std::tanh(far / 2); }})
        if (std::vector<Vec3> places = laid(radius); lies_plane(patchwork, places)) return places;
    return laid(+[](double far) { return std::tanh(far); });
}

// Polygons of four and more sides give way as cones do, about their middles.
void add_triangles(const Patchwork& patchwork, SheetToBring& bring) {
    const auto corners = static_cast<std::uint32_t>(patchwork.at.size());
    bring.vertex_count = corners;
    for (const auto& face : patchwork.faces) {
        if (face.size() == 3) {
            bring.triangles.push_back({face[0], face[1], face[2]});
            continue;
        }
        const auto middle = static_cast<std::uint32_t>(bring.from.size());
        Vec3 sum;
        for (std::size_t at = 0; at < face.size(); ++at) {
            bring.triangles.push_back({middle, face[at], face[(at + 1) % face.size()]});
            sum = sum + bring.from[face[at]];
        }
        bring.from.push_back(sum * (1 / static_cast<double>(face.size())));
    }
    const double half_side = std::numbers::pi / static_cast<double>(patchwork.faces[0].size());
    const double to_middle = 1 / (2 * std::sin(half_side));
    bring.rest = [=](std::uint32_t a, std::uint32_t b) { return a < corners && b < corners ? 1 : to_middle; };
}

Result<Value> make(const Inputs& in, const Run& run) {
    auto sewn = patchwork(in.count("sides"), in.count("around"), in.count("rings"), run);
    if (!sewn) {
        if (sewn.error().code == ErrorCode::cancelled) return sewn.error();
        return about_slot(sewn.error(), sewn.error().code == ErrorCode::over_budget ? "rings" : "around");
    }
    SheetToBring bring;
    bring.from_slot = "around";
    add_faces(bring.parts, sewn->faces);
    Doubles ring(sewn->ring.begin(), sewn->ring.end());
    bring.parts.face_fields = {{"ring", Column(std::move(ring)), plain_number}};
    bring.from = laid_out(*sewn);
    add_triangles(*sewn, bring);
    return brought(std::move(bring), in, run);
}

// Each ring has so many times the polygons of the one before, nearly: the larger root of the recurrence that
// they follow.
Estimate estimate(const Inputs& in) {
    const double sides = in.number("sides"), around = in.number("around");
    const double middle = (sides - 2) * (around - 2) - 2;
    if (!(middle > 2)) return {};
    const double times = (middle + std::sqrt(middle * middle - 4)) / 2;
    const double first = sides * (around - 2);
    const double faces = std::min(first * std::pow(times, in.number("rings") - 1) * times / (times - 1),
                                  static_cast<double>(most_patches));
    const double vertices = faces * (sides - 2) / 2 + sides;
    return brought_estimate(vertices, std::pow(times, in.number("rings") / 2));
}

}  // namespace

StepKind sew_patchwork() {
    SlotSpec sides = count_slot("sides", "Sides", "3", 3), around = count_slot("around", "Around", "7", 3);
    sides.most = most_sides;
    around.most = most_sides;
    SlotSpec rings = count_slot("rings", "Rings", "3", 1);
    rings.most = 40;
    return {
        .key = "sheet.patchwork",
        .verb = "Sew a patchwork",
        .synonyms = "hyperbolic tessellation tiling polygons heptagon football quilt",
        .sentence =
            "Sew a patchwork of polygons of {sides} sides, {around} around each corner, in {rings} rings, " +
            std::string(brought_text),
        .slots = with_brought_slots({sides, around, rings}),
        .results = {Kind::mesh},
        .result_name = "patchwork",
        .help =
            "Equal regular polygons, sewn side to side, more of them around each corner than a plane has "
            "room "
            "for: 7 triangles, 5 squares, 4 pentagons, 3 heptagons. One in the middle, and rings of all that "
            "touch the ring before. It becomes a sheet in folds, as a growing sheet does; polygons of four "
            "and "
            "more sides bend about their middles. ‘ring’ is a number of its faces.",
        .drawn_plain = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
