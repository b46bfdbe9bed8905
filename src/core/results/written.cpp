#include "core/results/written.hpp"

#include <algorithm>

#include "core/base/overloaded.hpp"
#include "core/data/gathered.hpp"
#include "core/data/on_points.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"

namespace plume {
namespace {

// About this many quads for a surface: a chord error well under a millimetre on a roof of 36 m.
constexpr std::size_t usual_quads = 20'000;

Written facets(Mesh mesh) {
    Written written{WrittenForm::facets};
    written.facets = std::move(mesh);
    return written;
}

Fineness fineness_for(double within, std::size_t usual) {
    return within > 0 ? Fineness::to(within) : Fineness(usual);
}

Result<Written> facets_of(const SurfaceSet& set, double within, const Run& run) {
    Result<Mesh> mesh =
        set.patches.empty() ? Mesh::make({}) : mesh_of(set, fineness_for(within, usual_quads), run);
    if (!mesh) return mesh.error();
    Written written = facets(*std::move(mesh));
    written.smooth = true;
    return written;
}

// With the numbers of bodies on all faces of each.
Result<Written> facets_of(const SolidSet& set, double within, const Run& run) {
    Result<Mesh> mesh = mesh_of(set, fineness_for(within, usual_quads * set.bodies.size()), run);
    if (!mesh) return mesh.error();
    Mesh::Parts parts = mesh->parts();
    for (const Field& field : set.fields) {
        Doubles numbers(mesh->face_count());
        for (std::size_t body = 0; body < mesh->part_count(); ++body) {
            const Mesh::Faces faces = mesh->part(body);
            std::fill(numbers.data() + faces.begin, numbers.data() + faces.end, field.values[body]);
        }
        parts.face_fields.push_back({field.name, std::move(numbers), field.dimension});
    }
    mesh = Mesh::make(std::move(parts));
    if (!mesh) return mesh.error();
    Written written = facets(*std::move(mesh));
    written.plain_at_first = true;
    return written;
}

// Those that every line has, end to end.
std::vector<Field> shared_numbers(const std::vector<CurveSamples>& all) {
    std::vector<Field> numbers;
    for (std::size_t field = 0; !all.empty() && field < all.front().fields.size(); ++field) {
        const Field& first = all.front().fields[field];
        Doubles values;
        const bool everywhere = std::ranges::all_of(all, [&](const CurveSamples& samples) {
            const auto found = std::ranges::find(samples.fields, first.name, &Field::name);
            if (found == samples.fields.end()) return false;
            values.insert(values.end(), found->values.span().begin(), found->values.span().end());
            return true;
        });
        if (everywhere) numbers.push_back({first.name, std::move(values), first.dimension});
    }
    return numbers;
}

Written lines_of(const CurveSet& set, double within) {
    Written written{WrittenForm::lines};
    std::vector<CurveSamples> all;
    for (const SplineCurve& curve : set.curves) {
        all.push_back(sample(curve, within > 0 ? within : usual_tolerance(curve)));
        written.lines.push_back({all.back().points, all.back().closed});
    }
    written.numbers = shared_numbers(all);
    return written;
}

Written points_of(const PointLattice& lattice) {
    Written written{WrittenForm::points};
    std::vector<std::size_t> present;
    present.reserve(lattice.point_count());
    written.points.reserve(lattice.point_count());
    for (std::size_t index = 0; index < lattice.address_count(); ++index) {
        if (!lattice.present(index)) continue;
        present.push_back(index);
        written.points.push_back(lattice.point(index));
    }
    written.numbers =
        present.size() == lattice.address_count() ? lattice.fields() : gathered(lattice.fields(), present);
    return written;
}

Written points_of(const FieldOnPoints& item) {
    Written written = points_of(item.points);
    written.in_hand = item.name;
    return written;
}

Written bars_of(const BarFrame& frame) {
    Written written = points_of(frame.nodes());
    written.form = WrittenForm::bars;
    std::vector<std::uint32_t> number(frame.nodes().address_count(), 0);
    std::uint32_t next = 0;
    for (std::size_t node = 0; node < number.size(); ++node)
        number[node] = frame.nodes().present(node) ? next++ : 0;
    written.bars.reserve(frame.member_count());
    for (const Member& member : frame.members())
        written.bars.push_back({number[member.from], number[member.to]});
    written.numbers_of_bars = frame.fields();
    written.marks_of_bars = std::make_shared<const PartMarks>(PartMarks{
        frame.member_count(), [frame](std::size_t bar) { return member_mark(frame, frame.members()[bar]); }});
    return written;
}

// Those of curves are lines; of both, as none are made, the first points of paths.
bool are_paths(const Attractors& attractors) {
    return !attractors.items().empty() && std::ranges::all_of(attractors.items(), [](const Attractor& item) {
        return item.path != nullptr;
    });
}

WrittenLine line_of(const std::vector<Vec3>& path) {
    WrittenLine line{path, path.size() > 2 && path.front() == path.back()};
    if (line.closed) line.places.pop_back();
    return line;
}

Written written_attractors(const Attractors& attractors) {
    const bool paths = are_paths(attractors);
    Written written{paths ? WrittenForm::lines : WrittenForm::points};
    Doubles weights;
    for (const Attractor& item : attractors.items()) {
        if (paths)
            written.lines.push_back(line_of(*item.path));
        else
            written.points.push_back(item.position);
        weights.insert(weights.end(), paths ? written.lines.back().places.size() : 1, item.weight);
    }
    written.numbers.push_back({"weight", std::move(weights), plain_number});
    written.plain_at_first = true;
    return written;
}

// Coloured by what is chosen only.
Written plain(Written written) {
    written.plain_at_first = true;
    return written;
}

}  // namespace

std::string_view plain_name(WrittenForm form) {
    switch (form) {
        case WrittenForm::nothing:
            return "nothing that has a place";
        case WrittenForm::points:
            return "points";
        case WrittenForm::lines:
            return "curves";
        case WrittenForm::bars:
            return "bars";
        case WrittenForm::facets:
            return "faces";
    }
    return "";
}

WrittenForm form_of(const Value& value) {
    return std::visit(Overloaded{[](const PointLattice&) { return WrittenForm::points; },
                                 [](const OnPoints auto&) { return WrittenForm::points; },
                                 [](const Placements&) { return WrittenForm::points; },
                                 [](const Attractors& item) {
                                     return are_paths(item) ? WrittenForm::lines : WrittenForm::points;
                                 },
                                 [](const Mesh&) { return WrittenForm::facets; },
                                 [](const SurfaceSet&) { return WrittenForm::facets; },
                                 [](const SolidSet&) { return WrittenForm::facets; },
                                 [](const CurveSet&) { return WrittenForm::lines; },
                                 [](const BarFrame&) { return WrittenForm::bars; },
                                 [](const Quantity&) { return WrittenForm::nothing; },
                                 [](const Delivery&) { return WrittenForm::nothing; }},
                      value);
}

bool is_exact(const Value& value) {
    if (const auto* set = std::get_if<SolidSet>(&value))
        return std::ranges::any_of(set->bodies, &Body::exact);
    if (const auto* set = std::get_if<CurveSet>(&value))
        return std::ranges::any_of(set->curves,
                                   [](const SplineCurve& curve) { return curve.basis().degree > 1; });
    return std::holds_alternative<SurfaceSet>(value);
}

Result<Written> written_of(const Value& value, double within, const Run& run) {
    using Made = Result<Written>;
    return std::visit(
        Overloaded{[](const PointLattice& lattice) -> Made { return points_of(lattice); },
                   [](const FieldOnPoints& item) -> Made { return points_of(item); },
                   [](const OnPoints auto& item) -> Made { return plain(points_of(item.points)); },
                   [](const Placements& item) -> Made { return plain(points_of(item.origins())); },
                   [](const Attractors& item) -> Made { return written_attractors(item); },
                   [](const Mesh& mesh) -> Made { return facets(mesh); },
                   [&](const SurfaceSet& set) -> Made { return facets_of(set, within, run); },
                   [&](const CurveSet& set) -> Made { return lines_of(set, within); },
                   [&](const SolidSet& set) -> Made { return facets_of(set, within, run); },
                   [](const BarFrame& frame) -> Made { return bars_of(frame); },
                   [](const Quantity&) -> Made { return Written{}; },
                   [](const Delivery&) -> Made { return Written{}; }},
        value);
}

}  // namespace plume
