#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/points/lattice_plane.hpp"

namespace plume {
namespace {

// A seam is welded over a millionth of the size.
constexpr double weld_share = 1e-6;

// A row or grid that begins or ends on the plane goes on into its mirror image; nothing when it does not.
std::optional<Result<Value>> welded_points(const PointLattice& points, const Affine& map, double tolerance) {
    const bool flat = points.arrangement() == Arrangement::row || points.arrangement() == Arrangement::grid;
    if (!flat || points.counts()[2] > 1) return {};
    const std::size_t columns = points.counts()[0], rows = points.counts()[1];
    const auto on_plane = [&](std::size_t index) {
        return length(map.at(points.point(index)) - points.point(index)) <= 2 * tolerance;
    };
    for (const bool along_i : {true, false}) {
        if (points.closed(along_i ? 0 : 1) || (along_i ? columns : rows) < 2) continue;
        for (const bool at_end : {true, false}) {
            bool seam = true;
            const std::size_t across = along_i ? rows : columns, last = (along_i ? columns : rows) - 1;
            for (std::size_t other = 0; other < across && seam; ++other) {
                const std::size_t here = at_end ? last : 0;
                seam = on_plane(along_i ? points.index({here, other, 0}) : points.index({other, here, 0}));
            }
            if (!seam) continue;
            const std::size_t long_count = 2 * last + 1;
            PointLattice::Parts parts;
            parts.arrangement = points.arrangement();
            parts.counts = {along_i ? long_count : columns, along_i ? rows : long_count, 1};
            parts.closed = {!along_i && points.closed(0), along_i && points.closed(1), false};
            const std::size_t count = parts.counts[0] * parts.counts[1];
            Doubles x(count), y(count), z(count);
            std::vector<std::size_t> from(count);
            parts.present.resize(count);
            for (std::size_t index = 0; index < count; ++index) {
                std::size_t i = index % parts.counts[0], j = index / parts.counts[0];
                std::size_t& number = along_i ? i : j;
                // The image stands behind the end it meets, or before the beginning.
                const bool image = at_end ? number > last : number < last;
                if (at_end)
                    number = number > last ? 2 * last - number : number;
                else
                    number = number < last ? last - number : number - last;
                from[index] = points.index({i, j, 0});
                const Vec3 old = points.point(from[index]), at = image ? map.at(old) : old;
                x[index] = at.x;
                y[index] = at.y;
                z[index] = at.z;
                parts.present[index] = points.present(from[index]) ? 1 : 0;
            }
            parts.x = std::move(x);
            parts.y = std::move(y);
            parts.z = std::move(z);
            for (const Field& field : points.fields()) {
                Doubles values(count);
                for (std::size_t index = 0; index < count; ++index)
                    values[index] = field.values[from[index]];
                parts.fields.push_back({field.name, std::move(values), field.dimension});
            }
            return as_value(PointLattice::make(std::move(parts)));
        }
    }
    return {};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Value& thing = in.value("thing");
    Placement plane = plane_of(in);
    plane.origin = plane.origin + plane.up * in.number("offset");
    const Affine map = mirrored_across(plane);
    if (in.word("keep") == "image") return transformed(thing, map);
    const double tolerance = std::max(bounds_of(thing).diagonal() * weld_share, 1e-300);
    if (const auto* points = std::get_if<PointLattice>(&thing))
        if (auto welded = welded_points(*points, map, tolerance)) return *std::move(welded);
    auto both = copied(thing, {Affine{}, map}, false, run);
    if (!both) return both.error();
    if (const auto* mesh = std::get_if<Mesh>(&*both)) return Value(welded(*mesh, tolerance));
    return both;
}

}  // namespace

StepKind mirror_thing() {
    return {
        .key = "thing.mirror",
        .verb = "Mirror",
        .synonyms = "reflect symmetry flip plane image",
        .sentence = std::string("Mirror {thing} across the plane {offset} from ") +
                    "{plane}[plane=placed| of {placement}], and keep {keep}.",
        .slots =
            [] {
                auto slots =
                    with_plane({thing_slot(), length_slot("offset", "Offset", "0 m"),
                                choice_slot("keep", "Keep",
                                            {{"both", "both", "points that meet on the plane are welded"},
                                             {"image", "the image alone", ""}})});
                // Mirror halls are upright more often than not.
                for (SlotSpec& slot : slots)
                    if (slot.key == "plane") slot.preset = "yz";
                return slots;
            }(),
        .results = movable_kinds(),
        .result_name = "mirrored",
        .help =
            "Anything, mirrored across a plane. Both halves together are one: a row or grid that ends on the "
            "plane "
            "goes on into its image, and the vertices of meshes that meet there become one.",
        .estimate =
            [](const Inputs& in) {
                return Estimate{copies_bytes(in.value("thing"), 2), 0};
            },
        .make = make,
    };
}

}  // namespace plume
