#include "core/geometry/solids/body_mesh.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numeric>
#include <span>

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"

namespace plume {
namespace {

// Of the size, as far as places are told apart.
constexpr double hardly_apart = 1e-9;

SampleLines sample_lines_at(std::vector<double> parameters) {
    SampleLines lines;
    lines.at_node.assign(parameters.size(), 1);
    lines.parameters = std::move(parameters);
    return lines;
}

// Straight along one direction, but turning along it: its quads are not flat.
bool is_twisted(const SplinePatch& patch) {
    if (is_parallelogram(patch)) return false;
    const PatchEvaluator evaluator(patch);
    const auto lines_u = knot_lines(patch.u(), 2), lines_v = knot_lines(patch.v(), 2);
    for (const int direction : {0, 1}) {
        if (basis_along(patch, direction).degree > 1) continue;
        for (const double across : direction == 0 ? lines_v : lines_u) {
            Vec3 before;
            for (const double along : direction == 0 ? lines_u : lines_v) {
                const Vec3 normal =
                    normal_at(evaluator, patch.u(), patch.v(), direction == 0 ? along : across,
                              direction == 0 ? across : along);
                if (length(before) > 0 && length(normal - before) > 1e-6) return true;
                before = normal;
            }
        }
    }
    return false;
}

// The knots of a basis on 0..1, whichever way it is run through, and its degree: what edges that meet share.
std::vector<double> spacing_of(const SplineBasis& basis) {
    const std::vector<double> breaks = knot_breaks(basis);
    std::vector<double> there, back;
    for (const double knot : breaks)
        there.push_back(std::round((knot - breaks.front()) / (breaks.back() - breaks.front()) * 1e9));
    std::transform(there.rbegin(), there.rend(), std::back_inserter(back),
                   [](double knot) { return 1e9 - knot; });
    std::vector<double> first = std::min(there, back);
    first.push_back(basis.degree);
    return first;
}

// Pieces between two knots. Directions that can share an edge have the same.
class Density {
public:
    Density(int trims, int most_pieces) : trims_(trims), most_pieces_(most_pieces) {}

