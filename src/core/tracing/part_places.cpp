#include "core/tracing/part_places.hpp"

#include "core/data/address_text.hpp"
#include "core/geometry/curves/curve_nodes.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/geometry/surfaces/surface_nodes.hpp"
#include "core/results/items.hpp"
#include "core/study/parts_within.hpp"

namespace plume {
namespace {

bool is_node(const BarFrame& frame, PartRef part) {
    return part.number >= frame.member_count();
}

const BarFrame* frame_of(const Value& value, PartRef part) {
    return part.sort == PartSort::item ? std::get_if<BarFrame>(&value) : nullptr;
}

Vec3 vertex_place(const Value& value, std::size_t number) {
    if (const auto* set = std::get_if<SurfaceSet>(&value)) return place_of(*set, node_at(*set, number));
    if (const auto* set = std::get_if<CurveSet>(&value)) return place_of(*set, node_at(*set, number));
    return std::get<Mesh>(value).vertex(number);
}

// "point 4,8", "surface 1, point 4,8", "curve 2, point 5", "vertex 7".
std::string vertex_title(const Value& value, std::size_t number) {
    const auto within = [](const char* sort, std::size_t item, std::size_t of, const std::string& point) {
        return (of > 1 ? sort + (' ' + std::to_string(item)) + ", " : std::string()) + "point " + point;
    };
    if (const auto* set = std::get_if<SurfaceSet>(&value)) {
        const SurfaceNode node = node_at(*set, number);
        return within("surface", node.patch, set->patches.size(),
                      std::to_string(node.a) + ',' + std::to_string(node.b));
    }
    if (const auto* set = std::get_if<CurveSet>(&value)) {
        const CurveNode node = node_at(*set, number);
        return within("curve", node.curve, set->curves.size(), std::to_string(node.point));
    }
    return "vertex " + std::to_string(number);
}

std::vector<Vec3> ends_of(const SplineCurve& curve) {
    const SplineBasis& basis = curve.basis();
    std::vector<Vec3> ends{evaluate(curve, basis.start()).position};
    if (!curve.closed()) ends.push_back(evaluate(curve, basis.end()).position);
    return ends;
}

}  // namespace

std::size_t count_of(const Value& value, PartSort sort) {
    return sort == PartSort::item ? items_of(value).total() : count_within(value, sort);
}

bool has_part(const Value& value, PartRef part) {
    return part.number < count_of(value, part.sort);
}

std::vector<Vec3> places_of(const Value& value, PartRef part) {
    if (part.sort == PartSort::face) return corner_places(std::get<Mesh>(value), part.number);
    if (part.sort == PartSort::vertex) return {vertex_place(value, part.number)};
    if (const auto* frame = frame_of(value, part); frame && !is_node(*frame, part)) {
        const Member& member = frame->members()[part.number];
        return {frame->start(member), frame->end(member)};
    }
    if (const auto* set = std::get_if<CurveSet>(&value)) return ends_of(set->curves[part.number]);
    const Items items = items_of(value);
    const auto& [sort, number] = pointed_at(items, part.number);
    const PointLattice* lattice = lattice_of(value);
    if (lattice && !lattice->present(number)) return {};
    return {sort.place(number)};
}

double rounding_within(const Value& value, PartRef part) {
    if (part.sort != PartSort::vertex) return 0;
    if (const auto* set = std::get_if<SurfaceSet>(&value)) return meets_them_to(*set);
    const auto* set = std::get_if<CurveSet>(&value);
    return set ? meets_them_to(*set) : 0;
}

std::string title_of(const Value& value, PartRef part) {
    if (part.sort == PartSort::face) return "face " + std::to_string(part.number);
    if (part.sort == PartSort::vertex) return vertex_title(value, part.number);
    const Items items = items_of(value);
    const auto& [sort, number] = pointed_at(items, part.number);
    return sort.title(number);
}

std::string mark_of(const Value& value, PartRef part) {
    if (part.sort != PartSort::item) return {};
    if (const auto* frame = std::get_if<BarFrame>(&value))
        return is_node(*frame, part) ? node_mark(*frame, part.number - frame->member_count())
                                     : member_mark(*frame, frame->members()[part.number]);
    if (const auto* mesh = std::get_if<Mesh>(&value))
        return mesh->part_marks() ? mesh->part_mark(part.number) : std::string();
    if (const auto* bodies = std::get_if<SolidSet>(&value))
        return bodies->marks ? body_mark(*bodies, part.number) : std::string();
    const PointLattice* lattice = lattice_of(value);
    return lattice ? address_text(*lattice, part.number) : std::string();
}

Vec3 Spots::at(std::size_t spot) const {
    return x ? Vec3{x[spot], y[spot], z[spot]} : places[spot];
}

Spots spots_of(const Value& value) {
    Spots spots;
    if (const auto* mesh = std::get_if<Mesh>(&value)) {
        spots.sort = PartSort::vertex;
        spots.count = mesh->vertex_count();
        spots.x = mesh->x().span().data();
        spots.y = mesh->y().span().data();
        spots.z = mesh->z().span().data();
        return spots;
    }
    if (const auto* attractors = std::get_if<Attractors>(&value)) {
        for (const Attractor& attractor : attractors->items())
            spots.places.push_back(attractor.position);
        spots.count = spots.places.size();
        return spots;
    }
    const auto* frame = std::get_if<BarFrame>(&value);
    if (frame) spots.first = frame->member_count();
    if (const PointLattice* lattice = lattice_of(value)) {
        spots.lattice = lattice;
        spots.count = lattice->address_count();
        spots.x = lattice->x().span().data();
        spots.y = lattice->y().span().data();
        spots.z = lattice->z().span().data();
    }
    return spots;
}

}  // namespace plume
