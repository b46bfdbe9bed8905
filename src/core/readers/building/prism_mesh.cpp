#include "core/readers/building/prism_mesh.hpp"

#include <algorithm>
#include <array>
#include <limits>
#include <utility>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/measures/outline_area.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"

namespace plume {
namespace {

// A square around the outline whose parameters are its coordinates.
Result<SplinePatch> plane_around(const std::vector<std::vector<Vec3>>& rings) {
    Box box;
    for (const Vec3 place : rings.front())
        box.include(place);
    const double margin = std::max(box.high.x - box.low.x, box.high.y - box.low.y);
    const Vec3 low = box.low - Vec3{margin, margin, 0}, high = box.high + Vec3{margin, margin, 0};
    SplinePatch::Parts parts;
    const auto basis = [](double from, double to) { return SplineBasis{1, false, {from, from, to, to}, {}}; };
    parts.u = basis(low.x, high.x);
    parts.v = basis(low.y, high.y);
    parts.x = Doubles{low.x, high.x, low.x, high.x};
    parts.y = Doubles{low.y, low.y, high.y, high.y};
    parts.z = Doubles(4, 0.0);
    for (const std::vector<Vec3>& ring : rings) {
        Result<SplineCurve> trim = curve_through({ring, {}, {}, true}, CurveShape::straight);
        if (!trim) return trim.error();
        parts.trims.push_back(*std::move(trim));
    }
    return SplinePatch::make(std::move(parts));
}

// Where the places of the triangles stand in the rings, one after the other.
std::uint32_t nearest(const std::vector<std::vector<Vec3>>& rings, Vec3 place) {
    std::uint32_t found = 0, at = 0;
    double least = std::numeric_limits<double>::infinity();
    for (const std::vector<Vec3>& ring : rings)
        for (const Vec3 corner : ring) {
            const double apart = length(corner - place);
            if (apart < least) {
                least = apart;
                found = at;
            }
            ++at;
        }
    return found;
}

}  // namespace

Result<FilledOutline> filled(FlatOutline outline, const Run& run) {
    FilledOutline made;
    made.rings.push_back(std::move(outline.outer));
    for (std::vector<Vec3>& hole : outline.holes)
        made.rings.push_back(std::move(hole));
    for (std::size_t ring = 0; ring < made.rings.size(); ++ring)
        if ((area_vector(made.rings[ring]).z > 0) != (ring == 0)) std::ranges::reverse(made.rings[ring]);
    const Result<SplinePatch> plane = plane_around(made.rings);
    if (!plane) return plane.error();
    const Result<TrimmedDomain> domain =
        trimmed_domain(*plane, std::vector<int>(made.rings.size(), 1), {}, {}, run);
    if (!domain) return domain.error();
    std::vector<std::uint32_t> corner_of;
    for (const TrimmedDomain::Place& place : domain->places)
        corner_of.push_back(nearest(made.rings, {place.u, place.v, 0}));
    for (const auto& [a, b, c] : domain->triangles)
        made.triangles.push_back({corner_of[a], corner_of[b], corner_of[c]});
    return made;
}

Result<Mesh> prism_mesh(const FilledOutline& outline, Vec3 along) {
    Mesh::Parts parts;
    Doubles x, y, z;
    std::uint32_t count = 0;
    for (const Vec3 by : {Vec3{}, along})
        for (const std::vector<Vec3>& ring : outline.rings)
            for (const Vec3 place : ring) {
                x.push_back(place.x + by.x);
                y.push_back(place.y + by.y);
                z.push_back(place.z + by.z);
            }
    count = static_cast<std::uint32_t>(x.size() / 2);
    // Pulled down, what was to look outwards looks inwards.
    const bool down = along.z < 0;
    const auto face = [&](std::vector<std::uint32_t> corners) {
        if (down) std::ranges::reverse(corners);
        parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    };
    for (const auto& [a, b, c] : outline.triangles) {
        face({c, b, a});
        face({a + count, b + count, c + count});
    }
    std::uint32_t first = 0;
    for (const std::vector<Vec3>& ring : outline.rings) {
        const auto size = static_cast<std::uint32_t>(ring.size());
        for (std::uint32_t at = 0; at < size; ++at) {
            const std::uint32_t here = first + at, next = first + (at + 1) % size;
            face({here, next, next + count, here + count});
        }
        first += size;
    }
    parts.x = Column(std::move(x));
    parts.y = Column(std::move(y));
    parts.z = Column(std::move(z));
    return Mesh::make(std::move(parts));
}

}  // namespace plume
