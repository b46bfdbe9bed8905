#include "core/geometry/solids/bodies.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/sum.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"

namespace plume {
namespace {

// Of the size, as far as places are told apart.
constexpr double hardly_apart = 1e-9;

Error no_volume() {
    return {ErrorCode::too_few_points, "", "This encloses no volume",
            "Give it a thickness in every direction."};
}

bool is_nothing(double volume, double size) {
    return !(std::abs(volume) > 1e-15 * size * size * size) || !std::isfinite(volume);
}

// Volume and centroid by the cones of triangles from a place amid them.
BodyFigures figures_of(const Mesh& mesh) {
    const Vec3 middle = mesh.bounds().centre();
    Sum volume, area, x, y, z;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Vec3 p = mesh.vertex(corners[a]) - middle, q = mesh.vertex(corners[b]) - middle,
                       r = mesh.vertex(corners[c]) - middle;
            const double cone = dot(p, cross(q, r)) / 6;
            const Vec3 moment = (p + q + r) * (cone / 4);
            volume.add(cone);
            area.add(length(cross(q - p, r - p)) / 2);
            x.add(moment.x);
            y.add(moment.y);
            z.add(moment.z);
        });
    }
    const Vec3 moment{x.value(), y.value(), z.value()};
    return {volume.value(), area.value(), middle + moment * (1 / volume.value())};
}

Mesh turned_over(const Mesh& mesh) {
    Mesh::Parts parts{mesh.x(), mesh.y(), mesh.z(), {0}, {}, mesh.fields(), mesh.part_starts()};
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        parts.corners.insert(parts.corners.end(), corners.rbegin(), corners.rend());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    return *Mesh::make(std::move(parts));
}

Error gaps_error(const Mesh& mesh, const std::vector<std::pair<std::uint32_t, std::uint32_t>>& open) {
    const Vec3 at = (mesh.vertex(open.front().first) + mesh.vertex(open.front().second)) * 0.5;
    return {ErrorCode::has_gaps, "",
            "is not closed: " + grouped_text(static_cast<std::int64_t>(open.size())) +
                (open.size() == 1 ? " edge is open, at " : " edges are open, the first at ") +
                short_text(at.x) + ", " + short_text(at.y) + ", " + short_text(at.z),
            "Cap its open ends, or join what closes it."};
}

// Parameters of a direction: its knots and `parts` - 1 places between two; a closed one ends before its seam.
std::vector<double> lines_along(const SplineBasis& basis, int parts) {
    const std::vector<double> breaks = knot_breaks(basis);
    std::vector<double> lines;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        for (int part = 0; part < parts; ++part)
            lines.push_back(std::lerp(breaks[bay], breaks[bay + 1], static_cast<double>(part) / parts));
    if (!basis.closed) lines.push_back(breaks.back());
    return lines;
}

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
    const auto lines_u = lines_along(patch.u(), 2), lines_v = lines_along(patch.v(), 2);
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
    const auto breaks = lines_along(basis_along(patch, 1 - direction), 2);
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

