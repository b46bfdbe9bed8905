#include "core/handoff/handed_parts.hpp"

#include "core/base/overloaded.hpp"
#include "core/data/building_classes.hpp"
#include "core/data/on_points.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/frames/member_list.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

constexpr Dimension an_area{2, 0}, a_volume{3, 0};

void add(Hasher& hasher, Vec3 place) {
    hasher.add(place.x).add(place.y).add(place.z);
}

template <class Positioned>
void add_poles(Hasher& hasher, const Positioned& item) {
    for (const Column* column : {&item.x(), &item.y(), &item.z(), &item.weights()})
        hasher.add(column->span());
    for (const Field& field : item.fields())
        hasher.add(field.name).add(field.values.span());
}

void add(Hasher& hasher, const SplineBasis& basis) {
    hasher.add(static_cast<std::uint64_t>(basis.degree)).add(std::uint64_t{basis.closed ? 1U : 0U});
    hasher.add(std::span<const double>(basis.knots));
}

void add(Hasher& hasher, const SplineCurve& curve) {
    add(hasher, curve.basis());
    add_poles(hasher, curve);
}

void add(Hasher& hasher, const SplinePatch& patch) {
    add(hasher, patch.u());
    add(hasher, patch.v());
    add_poles(hasher, patch);
    for (const SplineCurve& trim : patch.trims())
        add(hasher, trim);
}

// Faces [begin, end): by the places of their corners, so that numbering is of no matter.
void add_faces(Hasher& hasher, const Mesh& mesh, std::size_t begin, std::size_t end) {
    for (std::size_t face = begin; face < end; ++face) {
        hasher.add(std::uint64_t{mesh.face(face).size()});
        for (const std::uint32_t corner : mesh.face(face)) {
            add(hasher, mesh.vertex(corner));
            for (const Field& field : mesh.fields())
                hasher.add(field.values[corner]);
        }
        for (const Field& field : mesh.face_fields())
            hasher.add(field.values[face]);
    }
    for (const std::vector<Field>* fields : {&mesh.fields(), &mesh.face_fields()})
        for (const Field& field : *fields)
            hasher.add(field.name);
}

void add_points(Hasher& hasher, const PointLattice& points) {
    for (const Column* column : {&points.x(), &points.y(), &points.z()})
        hasher.add(column->span());
    for (const Field& field : points.fields())
        hasher.add(field.name).add(field.values.span());
    for (std::size_t at = 0; points.has_gaps() && at < points.address_count(); ++at)
        hasher.add(std::uint64_t{points.present(at) ? 1U : 0U});
}

// The parts of one result.
class PartsOfResult {
public:
    PartsOfResult(const GivenResult& given, std::vector<HandedPart>& parts, const Run& run)
        : given_(given), parts_(parts), run_(run) {}

