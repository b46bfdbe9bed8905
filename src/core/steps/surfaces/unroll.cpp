#include <array>
#include <cmath>
#include <functional>
#include <memory>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/flattened_mesh.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/mesh_pieces.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/steps/moves/mapped_thing.hpp"

namespace plume {
namespace {

// Quads that a surface is laid out by, about.
constexpr std::size_t surface_quads = 6000;

// Opened at its seams, so that what goes round can be laid out.
struct Sheet {
    Mesh mesh;
    // Of the surface it stands for, if it does: the normals at its vertices, and the parameters of its lines.
    std::vector<Vec3> normals = {};
    std::optional<SplinePatch> patch = {};
    std::vector<double> u = {}, v = {};
};

Result<Sheet> opened_mesh(const SplinePatch& patch, const Run& run) {
    const int per_bay = samples_per_bay(patch, surface_quads);
    const auto lines = [&](const SplineBasis& basis) {
        std::vector<double> at = sample_lines(basis, per_bay, 1).parameters;
        if (basis.closed) at.push_back(basis.end());
        return at;
    };
    const std::vector<double> u = lines(patch.u()), v = lines(patch.v());
    Doubles x(u.size() * v.size()), y(x.size()), z(x.size());
    std::vector<Vec3> normals(x.size());
    const bool done = visit_points(
        patch, u, v,
        [&](std::size_t a, std::size_t b, const SurfacePoint& point) {
            const std::size_t at = a + u.size() * b;
            x[at] = point.position.x;
            y[at] = point.position.y;
            z[at] = point.position.z;
            normals[at] = unit_or_zero(cross(point.along_u, point.along_v));
        },
        run);
    if (!done) return cancelled_error();
    Mesh::Parts parts;
    for (std::size_t b = 0; b + 1 < v.size(); ++b)
        for (std::size_t a = 0; a + 1 < u.size(); ++a) {
            const auto at = static_cast<std::uint32_t>(a + u.size() * b),
                       row = static_cast<std::uint32_t>(u.size());
            parts.corners.insert(parts.corners.end(), {at, at + 1, at + 1 + row, at + row});
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    auto mesh = Mesh::make(std::move(parts));
    if (!mesh) return mesh.error();
    return Sheet{*std::move(mesh), std::move(normals), patch, u, v};
}

// Each for itself, as it stands.
Result<std::vector<Sheet>> sheets_of(const Inputs& in, const Run& run) {
    std::vector<Sheet> sheets;
    if (const auto* set = std::get_if<SurfaceSet>(&in.value("form"))) {
        for (const SplinePatch& patch : set->patches) {
            if (patch.trimmed())
                return about_slot(Error{ErrorCode::unlike_arrangement, "", "is trimmed",
                                        "Unroll it whole, with its rims as curves on it."},
                                  "form");
            auto mesh = opened_mesh(patch, run);
            if (!mesh) return mesh.error();
            sheets.push_back(*std::move(mesh));
        }
    } else {
        const Mesh parted = parted_by_pieces(in.held<Mesh>("form"));
        for (std::size_t part = 0; part < parted.part_count() && parted.face_count() > 0; ++part)
            sheets.push_back({part_alone(parted, part).mesh});
    }
    if (sheets.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "has no face", "Choose another."}, "form");
    return sheets;
}

struct Unrolled {
    std::vector<Sheet> before;
    std::vector<Mesh> after;
    double stretch = 0, squeeze = 0;
    std::size_t folded = 0;
};

// Side by side along X.
Result<Unrolled> unrolled(const Inputs& in, const Run& run) {
    auto sheets = sheets_of(in, run);
    if (!sheets) return sheets.error();
    const Flattening how = in.word("keeping") == "angles" ? Flattening::angles : Flattening::lengths;
    Unrolled all;
    double right = 0;
    for (Sheet& sheet : *sheets) {
        auto flat = flattened(sheet.mesh, sheet.normals, how, run);
        if (!flat) return about_slot(flat.error(), "form");
        const Box bounds = flat->mesh.bounds();
        const double gap = all.after.empty() ? 0 : 0.1 * bounds.size().x;
        auto moved = transformed(Value(flat->mesh),
                                 moved_by({right + (all.after.empty() ? 0 : gap - bounds.low.x), 0, 0}));
        if (!moved) return moved.error();
        all.after.push_back(std::get<Mesh>(*std::move(moved)));
        right = all.after.back().bounds().high.x;
        all.before.push_back(std::move(sheet));
        all.stretch = std::max(all.stretch, flat->most_stretch);
        all.squeeze = std::min(all.squeeze, flat->most_squeeze);
        all.folded += flat->folded;
    }
    return all;
}

std::string share_text(double share) {
    return short_text(std::abs(share) < 5e-8 ? 0 : 100 * share, 3) + " %";
}

void remark_stretch(const Unrolled& all, const Run& run) {
    // As far as sampling tells it.
    if (all.stretch < 1e-6 && all.squeeze > -1e-6)
        run.remark("It unrolls without any stretch.");
    else
        run.remark("Lengths grow by up to " + share_text(all.stretch) + " and shrink by up to " +
                   share_text(-all.squeeze) + ": see stretch and squeeze.");
    if (all.folded > 0)
        run.remark_loss(count_text(all.folded, "face lies", "faces lie") +
                        " upside down: it bends too much to be laid out in one piece.");
}

// Where what lies over a sheet comes to lie over the flat one.
struct Carried {
    Vec3 place;
    double beside = 0;  // how far along it, where it lies beyond a rim
    double distance = 0;
};
using Carry = std::function<Carried(Vec3)>;

// Between two meshes of the same triangles, which have to outlive it.
Carry face_by_face(const Mesh& from, const Mesh& to) {
    const auto tree = std::make_shared<const TriangleTree>(from);
    const auto triangles = std::make_shared<const FaceTriangles>(from);
    return [&from, &to, tree, triangles](Vec3 place) {
        const PlaceOnMesh on = tree->nearest(place);
        const Vec3 normal = unit_or_zero(area_vector(from, on.face)), off = place - on.place;
        const double height = dot(off, normal);
        const Vec3 found = triangles->shares_at(on.face, on.place).read([&](std::uint32_t vertex) {
            return to.vertex(vertex);
        });
        return Carried{found + Vec3{0, 0, height}, length(off - normal * height), on.distance};
    };
}

// By the parameters of an exact surface, between the lines it was laid out by.
Carry by_parameters(const Sheet& sheet, const Mesh& to) {
    const auto search = std::make_shared<const SurfaceSearch>(*sheet.patch);
    return [search, to, u = sheet.u, v = sheet.v](Vec3 place) {
        const PlaceOnSurface on = search->nearest(place);
        const Vec3 normal = search->normal(on), off = place - on.place;
        const double height = dot(off, normal);
        const auto cell = [](const std::vector<double>& lines, double at) {
            const auto next = static_cast<std::size_t>(std::ranges::upper_bound(lines, at) - lines.begin());
            return std::clamp<std::size_t>(next, 1, lines.size() - 1) - 1;
        };
        const std::size_t a = cell(u, on.u), b = cell(v, on.v), row = u.size();
        const double s = (on.u - u[a]) / (u[a + 1] - u[a]), t = (on.v - v[b]) / (v[b + 1] - v[b]);
        const Vec3 low = to.vertex(a + row * b) * (1 - s) + to.vertex(a + 1 + row * b) * s,
                   high = to.vertex(a + row * (b + 1)) * (1 - s) + to.vertex(a + 1 + row * (b + 1)) * s;
        return Carried{low * (1 - t) + high * t + Vec3{0, 0, height}, length(off - normal * height),
                       std::abs(on.distance)};
    };
}

Result<Value> with_it(const Unrolled& all, const Inputs& in, const Run& run) {
    std::vector<Carry> sheets;
    Box before;
    for (std::size_t sheet = 0; sheet < all.before.size(); ++sheet) {
        const Sheet& from = all.before[sheet];
        sheets.push_back(from.patch ? by_parameters(from, all.after[sheet])
                                    : face_by_face(from.mesh, all.after[sheet]));
        before.include(from.mesh.bounds());
    }
    const double size = before.diagonal();
    const ThingMap map{[&](Vec3 place) -> std::optional<Vec3> {
                           std::optional<Carried> best;
                           for (const Carry& sheet : sheets) {
                               const Carried here = sheet(place);
                               if (!best || here.distance < best->distance) best = here;
                           }
                           // Beside a chord of a rim there may be a little of the surface.
                           if (best->beside > 2e-3 * size) return {};
                           return best->place;
                       },
                       size, "lies beside the form", "Pull it onto the form, or keep what lies on it."};
    return mapped_thing(in.value("thing"), map, in, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto all = unrolled(in, run);
    if (!all) return all.error();
    remark_stretch(*all, run);
    if (in.word("take") == "thing") return with_it(*all, in, run);
    return as_value(joined(all->after));
}

Estimate estimate(const Inputs& in) {
    double corners = 0;
    if (const auto* set = std::get_if<SurfaceSet>(&in.value("form")))
        for (const SplinePatch& patch : set->patches)
            corners += 4.0 * std::max<double>(static_cast<double>(surface_quads),
                                              static_cast<double>(patch.x().size()));
    else
        corners = static_cast<double>(in.held<Mesh>("form").corner_count());
    Estimate all{corners * 700, corners * 5e-5};
    if (in.word("take") == "thing") {
        const Estimate mapped = mapped_estimate(in.value("thing"), 3e-6, 200);
        all.bytes += mapped.bytes;
        all.seconds += mapped.seconds;
    }
    return all;
}

}  // namespace

StepKind unroll() {
    return {
        .key = "thing.unroll",
        .verb = "Unroll flat",
        .synonyms = "flatten unfold develop developable pattern cutting lay out stretch conformal nest sheet",
        .sentence =
            "Unroll {form} onto the ground plane, keeping {keeping}, and take {take}[take=thing| {thing}].",
        .slots = {reference_slot("form", "Form", {Kind::surface, Kind::mesh}),
                  choice_slot("keeping", "Keeping",
                              {{"lengths", "lengths as well as can be", "of cloth, sheet metal, plywood"},
                               {"angles", "angles as well as can be", "of patterns; lengths differ more"}}),
                  choice_slot("take", "Take",
                              {{"sheet", "the flat sheet", "with stretch and squeeze on its faces"},
                               {"thing", "what lies on it,", "carried along face by face"}}),
                  reference_slot("thing", "Thing", mapped_kinds())},
        .results = {Kind::mesh, Kind::curves, Kind::points, Kind::field, Kind::bodies, Kind::placements,
                    Kind::directions},
        .result_name = "unrolled",
        .help =
            "A surface or mesh laid out flat: what can be unrolled without any stretch, of everything else "
            "lengths or angles are kept as well as can be, and by what share lengths grow and shrink is a "
            "number of each face. Closed surfaces open at their seam; pieces lie side by side.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
