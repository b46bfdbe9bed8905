#include "core/geometry/solids/body_mesh.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numeric>

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
    explicit Density(int trims) : trims_(trims) {}

    void want(const SplineBasis& basis, double pieces) {
        double& wanted = wanted_[spacing_of(basis)];
        wanted = std::max(wanted, pieces);
    }
    void scale(double share) { share_ = share; }
    int of(const SplineBasis& basis) const {
        const auto found = wanted_.find(spacing_of(basis));
        if (found == wanted_.end()) return basis.degree == 1 ? 1 : trims_;
        return static_cast<int>(std::clamp(std::ceil(found->second * share_), 1.0, 64.0));
    }
    int on_trims() const { return trims_; }

private:
    int trims_;
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

// As many pieces as keep within a tolerance, and no more than can be afforded.
int pieces_for(double sagitta, double within, double affordable) {
    return static_cast<int>(
        std::clamp(std::min(std::ceil(std::sqrt(sagitta / within)), std::floor(affordable)), 1.0, 64.0));
}

// Beside trims every curved direction has as many pieces as they have: walls are parts of them.
Density beside_trims(const std::vector<SplinePatch>& patches, double within, std::size_t target) {
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
    return Density(pieces_for(worst, within, static_cast<double>(target) / std::max(bays, 1.0)));
}

Density density_of(const std::vector<SplinePatch>& patches, std::size_t target) {
    Box box;
    for (const SplinePatch& patch : patches)
        box.include(poles_box(patch));
    const double within = polygon_share * box.diagonal();
    if (std::ranges::any_of(patches, &SplinePatch::trimmed)) return beside_trims(patches, within, target);
    Density density(1);
    const bool twisted = std::ranges::any_of(patches, is_twisted);
    for (const SplinePatch& patch : patches)
        for (const int direction : {0, 1}) {
            const SplineBasis& basis = basis_along(patch, direction);
            if (basis.degree > 1)
                density.want(basis, std::sqrt(sagitta(patch, direction) / within));
            else
                density.want(basis, twisted ? 4 : 1);
        }
    double polygons = 0;
    for (const SplinePatch& patch : patches)
        polygons +=
            bays_along(patch.u()) * density.of(patch.u()) * bays_along(patch.v()) * density.of(patch.v());
    if (polygons > static_cast<double>(target))
        density.scale(std::sqrt(static_cast<double>(target) / polygons));
    return density;
}

// Inside of its trims a patch has no edge that another one shares: it is as fine as it needs itself.
// As many lines in both directions: between a trim and a place far from it triangles would leave the surface.
std::array<std::vector<double>, 2> lines_inside(const SplinePatch& patch, double within, std::size_t target) {
    if (is_parallelogram(patch)) return {};
    const double affordable = std::sqrt(static_cast<double>(target));
    double lines = 1;
    for (const int direction : {0, 1}) {
        const double bays = bays_along(basis_along(patch, direction));
        lines = std::max(lines, bays * pieces_for(sagitta(patch, direction), within, affordable / bays));
    }
    std::array<std::vector<double>, 2> inside;
    for (const int direction : {0, 1}) {
        const SplineBasis& basis = basis_along(patch, direction);
        inside[static_cast<std::size_t>(direction)] =
            knot_lines(basis, static_cast<int>(std::ceil(lines / bays_along(basis))));
    }
    return inside;
}

Result<Mesh> trimmed_mesh(const SplinePatch& patch, const Density& density, std::size_t target,
                          const Run& run) {
    const double within = polygon_share * poles_box(patch).diagonal();
    const auto [u, v] = lines_inside(patch, within, target);
    const auto domain =
        trimmed_domain(patch, std::vector<int>(patch.trims().size(), density.on_trims()), u, v, run);
    if (!domain) return domain.error();
    const PatchEvaluator evaluator(patch);
    Doubles x, y, z;
    for (const TrimmedDomain::Place& place : domain->places) {
        const Vec3 at = evaluator.at(place.u, place.v).position;
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
    return Mesh::make(std::move(parts));
}

Result<Mesh> mesh_of(const SplinePatch& patch, const Density& density, std::size_t target, const Run& run) {
    if (patch.trimmed()) return trimmed_mesh(patch, density, target, run);
    const auto samples = sample_on(patch, sample_lines_at(knot_lines(patch.u(), density.of(patch.u()))),
                                   sample_lines_at(knot_lines(patch.v(), density.of(patch.v()))), run);
    if (!samples) return samples.error();
    return mesh_of(*samples);
}

// By itself, without neighbours that share its edges.
Result<Mesh> surface_mesh(const SplinePatch& patch, std::size_t target, const Run& run) {
    if (patch.trimmed()) return trimmed_mesh(patch, density_of({patch}, target), target, run);
    const auto samples = sample(patch, samples_per_bay(patch, target), run);
    if (!samples) return samples.error();
    return mesh_of(*samples);
}

}  // namespace

Result<Mesh> mesh_of(const SurfaceSet& set, std::size_t target, const Run& run) {
    std::vector<Mesh> meshes;
    for (const SplinePatch& patch : set.patches) {
        Result<Mesh> mesh = surface_mesh(patch, target / set.patches.size(), run);
        if (!mesh) return mesh;
        meshes.push_back(*std::move(mesh));
    }
    return joined(meshes);
}

Result<Mesh> closed_mesh(const Body& body, std::size_t target, const Run& run) {
    if (body.mesh_besides()) return *body.mesh_besides();
    const Density density = density_of(body.patches(), target);
    std::vector<Mesh> meshes;
    for (const SplinePatch& patch : body.patches()) {
        Result<Mesh> mesh = mesh_of(patch, density, target / body.patches().size() + 1, run);
        if (!mesh) return mesh;
        meshes.push_back(*std::move(mesh));
    }
    Result<Mesh> whole = joined(meshes);
    if (!whole) return whole;
    Mesh mesh = welded(*whole, std::max(hardly_apart * whole->bounds().diagonal(), 2 * body.edges_within()));
    if (const auto open = open_edges(mesh); !open.empty()) return open_edges_error(mesh, open);
    return mesh;
}

Result<Mesh> mesh_of(const SolidSet& set, std::size_t target, const Run& run) {
    std::vector<Mesh> meshes;
    for (const Body& body : set.bodies) {
        Result<Mesh> mesh = closed_mesh(body, target / set.bodies.size() + 1, run);
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
