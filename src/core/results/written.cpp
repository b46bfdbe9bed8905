#include "core/results/written.hpp"

#include "core/base/overloaded.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"

namespace plume {
namespace {

// About this many quads for a surface: a chord error well under a millimetre on a roof of 36 m.
constexpr std::size_t usual_quads = 20'000;

Written facets(Mesh mesh) {
    return {std::move(mesh), {}, {}, {}};
}

Result<Written> facets_of(const SurfaceSet& set, const Run& run) {
    Result<Mesh> mesh = set.patches.empty() ? Mesh::make({}) : mesh_of(set, usual_quads, run);
    if (!mesh) return mesh.error();
    return facets(*std::move(mesh));
}

Written lines_of(const CurveSet& set) {
    Written written;
    for (const SplineCurve& curve : set.curves) {
        CurveSamples samples = sample(curve, usual_tolerance(curve));
        written.lines.push_back({std::move(samples.points), samples.closed});
    }
    return written;
}

Written points_of(const PointLattice& lattice) {
    Written written;
    written.points.reserve(lattice.point_count());
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (lattice.present(index)) written.points.push_back(lattice.point(index));
    return written;
}

Written bars_of(const BarFrame& frame) {
    Written written = points_of(frame.nodes());
    std::vector<std::uint32_t> number(frame.nodes().address_count(), 0);
    std::uint32_t next = 0;
    for (std::size_t node = 0; node < number.size(); ++node)
        number[node] = frame.nodes().present(node) ? next++ : 0;
    written.bars.reserve(frame.member_count());
    for (const Member& member : frame.members())
        written.bars.push_back({number[member.from], number[member.to]});
    return written;
}

Written points_of(const Attractors& attractors) {
    Written written;
    for (const Attractor& item : attractors.items())
        written.points.push_back(item.position);
    return written;
}

}  // namespace

Result<Written> written_of(const Value& value, const Run& run) {
    using Made = Result<Written>;
    return std::visit(
        Overloaded{[](const PointLattice& lattice) -> Made { return points_of(lattice); },
                   [](const FieldOnPoints& item) -> Made { return points_of(item.points); },
                   [](const DirectionsOnPoints& item) -> Made { return points_of(item.points); },
                   [](const Placements& item) -> Made { return points_of(item.origins()); },
                   [](const Attractors& item) -> Made { return points_of(item); },
                   [](const Mesh& mesh) -> Made { return facets(mesh); },
                   [&](const SurfaceSet& set) -> Made { return facets_of(set, run); },
                   [](const CurveSet& set) -> Made { return lines_of(set); },
                   [&](const SolidSet& set) -> Made {
                       Result<Mesh> mesh = mesh_of(set, usual_quads * set.bodies.size(), run);
                       return mesh ? Made(facets(*std::move(mesh))) : Made(mesh.error());
                   },
                   [](const BarFrame& frame) -> Made { return bars_of(frame); },
                   [](const Quantity&) -> Made { return Written{}; }},
        value);
}

}  // namespace plume