    Status operator()(const PointLattice& points) {
        Hasher hasher;
        add_points(hasher, points);
        return put("", hasher, "count", {static_cast<double>(points.point_count()), plain_number},
                   points.bounds());
    }
    Status operator()(const OnPoints auto& item) { return (*this)(item.points); }
    Status operator()(const Placements& item) {
        Hasher hasher;
        add_points(hasher, item.origins());
        for (const Placement& placement : item.placements()) {
            add(hasher, placement.along);
            add(hasher, placement.up);
        }
        return put("", hasher, "count", {static_cast<double>(item.origins().point_count()), plain_number},
                   item.origins().bounds());
    }
    Status operator()(const Attractors& item) {
        Hasher hasher;
        Box box;
        for (const Attractor& one : item.items()) {
            box.include(one.position);
            hasher.add(one.name).add(one.weight);
            add(hasher, one.position);
            for (std::size_t at = 0; one.path && at < one.path->size(); ++at)
                add(hasher, (*one.path)[at]);
        }
        return put("", hasher, "count", {static_cast<double>(item.items().size()), plain_number}, box);
    }
    Status operator()(const Mesh& mesh) {
        const bool single = mesh.part_count() == 1;
        for (std::size_t part = 0; part < mesh.part_count(); ++part) {
            const auto [begin, end] = mesh.part(part);
            Hasher hasher;
            add_faces(hasher, mesh, begin, end);
            double area = 0;
            Box box;
            for (std::size_t face = begin; face < end; ++face) {
                area += length(area_vector(mesh, face));
                for (const std::uint32_t corner : mesh.face(face))
                    box.include(mesh.vertex(corner));
            }
            const bool closed = single && is_closed(mesh);
            Status done = closed
                              ? put("", hasher, "volume", {volume_of(mesh), a_volume}, box)
                              : put(single ? "" : mesh.part_mark(part), hasher, "area", {area, an_area}, box);
            if (!done) return done;
        }
        return Done{};
    }
    Status operator()(const SurfaceSet& set) {
        for (std::size_t at = 0; at < set.patches.size(); ++at) {
            Hasher hasher;
            add(hasher, set.patches[at]);
            const Result<double> area = area_of(SurfaceSet{{set.patches[at]}}, run_);
            if (!area) return area.error();
            if (Status done = put(number(at, set.patches.size()), hasher, "area", {*area, an_area},
                                  poles_box(set.patches[at]));
                !done)
                return done;
        }
        return Done{};
    }
    Status operator()(const CurveSet& set) {
        for (std::size_t at = 0; at < set.curves.size(); ++at) {
            Hasher hasher;
            add(hasher, set.curves[at]);
            if (Status done = put(number(at, set.curves.size()), hasher, "length",
                                  {length_of(set.curves[at]), a_length}, poles_box(set.curves[at]));
                !done)
                return done;
        }
        return Done{};
    }
    Status operator()(const SolidSet& set) {
        for (std::size_t at = 0; at < set.bodies.size(); ++at) {
            const Body& body = set.bodies[at];
            Hasher hasher;
            Box box = body.exact() ? Box() : body.mesh().bounds();
            for (const SplinePatch& patch : body.patches()) {
                add(hasher, patch);
                box.include(poles_box(patch));
            }
            if (!body.exact()) add_faces(hasher, body.mesh(), 0, body.mesh().face_count());
            for (const Field& field : set.fields)
                hasher.add(field.name).add(field.values[at]);
            if (Status done = put(set.bodies.size() == 1 ? "" : body_mark(set, at), hasher, "volume",
                                  {body.figures().volume, a_volume}, box);
                !done)
                return done;
        }
        return Done{};
    }
    Status operator()(const BarFrame& frame) {
        for (std::size_t at = 0; at < frame.member_count(); ++at) {
            const Member& member = frame.members()[at];
            Hasher hasher;
            Box box;
            for (const Vec3 end : {frame.start(member), frame.end(member)}) {
                add(hasher, end);
                box.include(end);
            }
            for (const Field& field : frame.fields())
                hasher.add(field.name).add(field.values[at]);
            if (Status done = put(member_mark(frame, member), hasher, "length",
                                  {frame.length_of(member), a_length}, box);
                !done)
                return done;
        }
        return Done{};
    }
    Status operator()(const Quantity& number) {
        Hasher hasher;
        hasher.add(number.value);
        return put("", hasher, "value", number, {});
    }
    Status operator()(const Delivery&) { return Done{}; }

private:
    static std::string number(std::size_t at, std::size_t count) {
        return count == 1 ? std::string() : std::to_string(at);
    }
    Status put(const std::string& part, Hasher& hasher, const char* figure, Quantity value,
               const Box& where) {
        if (run_.cancelled()) return cancelled_error();
        const std::string material = given_.show.material.key;
        hasher.add(given_.as).add(material).add(given_.show.material.paint).add(given_.show.colour_by);
        parts_.push_back({part.empty() ? given_.name : given_.name + ' ' + part, given_.as, material,
                          hasher.finish(), figure, value, where});
        return Done{};
    }

    const GivenResult& given_;
    std::vector<HandedPart>& parts_;
    const Run& run_;
};

}  // namespace

Result<std::vector<HandedPart>> handed_parts(const DeliveryContent& delivery, const Run& run) {
    std::vector<HandedPart> parts;
    for (const GivenResult& given : delivery.results) {
        GivenResult classed = given;
        if (delivery.ending == ".ifc" && given.as.empty())
            classed.as = usual_building_class(given.name, kind_of(*given.value) == Kind::frame).key;
        if (Status done = std::visit(PartsOfResult(classed, parts, run), *given.value); !done)
            return done.error();
    }
    return parts;
}

}  // namespace plume