    void want(const SplineBasis& basis, double pieces) {
        double& wanted = wanted_[spacing_of(basis)];
        wanted = std::max(wanted, pieces);
    }
    void scale(double share) { share_ = share; }
    bool is_scaled() const { return share_ < 1; }
    int of(const SplineBasis& basis) const {
        const auto found = wanted_.find(spacing_of(basis));
        if (found == wanted_.end()) return basis.degree == 1 ? 1 : trims_;
        return static_cast<int>(
            std::clamp(std::ceil(found->second * share_), 1.0, static_cast<double>(most_pieces_)));
    }
    int on_trims() const { return trims_; }

private:
    int trims_, most_pieces_;
    double share_ = 1;
    std::map<std::vector<double>, double> wanted_;
};

// How far the middles of bays stand off from their chords, at most, in one direction.
double sagitta(const SplinePatch& patch, int direction) {
    const PatchEvaluator evaluator(patch);
    const auto breaks = knot_lines(basis_along(patch, 1 - direction), 2);
    const std::vector<double> along = knot_breaks(basis_along(patch, direction));
    const auto place = [&](double here, double across) {
        return direction == 0 ? evaluator.at(here, across).position : evaluator.at(across, here).position;
    };
    double worst = 0;
    for (const double across : breaks)
        for (std::size_t bay = 0; bay + 1 < along.size(); ++bay) {
            const Vec3 chord = (place(along[bay], across) + place(along[bay + 1], across)) * 0.5;
            worst = std::max(worst, length(place(std::midpoint(along[bay], along[bay + 1]), across) - chord));
        }
    return worst;
}

// The same of a trim, where it runs over its patch.
double sagitta(const PatchEvaluator& patch, const SplineCurve& trim) {
    const std::vector<double> breaks = knot_breaks(trim.basis());
    const auto place = [&](double parameter) {
        const Vec3 at = evaluate(trim, parameter).position;
        return patch.at(at.x, at.y).position;
    };
    double worst = 0;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        worst = std::max(worst, length(place(std::midpoint(breaks[bay], breaks[bay + 1])) -
                                       (place(breaks[bay]) + place(breaks[bay + 1])) * 0.5));
    return worst;
}

// Of its size: how true the polygons of an exact body are, if that many suffice.
constexpr double polygon_share = 5e-5;

double bays_along(const SplineBasis& basis) {
    return static_cast<double>(knot_breaks(basis).size() - 1);
}

// What meshes are aimed at: how far they may be off, how many polygons they may have, in how many pieces a
// bay is cut at most; and whether it is measured how far they are off.
struct Aim {
    double within = 0;
    std::size_t most = 0;
    int most_pieces = 64;
    bool measured = false;
};

// What keeps within the aim; and as many, but no more than can be afforded.
double pieces_wanted(double sagitta, const Aim& aim) {
    return std::sqrt(sagitta / aim.within);
}
int pieces_for(double sagitta, const Aim& aim, double affordable) {
    return static_cast<int>(
        std::clamp(std::min(std::ceil(pieces_wanted(sagitta, aim)), std::floor(affordable)), 1.0,
                   static_cast<double>(aim.most_pieces)));
}

// Beside trims every curved direction has as many pieces as they have: walls are parts of them.
Density beside_trims(const std::vector<SplinePatch>& patches, const Aim& aim) {
    double worst = 0, bays = 0;
    for (const SplinePatch& patch : patches) {
        if (!patch.trimmed()) {
            bays += bays_along(patch.u()) * bays_along(patch.v());
            worst = std::max({worst, sagitta(patch, 0), sagitta(patch, 1)});
            continue;
        }
        const PatchEvaluator evaluator(patch);
        for (const SplineCurve& trim : patch.trims())
            worst = std::max(worst, sagitta(evaluator, trim));
    }
    return {pieces_for(worst, aim, static_cast<double>(aim.most) / std::max(bays, 1.0)), aim.most_pieces};
}

double usual_within(const std::vector<SplinePatch>& patches) {
    Box box;
    for (const SplinePatch& patch : patches)
        box.include(poles_box(patch));
    return polygon_share * box.diagonal();
}

Density density_of(const std::vector<SplinePatch>& patches, const Aim& aim) {
    if (std::ranges::any_of(patches, &SplinePatch::trimmed)) return beside_trims(patches, aim);
    Density density(1, aim.most_pieces);
    const bool twisted = std::ranges::any_of(patches, is_twisted);
    for (const SplinePatch& patch : patches)
        for (const int direction : {0, 1}) {
            const SplineBasis& basis = basis_along(patch, direction);
            if (basis.degree > 1)
                density.want(basis, pieces_wanted(sagitta(patch, direction), aim));
            else
                density.want(basis, twisted ? 4 : 1);
        }
    double polygons = 0;
    for (const SplinePatch& patch : patches)
        polygons +=
            bays_along(patch.u()) * density.of(patch.u()) * bays_along(patch.v()) * density.of(patch.v());
    if (polygons > static_cast<double>(aim.most))
        density.scale(std::sqrt(static_cast<double>(aim.most) / polygons));
    return density;
}

// Inside of its trims a patch has no edge that another one shares: it is as fine as it needs itself.
// As many lines in both directions: between a trim and a place far from it triangles would leave the surface.
std::array<std::vector<double>, 2> lines_inside(const SplinePatch& patch, const Aim& aim) {
    if (is_parallelogram(patch)) return {};
    const double affordable = std::sqrt(static_cast<double>(aim.most));
    double lines = 1;
    for (const int direction : {0, 1}) {
        const double bays = bays_along(basis_along(patch, direction));
        lines = std::max(lines, bays * pieces_for(sagitta(patch, direction), aim, affordable / bays));
    }
    std::array<std::vector<double>, 2> inside;
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        inside[static_cast<std::size_t>(direction)] =
            knot_lines(basis, static_cast<int>(std::ceil(lines / bays_along(basis))));
    }
    return inside;
}

// How far the middles of triangles and of their sides are from the patch. The domain's places are the mesh's
// vertices.
double deviation(const SplinePatch& patch, const TrimmedDomain& domain, const Mesh& mesh) {
    const PatchEvaluator evaluator(patch);
    double worst = 0;
    const auto look = [&](std::span<const std::uint32_t> corners) {
        TrimmedDomain::Place middle;
        Vec3 mean;
        const double share = 1 / static_cast<double>(corners.size());
        for (const std::uint32_t corner : corners) {
            const TrimmedDomain::Place at = domain.places[corner];
            middle = {middle.u + at.u * share, middle.v + at.v * share};
            mean = mean + mesh.vertex(corner) * share;
        }
        worst = std::max(worst, length(evaluator.at(middle.u, middle.v).position - mean));
    };
    for (const std::array<std::uint32_t, 3>& triangle : domain.triangles) {
        look(triangle);
        for (std::size_t side = 0; side < triangle.size(); ++side)
            look(std::array{triangle[side], triangle[(side + 1) % triangle.size()]});
    }
    return worst;
}

// Of the quads between lines of parameters, whichever diagonal parts them.
double deviation(const SplinePatch& patch, std::vector<double> u, std::vector<double> v) {
    // Closed directions go on over their seam.
    if (patch.u().closed) u.push_back(patch.u().end());
    if (patch.v().closed) v.push_back(patch.v().end());
    const PatchEvaluator evaluator(patch);
    const auto place = [&](double at_u, double at_v) { return evaluator.at(at_u, at_v).position; };
    std::vector<Vec3> here, below;
    double worst = 0;
    for (std::size_t row = 0; row < v.size(); ++row, here.swap(below)) {
        here.clear();
        for (const double at : u)
            here.push_back(place(at, v[row]));
        const auto look = [&](Vec3 real, Vec3 a, Vec3 b) {
            worst = std::max(worst, length(real - (a + b) * 0.5));
        };
        for (std::size_t at = 0; at + 1 < u.size(); ++at) {
            const double middle_u = std::midpoint(u[at], u[at + 1]);
            look(place(middle_u, v[row]), here[at], here[at + 1]);
            if (row == 0) continue;
            const double middle_v = std::midpoint(v[row - 1], v[row]);
            look(place(u[at], middle_v), here[at], below[at]);
            const Vec3 middle = place(middle_u, middle_v);
            look(middle, here[at], below[at + 1]);
            look(middle, here[at + 1], below[at]);
        }
    }
    return worst;
}

// A mesh, and how far it is from what it stands for, where that was asked for.
struct Measured {
    Mesh mesh;
    double off = 0;
};

constexpr std::size_t most_polygons = 5'000'000;

Error too_fine_error() {
    return Error{ErrorCode::over_budget, "", "would need more than five million faces to be that true",
                 "Type a larger deviation."};
}

// Made finer by what it is found to be off, as squares go.
template <class Make>
Result<Mesh> until_within(double wanted, const Make& make, const Run& run) {
    constexpr int tries = 6;
    constexpr double surely = 0.8;
    double within = wanted;
    for (int turn = 0; turn < tries; ++turn) {
        if (run.cancelled()) return cancelled_error();
        Result<Measured> made = make(within);
        if (!made) return made.error();
        if (made->off <= wanted) return std::move(made->mesh);
        within *= surely * wanted / made->off;
    }
    return too_fine_error();
}

// Whether lines inside of trims are as many as are needed.
bool is_affordable(const SplinePatch& patch, const Aim& aim) {
    const double most = std::sqrt(static_cast<double>(aim.most));
    return std::ranges::all_of(std::array{0, 1}, [&](int direction) {
        const double pieces = pieces_wanted(sagitta(patch, direction), aim);
        return pieces <= aim.most_pieces && pieces * bays_along(basis_along(patch, direction)) <= most;
    });
}

Result<Measured> trimmed_mesh(const SplinePatch& patch, const Density& density, const Aim& aim,
                              const Run& run) {
    if (aim.measured && !is_affordable(patch, aim)) return too_fine_error();
    const auto [u, v] = lines_inside(patch, aim);
    const auto domain =
        trimmed_domain(patch, std::vector<int>(patch.trims().size(), density.on_trims()), u, v, run);
    if (!domain) return domain.error();
    const PatchEvaluator evaluator(patch);
    Doubles x, y, z;
    for (const auto& [at, along_u, along_v] : points_of(*domain, evaluator)) {
        x.push_back(at.x);
        y.push_back(at.y);
        z.push_back(at.z);
    }
    Mesh::Parts parts{std::move(x), std::move(y), std::move(z), {0}, {}, {}, {}};
    for (std::size_t field = 0; field < patch.fields().size(); ++field) {
        Doubles numbers;
        for (const TrimmedDomain::Place& place : domain->places)
            numbers.push_back(evaluator.field_at(field, place.u, place.v));
        parts.fields.push_back(
            {patch.fields()[field].name, std::move(numbers), patch.fields()[field].dimension});
    }
    for (const auto& triangle : domain->triangles) {
        parts.corners.insert(parts.corners.end(), triangle.begin(), triangle.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    auto mesh = Mesh::make(std::move(parts));
    if (!mesh) return mesh.error();
    const double off = aim.measured ? deviation(patch, *domain, *mesh) : 0;
    return Measured{*std::move(mesh), off};
}

Result<Measured> grid_mesh(const SplinePatch& patch, const std::vector<double>& u,
                           const std::vector<double>& v, bool measured, const Run& run) {
    const auto samples = sample_on(patch, sample_lines_at(u), sample_lines_at(v), run);
    if (!samples) return samples.error();
    auto mesh = mesh_of(*samples);
    if (!mesh) return mesh.error();
    return Measured{*std::move(mesh), measured ? deviation(patch, u, v) : 0};
}

Result<Measured> mesh_of(const SplinePatch& patch, const Density& density, const Aim& aim, const Run& run) {
    if (patch.trimmed()) return trimmed_mesh(patch, density, aim, run);
    return grid_mesh(patch, knot_lines(patch.u(), density.of(patch.u())),
                     knot_lines(patch.v(), density.of(patch.v())), aim.measured, run);
}

// What is asked for by numbers of polygons looks smooth.
Aim usual_aim(const std::vector<SplinePatch>& patches, std::size_t polygons) {
    return {usual_within(patches), polygons};
}
Aim measured_aim(double within) {
    constexpr int most_pieces = 4096;
    return {within, most_polygons, most_pieces, true};
}

// By itself, without neighbours that share its edges.
Result<Mesh> surface_mesh(const SplinePatch& patch, std::size_t target, const Run& run) {
    if (patch.trimmed()) {
        const Aim aim = usual_aim({patch}, target);
        auto made = trimmed_mesh(patch, density_of({patch}, aim), aim, run);
        if (!made) return made.error();
        return std::move(made->mesh);
    }
    const auto samples = sample(patch, samples_per_bay(patch, target), run);
    if (!samples) return samples.error();
    return mesh_of(*samples);
}

Result<Mesh> surface_mesh_within(const SplinePatch& patch, double wanted, const Run& run) {
    if (patch.trimmed())
        return until_within(
            wanted,
            [&](double within) {
                const Aim aim = measured_aim(within);
                return trimmed_mesh(patch, density_of({patch}, aim), aim, run);
            },
            run);
    // At first a quad a bay, then as many more as that is off.
    return until_within(
        wanted,
        [&](double within) -> Result<Measured> {
            const double pieces = std::ceil(std::sqrt(wanted / within));
            const double quads = static_cast<double>(bays_of(patch.u())) * pieces *
                                 static_cast<double>(bays_of(patch.v())) * pieces;
            if (!(quads <= static_cast<double>(most_polygons))) return too_fine_error();
            return grid_mesh(patch, sample_lines(patch.u(), static_cast<int>(pieces), 1).parameters,
                             sample_lines(patch.v(), static_cast<int>(pieces), 1).parameters, true, run);
        },
        run);
}

// Its patches on common lines, joined.
Result<Measured> body_mesh(const Body& body, const Aim& aim, const Run& run) {
    const Density density = density_of(body.patches(), aim);
    if (aim.measured && density.is_scaled()) return too_fine_error();
    std::vector<Mesh> meshes;
    double off = 0;
    for (const SplinePatch& patch : body.patches()) {
        Aim own = aim;
        own.most = aim.most / body.patches().size() + 1;
        // Edges are shared; inside of trims each is as true as its own size asks for.
        if (!aim.measured) own.within = usual_within({patch});
        Result<Measured> one = mesh_of(patch, density, own, run);
        if (!one) return one.error();
        off = std::max(off, one->off);
        meshes.push_back(std::move(one->mesh));
    }
    Result<Mesh> whole = joined(meshes);
    if (!whole) return whole.error();
    Mesh mesh = welded(*whole, std::max(hardly_apart * whole->bounds().diagonal(), 2 * body.edges_within()));
    if (const auto open = open_edges(mesh); !open.empty()) return open_edges_error(mesh, open);
    return Measured{std::move(mesh), off};
}

}  // namespace

Result<Mesh> mesh_of(const SurfaceSet& set, const Fineness& fineness, const Run& run) {
    std::vector<Mesh> meshes;
    for (const SplinePatch& patch : set.patches) {
        Result<Mesh> mesh = fineness.within > 0
                                ? surface_mesh_within(patch, fineness.within, run)
                                : surface_mesh(patch, fineness.about / set.patches.size(), run);
        if (!mesh) return mesh;
        meshes.push_back(*std::move(mesh));
    }
    return joined(meshes);
}

Result<Mesh> closed_mesh(const Body& body, const Fineness& fineness, const Run& run) {
    if (body.mesh_besides()) return *body.mesh_besides();
    if (fineness.within > 0)
        return until_within(
            fineness.within, [&](double within) { return body_mesh(body, measured_aim(within), run); }, run);
    auto made = body_mesh(body, usual_aim(body.patches(), fineness.about), run);
    if (!made) return made.error();
    return std::move(made->mesh);
}

Result<Mesh> mesh_of(const SolidSet& set, const Fineness& fineness, const Run& run) {
    Fineness of_each = fineness;
    of_each.about = fineness.about / std::max<std::size_t>(set.bodies.size(), 1) + 1;
    std::vector<Mesh> meshes;
    for (const Body& body : set.bodies) {
        Result<Mesh> mesh = closed_mesh(body, of_each, run);
        if (!mesh) return mesh;
        Mesh::Parts whole = mesh->parts();
        whole.part_starts.clear();
        meshes.push_back(*Mesh::make(std::move(whole)));
    }
    Result<Mesh> all = joined(meshes);
    if (!all || !set.marks) return all;
    return all->with_marks(set.marks->mark);
}

}  // namespace plume