double sagitta(const SplineCurve& curve) {
    const std::vector<double> breaks = knot_breaks(curve.basis());
    const auto place = [&](double parameter) { return evaluate(curve, parameter).position; };
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

// Beside trims every curved direction has as many pieces as they have: walls are parts of them.
Density beside_trims(const std::vector<SplinePatch>& patches, double within, std::size_t target) {
    double worst = 0, bays = 0;
    for (const SplinePatch& patch : patches) {
        if (!patch.trimmed()) {
            bays += bays_along(patch.u()) * bays_along(patch.v());
            worst = std::max({worst, sagitta(patch, 0), sagitta(patch, 1)});
        } else if (is_parallelogram(patch)) {
            for (const SplineCurve& trim : patch.trims())
                worst = std::max(worst, sagitta(trim_in_space(patch, trim)));
        }
    }
    const double affordable = std::floor(static_cast<double>(target) / std::max(bays, 1.0));
    return Density(
        static_cast<int>(std::clamp(std::min(std::ceil(std::sqrt(worst / within)), affordable), 1.0, 64.0)));
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

Result<Mesh> trimmed_mesh(const SplinePatch& patch, const Density& density, const Run& run) {
    std::vector<double> u, v;
    if (!is_parallelogram(patch)) {
        u = lines_along(patch.u(), density.of(patch.u()));
        v = lines_along(patch.v(), density.of(patch.v()));
    }
    const auto domain = trimmed_domain(patch, density.on_trims(), u, v, run);
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
    for (const auto& triangle : domain->triangles) {
        parts.corners.insert(parts.corners.end(), triangle.begin(), triangle.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    return Mesh::make(std::move(parts));
}

Result<Mesh> mesh_of(const SplinePatch& patch, const Density& density, const Run& run) {
    if (patch.trimmed()) return trimmed_mesh(patch, density, run);
    const auto samples = sample_on(patch, sample_lines_at(lines_along(patch.u(), density.of(patch.u()))),
                                   sample_lines_at(lines_along(patch.v(), density.of(patch.v()))), run);
    if (!samples) return samples.error();
    return mesh_of(*samples);
}

constexpr std::uint32_t no_number = 0xffffffff;
using Faces = std::vector<std::size_t>;

// The faces that hang together by vertices, piece by piece.
std::vector<Faces> pieces_of(const Mesh& mesh) {
    std::vector<std::uint32_t> root(mesh.vertex_count());
    std::iota(root.begin(), root.end(), 0U);
    const auto find = [&](std::uint32_t at) {
        while (root[at] != at)
            at = root[at] = root[root[at]];
        return at;
    };
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t corner : mesh.face(face))
            root[find(corner)] = find(mesh.face(face)[0]);
    std::vector<std::uint32_t> number(mesh.vertex_count(), no_number);
    std::vector<Faces> pieces;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        std::uint32_t& piece = number[find(mesh.face(face)[0])];
        if (piece == no_number) {
            piece = static_cast<std::uint32_t>(pieces.size());
            pieces.emplace_back();
        }
        pieces[piece].push_back(face);
    }
    return pieces;
}

// Some faces with the vertices they use; parts that have faces among them stay parts. `number` is one a
// vertex, all of them no_number before and after.
Mesh with_faces(const Mesh& mesh, const Faces& faces, std::vector<std::uint32_t>& number) {
    std::vector<std::size_t> kept;
    Mesh::Parts parts;
    std::size_t part = mesh.part_count();
    for (const std::size_t face : faces) {
        if (mesh.part_of(face) != part) {
            part = mesh.part_of(face);
            parts.part_starts.push_back(static_cast<std::uint32_t>(parts.first.size() - 1));
        }
        for (const std::uint32_t corner : mesh.face(face)) {
            if (number[corner] == no_number) {
                number[corner] = static_cast<std::uint32_t>(kept.size());
                kept.push_back(corner);
            }
            parts.corners.push_back(number[corner]);
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    for (const std::size_t corner : kept)
        number[corner] = no_number;
    parts.x = gathered(mesh.x(), kept);
    parts.y = gathered(mesh.y(), kept);
    parts.z = gathered(mesh.z(), kept);
    parts.fields = gathered(mesh.fields(), kept);
    return *Mesh::make(std::move(parts));
}

// Whether a place is inside of a closed mesh: a line upwards leaves it more often than it enters.
bool contains(const Mesh& mesh, Vec3 place) {
    int turns = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Vec3 p = mesh.vertex(corners[a]) - place, q = mesh.vertex(corners[b]) - place,
                       r = mesh.vertex(corners[c]) - place;
            const double pq = p.x * q.y - p.y * q.x, qr = q.x * r.y - q.y * r.x, rp = r.x * p.y - r.y * p.x;
            const double area = pq + qr + rp;
            if (area == 0 || (pq < 0) != (area < 0) || (qr < 0) != (area < 0) || (rp < 0) != (area < 0))
                return;
            if ((qr * p.z + rp * q.z + pq * r.z) / area > 0) turns += area > 0 ? 1 : -1;
        });
    }
    return turns > 0;
}

}  // namespace

std::vector<std::pair<std::uint32_t, std::uint32_t>> open_edges(const Mesh& mesh) {
    // Edges are kept with the corner they start from: from each few do.
    std::vector<std::uint32_t> first(mesh.vertex_count() + 1, 0), ends(mesh.corner_count());
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t corner : mesh.face(face))
            ++first[corner + 1];
    std::partial_sum(first.begin(), first.end(), first.begin());
    std::vector<std::uint32_t> filled(first.begin(), first.end() - 1);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for (std::size_t at = 0; at < corners.size(); ++at)
            ends[filled[corners[at]]++] = corners[(at + 1) % corners.size()];
    }
    const auto count = [&](std::uint32_t from, std::uint32_t to) {
        return std::count(ends.begin() + first[from], ends.begin() + first[from + 1], to);
    };
    std::vector<std::pair<std::uint32_t, std::uint32_t>> open;
    for (std::uint32_t from = 0; from < mesh.vertex_count(); ++from)
        for (std::uint32_t at = first[from]; at < first[from + 1]; ++at)
            if (count(from, ends[at]) != count(ends[at], from)) open.emplace_back(from, ends[at]);
    return open;
}

