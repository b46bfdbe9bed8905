#include "core/geometry/levels/contours.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/overloaded.hpp"
#include "core/base/parallel.hpp"
#include "core/data/not_finite.hpp"
#include "core/geometry/curves/curve_chains.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/levels/level_lines.hpp"
#include "core/geometry/levels/mesh_levels.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"

namespace plume {
namespace {

// What faces are made of: a patch or a mesh with its number.
struct FaceMakers {
    std::function<std::optional<FaceToLevel>(const SplinePatch&)> of_patch;
    std::function<std::optional<FaceToLevel>(const Mesh&)> of_mesh;
};

// A lattice as a surface: through every point where that can be, or its facets.
Result<Value> surface_through(const PointLattice& lattice, const Run& run) {
    if (auto patch = interpolate_grid(lattice, run)) return Value(SurfaceSet{{*std::move(patch)}});
    if (run.cancelled()) return cancelled_error();
    return as_value(facets(lattice, FacetShape::triangles, run));
}

// Nothing where a face has no such number.
Result<std::optional<FormToLevel>> form_of(const Value& thing, const FaceMakers& make, const Run& run) {
    if (const PointLattice* lattice = lattice_of(thing)) {
        const auto surface = surface_through(*lattice, run);
        if (!surface) return surface.error();
        return form_of(*surface, make, run);
    }
    FormToLevel form;
    bool all = true;
    const auto add = [&](std::vector<FaceToLevel>& faces, std::optional<FaceToLevel> face) {
        all = all && face;
        if (face) faces.push_back(*std::move(face));
    };
    const auto add_patches = [&](const std::vector<SplinePatch>& patches) {
        std::vector<FaceToLevel>& faces = form.things.emplace_back();
        for (const SplinePatch& patch : patches)
            add(faces, make.of_patch(patch));
    };
    const auto add_mesh = [&](const Mesh& mesh) { add(form.things.emplace_back(), make.of_mesh(mesh)); };
    if (const auto* surface = std::get_if<SurfaceSet>(&thing)) add_patches(surface->patches);
    if (const auto* mesh = std::get_if<Mesh>(&thing)) add_mesh(*mesh);
    if (const auto* set = std::get_if<SolidSet>(&thing))
        for (const Body& body : set->bodies) {
            form.edges_within = std::max(form.edges_within, body.edges_within());
            if (body.exact())
                add_patches(body.patches());
            else
                add_mesh(body.mesh());
        }
    return all ? std::optional(std::move(form)) : std::nullopt;
}

const Field* field_called(const std::vector<Field>& fields, const std::string& name) {
    const auto found = std::ranges::find(fields, name, &Field::name);
    return found == fields.end() ? nullptr : &*found;
}

// All lines of one thing, by level.
using ByLevel = std::vector<std::vector<SplineCurve>>;

class Levelling {
public:
    Levelling(std::span<const double> levels, LineTruth truth, double edges_within, const Run& run)
        : levels_(levels), truth_(truth), edges_within_(edges_within), run_(run) {}

    Status add(const std::vector<FaceToLevel>& faces) {
        ByLevel lines(levels_.size());
        double within = edges_within_;
        for (const FaceToLevel& face : faces) {
            Status added =
                std::visit(Overloaded{[&](const PatchToLevel& one) { return add_patch(one, lines, within); },
                                      [&](const MeshToLevel& one) { return add_mesh(one, lines); }},
                           face);
            if (!added) return added;
        }
        for (std::size_t level = 0; level < lines.size(); ++level) {
            if (faces.size() > 1)
                if (Status joined = join(lines[level], within); !joined) return joined;
            for (SplineCurve& line : lines[level])
                made_.lines.push_back({std::move(line), level});
        }
        return Done{};
    }
    Contours made() {
        std::ranges::stable_sort(made_.lines, {}, &Contour::level);
        return std::move(made_);
    }

private:
    Status add_patch(const PatchToLevel& face, ByLevel& lines, double& within) {
        const double tolerance =
            truth_.distance > 0 ? truth_.distance : truth_.share * poles_box(face.patch).diagonal();
        // Lines of neighbours come to their common edge as near to it as both are true.
        within = std::max(within, edges_within_ + 4 * tolerance);
        auto found = level_lines(face.patch, face.function, levels_, tolerance, run_);
        if (!found) return found.error();
        made_.deviation = std::max(made_.deviation, found->deviation);
        made_.level_faces += found->level_bays;
        for (LevelLine& line : found->lines)
            lines[line.level].push_back(std::move(line.curve));
        return Done{};
    }
    Status add_mesh(const MeshToLevel& face, ByLevel& lines) {
        const auto found = mesh_levels(face.mesh, face.numbers.span(), levels_, run_);
        if (!found) return found.error();
        made_.level_faces += found->level_faces;
        made_.faces_without += found->faces_without;
        std::vector<std::optional<SplineCurve>> curves(found->count());
        const bool done = parallel_blocks(curves.size(), 64, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t line = begin; line < end; ++line)
                curves[line] = polyline(*found, line);
        });
        if (!done) return cancelled_error();
        for (std::size_t line = 0; line < curves.size(); ++line)
            if (curves[line]) lines[found->level[line]].push_back(*std::move(curves[line]));
        return Done{};
    }
    static std::optional<SplineCurve> polyline(const MeshLevels& found, std::size_t line) {
        CurvePoints points;
        const std::span<const Vec3> places = found.line(line);
        points.points.assign(places.begin(), places.end());
        points.closed = found.closed[line] != 0;
        auto curve = curve_through(std::move(points), CurveShape::straight);
        return curve ? std::optional(*std::move(curve)) : std::nullopt;
    }
    Status join(std::vector<SplineCurve>& lines, double within) const {
        auto chains = chained_end_to_end({std::move(lines)}, within, run_);
        if (!chains) return chains.error();
        lines = std::move(chains->set.curves);
        return Done{};
    }

