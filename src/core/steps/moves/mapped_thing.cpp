#include "core/steps/moves/mapped_thing.hpp"

#include <algorithm>
#include <atomic>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/base/parallel.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/mapped_curve.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/refined_mesh.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/moves/moved_points.hpp"

namespace plume {
namespace {

// Of the size: how true curves are, and how far a place is moved to see how the map turns there.
constexpr double true_share = 1e-7, probe_share = 1e-6;
// Of a body that is mapped: the polygons it is made of first, how true their sides become to what they are
// mapped to, of the size, and how many there may be.
constexpr std::size_t body_polygons = 2400, most_body_polygons = 200'000;
constexpr double body_true_share = 2e-4;
constexpr int most_halvings = 10;

class Mapping {
public:
    Mapping(const ThingMap& map, const Inputs& in, const Run& run) : map_(map), in_(in), run_(run) {}

    Result<Value> of(const PointLattice& points) const {
        auto made = places_of(points);
        if (!made) return made.error();
        return Value(*std::move(made));
    }
    Result<Value> of(const FieldOnPoints& item) const {
        auto made = places_of(item.points);
        if (!made) return made.error();
        return Value(FieldOnPoints{*std::move(made), item.name});
    }
    Result<Value> of(const DirectionsOnPoints& item) const {
        const auto made = places_of(item.points);
        if (!made) return made.error();
        const std::size_t count = item.points.address_count();
        Doubles x(count), y(count), z(count);
        for (std::size_t index = 0; index < count; ++index) {
            const Vec3 to = made->present(index) ? turned(item.points.point(index), item.direction(index))
                                                 : item.direction(index);
            x[index] = to.x;
            y[index] = to.y;
            z[index] = to.z;
        }
        const Dimension dimension = item.points.field(item.name + "_x")->dimension;
        return Value(with_directions(*made, item.name, std::move(x), std::move(y), std::move(z), dimension));
    }
    Result<Value> of(const Placements& all) const {
        const auto origins = places_of(all.origins());
        if (!origins) return origins.error();
        std::vector<Placement> placements = all.placements();
        for (std::size_t index = 0; index < placements.size(); ++index) {
            if (!origins->present(index)) continue;
            const Placement& from = all.placement(index);
            const Vec3 along = turned(from.origin, from.along), across = turned(from.origin, from.across);
            placements[index] = placement_of(origins->point(index), cross(along, across), along);
        }
        return as_value(Placements::make(*origins, std::move(placements), all.tree()));
    }
    Result<Value> of(const CurveSet& set) const {
        CurveSet made;
        double deviation = 0;
        for (std::size_t number = 0; number < set.curves.size(); ++number) {
            const SplineCurve& curve = set.curves[number];
            const CurvePlace place = [&](double t) -> Result<Vec3> {
                const Vec3 from = evaluate(curve, t).position;
                if (const auto found = map_.place(from)) return *found;
                return missed(from);
            };
            auto image = image_of(curve, place, true_share * map_.size, run_);
            if (!image) return about_slot(at_curve(image.error(), set, number), "thing");
            deviation = std::max(deviation, image->deviation);
            made.curves.push_back(std::move(image->to));
        }
        if (made.curves.empty())
            return about_slot(Error{ErrorCode::empty_input, "", "holds no curve", "Choose another."},
                              "thing");
        // A crease of the surface bends a curve more sharply than it can follow.
        if (deviation > 10 * true_share * map_.size) run_.remark(deviation_sentence(deviation, in_));
        return Value(std::move(made));
    }
    Result<Value> of(const Mesh& mesh) {
        auto made = mesh_of(mesh);
        if (!made) return made.error();
        say_how_flat();
        return Value(*std::move(made));
    }
    Result<Value> of(const BarFrame& frame) const {
        const PointLattice& nodes = frame.nodes();
        const auto moved = moved_or_gaps(
            nodes, [&](std::size_t, Vec3 point) { return map_.place(point); }, run_);
        if (!moved) return moved.error();
        for (std::size_t node = 0; moved->gaps > 0 && node < nodes.address_count(); ++node)
            if (nodes.present(node) && !moved->points.present(node)) return missed(nodes.point(node));
        auto made = frame.with_nodes(moved->points);
        if (!made) return about_slot(made.error(), "thing");
        return Value(*std::move(made));
    }
    Result<Value> of(const SolidSet& set) {
        SolidSet made{{}, set.fields, set.marks};
        for (const Body& body : set.bodies) {
            auto mesh = closed_mesh(body, body_polygons, run_);
            if (mesh) mesh = halved_until(*mesh, bends(), most_halvings, most_body_polygons, run_);
            if (mesh) mesh = mesh_of(*mesh);
            if (!mesh) return about_slot(mesh.error(), "thing");
            auto mapped = meshed_body(*std::move(mesh));
            if (!mapped) return about_slot(mapped.error(), "thing");
            made.bodies.push_back(*std::move(mapped));
        }
        say_how_flat();
        return Value(std::move(made));
    }
    // Nothing else is among mapped_kinds().
    template <class Other>
    Result<Value> of(const Other&) const {
        return about_slot(Error{ErrorCode::wrong_kind, "", "cannot be mapped",
                                "Choose points, curves, meshes, "
                                "bodies, frames or placements."},
                          "thing");
    }

private:
    Error missed(Vec3 from) const {
        return about_slot(Error{ErrorCode::out_of_range, "",
                                map_.where + " at " + place_text(from, length(from), in_.units()), map_.mend},
                          "thing");
    }
    // A direction at a place, as the map turns it; its length changes as lengths do there.
    Vec3 turned(Vec3 at, Vec3 direction) const {
        const double size = length(direction);
        if (!(size > 0) || !is_finite(direction)) return direction;
        const Vec3 by = direction * (probe_share * map_.size / size);
        const auto ahead = map_.place(at + by), behind = map_.place(at - by), here = map_.place(at);
        const Vec3 to = ahead && behind  ? (*ahead - *behind) * 0.5
                        : ahead && here  ? *ahead - *here
                        : behind && here ? *here - *behind
                                         : by;
        return to * (size / (probe_share * map_.size));
    }
    Result<PointLattice> places_of(const PointLattice& points) const {
        const auto made = moved_or_gaps(
            points, [&](std::size_t, Vec3 point) { return map_.place(point); }, run_);
        if (!made) return made.error();
        if (made->gaps == points.point_count())
            return about_slot(Error{ErrorCode::out_of_range, "", map_.where + " everywhere", map_.mend},
                              "thing");
        if (made->gaps > 0)
            run_.remark_loss(grouped_text(static_cast<std::int64_t>(made->gaps)) +
                             (made->gaps == 1 ? " point that " + map_.where + " is a gap."
                                              : " points are gaps: each " + map_.where + "."));
        return made->points;
    }
    // Nowhere: not a number.
    Result<Mesh> mesh_of(const Mesh& mesh) {
        const std::size_t count = mesh.vertex_count();
        Doubles x(count), y(count), z(count);
        std::atomic<std::size_t> first_missed = count;
        const bool done = parallel_blocks(count, 2048, run_, [&](std::size_t begin, std::size_t end) {
            for (std::size_t vertex = begin; vertex < end; ++vertex) {
                const auto to = map_.place(mesh.vertex(vertex));
                if (!to) {
                    std::size_t first = first_missed;
                    while (vertex < first && !first_missed.compare_exchange_weak(first, vertex)) {
                    }
                    continue;
                }
                x[vertex] = to->x;
                y[vertex] = to->y;
                z[vertex] = to->z;
            }
        });
        if (!done) return cancelled_error();
        if (first_missed < count) return missed(mesh.vertex(first_missed));
        Mesh::Parts parts = mesh.parts();
        parts.x = std::move(x);
        parts.y = std::move(y);
        parts.z = std::move(z);
        Result<Mesh> made = Mesh::make(std::move(parts));
        if (made) measure_flatness(mesh, *made);
        return made;
    }
    // Whether a side goes elsewhere than straight between where its ends go; at its quarters too, or a wave
    // would pass for straight.
    HalvesSide bends() const {
        return [this](Vec3 from, Vec3 to) {
            const auto start = map_.place(from), end = map_.place(to);
            if (!start || !end) return false;
            for (const double share : {0.25, 0.5, 0.75}) {
                const auto between = map_.place(from + (to - from) * share);
                const Vec3 straight = *start + (*end - *start) * share;
                if (between && length(*between - straight) > body_true_share * map_.size) return true;
            }
            return false;
        };
    }
    // How far the middles of faces go beside those of their corners.
    void measure_flatness(const Mesh& from, const Mesh& to) {
        const std::size_t every = from.face_count() / 20'000 + 1;
        for (std::size_t face = 0; face < from.face_count(); face += every)
            if (const auto there = map_.place(face_middle(from, face)))
                beside_ = std::max(beside_, length(*there - face_middle(to, face)));
    }
    void say_how_flat() const {
        if (beside_ > 1e-6 * map_.size)
            run_.remark("Faces stay flat between their corners: their middles lie up to " +
                        quantity_text({beside_, a_length}, in_.units(), 3) + " beside.");
    }