Result<Body> exact_body(std::vector<SplinePatch> patches, const Run& run) {
    Box box;
    for (const SplinePatch& patch : patches)
        box.include(poles_box(patch));
    const Vec3 middle = box.centre();
    BodyFigures figures;
    Vec3 moment;
    for (const SplinePatch& patch : patches) {
        const auto one = figures_of(patch, middle, run);
        if (!one) return one.error();
        figures.volume += one->volume;
        figures.area += one->area;
        moment = moment + one->moment;
    }
    if (is_nothing(figures.volume, box.diagonal())) return no_volume();
    figures.centroid = middle + moment * (1 / figures.volume);
    if (figures.volume < 0) {
        figures.volume = -figures.volume;
        for (SplinePatch& patch : patches)
            patch = reversed(patch, 0);
    }
    return Body(std::move(patches), figures);
}

Result<Body> meshed_body(Mesh mesh) {
    if (const auto open = open_edges(mesh); !open.empty()) return gaps_error(mesh, open);
    BodyFigures figures = figures_of(mesh);
    if (is_nothing(figures.volume, mesh.bounds().diagonal())) return no_volume();
    if (figures.volume < 0) {
        mesh = turned_over(mesh);
        figures.volume = -figures.volume;
    }
    return Body(std::move(mesh), figures);
}

Result<SolidSet> bodies_of(const Mesh& closed, const Run& run) {
    if (const auto open = open_edges(closed); !open.empty()) return gaps_error(closed, open);
    const std::vector<Faces> pieces = pieces_of(closed);
    std::vector<std::uint32_t> number(closed.vertex_count(), no_number);
    std::vector<Mesh> outer, hollows;
    for (const Faces& piece : pieces) {
        if (run.cancelled()) return cancelled_error();
        Mesh mesh = pieces.size() == 1 ? closed : with_faces(closed, piece, number);
        const bool hollow = pieces.size() > 1 && figures_of(mesh).volume < 0;
        (hollow ? hollows : outer).push_back(std::move(mesh));
    }
    // All turned inwards: bodies with their faces the wrong way round.
    if (outer.empty()) outer.swap(hollows);
    std::vector<std::vector<Mesh>> shells;
    shells.reserve(outer.size());
    for (Mesh& mesh : outer)
        shells.push_back({std::move(mesh)});
    for (Mesh& hollow : hollows) {
        const auto around = std::ranges::find_if(
            shells, [&](const auto& body) { return contains(body.front(), hollow.vertex(0)); });
        if (around == shells.end())
            shells.push_back({std::move(hollow)});
        else
            around->push_back(std::move(hollow));
    }
    SolidSet set;
    for (const std::vector<Mesh>& body : shells) {
        Result<Mesh> whole = joined(body);
        if (!whole) return whole.error();
        Result<Body> made = meshed_body(*std::move(whole));
        if (!made) return made.error();
        set.bodies.push_back(*std::move(made));
    }
    return set;
}

Result<Mesh> closed_mesh(const Body& body, std::size_t target, const Run& run) {
    if (!body.exact()) return body.mesh();
    const Density density = density_of(body.patches(), target);
    std::vector<Mesh> meshes;
    for (const SplinePatch& patch : body.patches()) {
        Result<Mesh> mesh = mesh_of(patch, density, run);
        if (!mesh) return mesh;
        meshes.push_back(*std::move(mesh));
    }
    Result<Mesh> whole = joined(meshes);
    if (!whole) return whole;
    Mesh mesh = welded(*whole, hardly_apart * whole->bounds().diagonal());
    if (const auto open = open_edges(mesh); !open.empty()) return gaps_error(mesh, open);
    return mesh;
}

Result<Mesh> mesh_of(const SolidSet& set, std::size_t target, const Run& run) {
    std::vector<Mesh> meshes;
    for (const Body& body : set.bodies) {
        Result<Mesh> mesh = closed_mesh(body, target / set.bodies.size() + 1, run);
        if (!mesh) return mesh;
        Mesh::Parts whole{mesh->x(), mesh->y(), mesh->z(), {0}, {}, mesh->fields(), {}};
        for (std::size_t face = 0; face < mesh->face_count(); ++face) {
            const auto corners = mesh->face(face);
            whole.corners.insert(whole.corners.end(), corners.begin(), corners.end());
            whole.first.push_back(static_cast<std::uint32_t>(whole.corners.size()));
        }
        meshes.push_back(*Mesh::make(std::move(whole)));
    }
    return joined(meshes);
}

}  // namespace plume