    std::span<const double> levels_;
    LineTruth truth_;
    double edges_within_;
    const Run& run_;
    Contours made_;
};

}  // namespace

Result<FormToLevel> heights_of(const Value& thing, const Placement& plane, const Run& run) {
    auto form =
        form_of(thing,
                {[&](const SplinePatch& patch) {
                     return std::optional<FaceToLevel>(PatchToLevel{patch, heights_above(patch, plane)});
                 },
                 [&](const Mesh& mesh) {
                     Doubles heights(mesh.vertex_count());
                     for (std::size_t vertex = 0; vertex < heights.size(); ++vertex)
                         heights[vertex] = plane.to_local(mesh.vertex(vertex)).z;
                     return std::optional<FaceToLevel>(MeshToLevel{mesh, std::move(heights)});
                 }},
                run);
    if (!form) return form.error();
    (*form)->dimension = a_length;
    return **std::move(form);
}

Result<FormToLevel> numbers_of(const Value& thing, const std::string& number, const Run& run) {
    // No smooth surface goes through numbers that are none: on facets those around them are left out.
    if (const PointLattice* lattice = lattice_of(thing))
        if (const Field* field = lattice->field(number); field != nullptr && !all_finite(field->values)) {
            const auto faceted = facets(*lattice, FacetShape::triangles, run);
            if (!faceted) return faceted.error();
            return numbers_of(Value(*faceted), number, run);
        }
    Dimension dimension;
    const auto field_of = [&](const std::vector<Field>& fields) {
        const Field* const field = field_called(fields, number);
        if (field != nullptr) dimension = field->dimension;
        return field;
    };
    auto form = form_of(
        thing,
        {[&](const SplinePatch& patch) {
             const Field* const field = field_of(patch.fields());
             return field == nullptr
                        ? std::nullopt
                        : std::optional<FaceToLevel>(PatchToLevel{patch, as_function(patch, field->values)});
         },
         [&](const Mesh& mesh) {
             const Field* const field = field_of(mesh.fields());
             return field == nullptr ? std::nullopt
                                     : std::optional<FaceToLevel>(MeshToLevel{mesh, field->values});
         }},
        run);
    if (!form) return form.error();
    if (!*form)
        return Error{ErrorCode::out_of_range, "", "has no number called ‘" + number + "’",
                     "Choose a number that it carries."};
    (*form)->dimension = dimension;
    return **std::move(form);
}

std::optional<std::pair<double, double>> range_of(const FormToLevel& form) {
    FiniteRange range;
    for (const auto& faces : form.things)
        for (const FaceToLevel& face : faces) {
            if (const auto* mesh = std::get_if<MeshToLevel>(&face)) {
                range.include(mesh->numbers);
                continue;
            }
            const Box box = bounds_of(std::get<PatchToLevel>(face).function);
            range.least = std::min(range.least, box.low.x);
            range.most = std::max(range.most, box.high.x);
        }
    return range.empty() ? std::nullopt : std::optional(std::pair(range.least, range.most));
}

Result<Contours> contours_of(const FormToLevel& form, std::span<const double> levels, LineTruth truth,
                             const Run& run) {
    Levelling levelling(levels, truth, form.edges_within, run);
    for (const auto& faces : form.things)
        if (Status added = levelling.add(faces); !added) return added.error();
    return levelling.made();
}

}  // namespace plume