    const ThingMap& map_;
    const Inputs& in_;
    const Run& run_;
    double beside_ = 0;
};

}  // namespace

std::vector<Kind> mapped_kinds() {
    return {Kind::curves, Kind::points,     Kind::field,      Kind::mesh,
            Kind::bodies, Kind::placements, Kind::directions, Kind::frame};
}

Result<Value> mapped_thing(const Value& thing, const ThingMap& map, const Inputs& in, const Run& run) {
    Mapping mapping(map, in, run);
    return std::visit([&](const auto& item) { return mapping.of(item); }, thing);
}

std::size_t mapped_place_count(const Value& thing) {
    if (const auto* mesh = std::get_if<Mesh>(&thing)) return mesh->vertex_count();
    const PointLattice* const lattice = lattice_of(thing);
    return lattice ? lattice->address_count() : 0;
}

Estimate mapped_estimate(const Value& thing, double seconds_a_place, double poles) {
    if (const auto* set = std::get_if<CurveSet>(&thing)) {
        const double all = pole_count(*set) * 10 + poles * static_cast<double>(set->curves.size());
        return {all * 3000, all * 6 * seconds_a_place};
    }
    const auto bytes = static_cast<double>(bytes_of(thing));
    if (const auto* mesh = std::get_if<Mesh>(&thing))
        return {bytes * 2, static_cast<double>(mesh->vertex_count()) * 2 * seconds_a_place};
    if (const auto* set = std::get_if<SolidSet>(&thing)) {
        double places = 0;
        for (const Body& body : set->bodies)
            places += body.exact() ? 2 * static_cast<double>(body_polygons)
                                   : static_cast<double>(body.mesh().vertex_count());
        return {bytes + places * 200, places * 2 * seconds_a_place};
    }
    const PointLattice* lattice = lattice_of(thing);
    const double points = lattice ? static_cast<double>(lattice->address_count()) : 0;
    return {points * 40 + bytes, points * 4 * seconds_a_place};
}

}  // namespace plume
