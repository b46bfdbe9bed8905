#include "core/geometry/moves/copies.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/data/gathered.hpp"
#include "core/geometry/frames/joined_frames.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/parts/coincident_points.hpp"
#include "core/geometry/parts/subset.hpp"

namespace plume {
namespace {

// Columns of several lattices one after the other.
template <class Get>
Column stacked(const std::vector<PointLattice>& all, Get get) {
    std::size_t count = 0;
    for (const PointLattice& one : all)
        count += one.address_count();
    Doubles values(count);
    std::size_t at = 0;
    for (const PointLattice& one : all) {
        const Column& column = get(one);
        std::copy_n(column.data(), column.size(), values.data() + at);
        at += column.size();
    }
    return values;
}

}  // namespace

PointLattice::Parts stacked_parts(const std::vector<PointLattice>& all) {
    PointLattice::Parts parts;
    parts.x = stacked(all, [](const PointLattice& one) -> const Column& { return one.x(); });
    parts.y = stacked(all, [](const PointLattice& one) -> const Column& { return one.y(); });
    parts.z = stacked(all, [](const PointLattice& one) -> const Column& { return one.z(); });
    for (const Field& field : all.front().fields()) {
        const bool everywhere = std::ranges::all_of(all, [&](const PointLattice& one) {
            const Field* other = one.field(field.name);
            return other && other->dimension == field.dimension;
        });
        if (!everywhere) continue;
        parts.fields.push_back(
            {field.name,
             stacked(all,
                     [&](const PointLattice& one) -> const Column& { return one.field(field.name)->values; }),
             field.dimension});
    }
    for (const PointLattice& one : all)
        for (std::size_t index = 0; index < one.address_count(); ++index)
            parts.present.push_back(one.present(index) ? 1 : 0);
    return parts;
}

namespace {

Result<PointLattice> copied_points(const std::vector<PointLattice>& copies, bool closed) {
    const PointLattice& first = copies.front();
    PointLattice::Parts parts = stacked_parts(copies);
    const Arrangement was = first.arrangement();
    const auto& counts = first.counts();
    const bool one_point = first.address_count() == 1;
    if (one_point) {
        parts.arrangement = Arrangement::row;
        parts.counts = {copies.size(), 1, 1};
        parts.closed = {closed, false, false};
    } else if (was == Arrangement::row || (was == Arrangement::grid && counts[1] == 1)) {
        parts.arrangement = Arrangement::grid;
        parts.counts = {counts[0], copies.size(), 1};
        parts.closed = {first.closed(0), closed, false};
    } else if ((was == Arrangement::grid || was == Arrangement::polar) && counts[2] == 1) {
        parts.arrangement = Arrangement::block;
        parts.counts = {counts[0], counts[1], copies.size()};
        parts.closed = {first.closed(0), first.closed(1), closed};
    } else {
        parts.arrangement = Arrangement::scatter;
        parts.counts = {parts.x.size(), 1, 1};
    }
    return PointLattice::make(std::move(parts));
}

Result<Attractors> numbered(const Attractors& attractors, std::size_t number) {
    std::vector<Attractor> items = attractors.items();
    for (Attractor& item : items)
        item.name += ' ' + std::to_string(number);
    return Attractors::make(std::move(items));
}

template <class T>
std::vector<T> taken(const std::vector<const Value*>& things) {
    std::vector<T> all;
    all.reserve(things.size());
    for (const Value* thing : things)
        all.push_back(std::get<T>(*thing));
    return all;
}

std::vector<PointLattice> lattices_of(const std::vector<const Value*>& things) {
    std::vector<PointLattice> all;
    all.reserve(things.size());
    for (const Value* thing : things)
        all.push_back(*lattice_of(*thing));
    return all;
}

Result<Value> joined_points(const std::vector<PointLattice>& all, const Run& run) {
    PointLattice::Parts parts = stacked_parts(all);
    const bool rows = std::ranges::all_of(all, [](const PointLattice& one) {
        return one.arrangement() == Arrangement::row && !one.has_gaps() && !one.closed(0);
    });
    parts.arrangement = rows ? Arrangement::row : Arrangement::scatter;
    const bool had_neighbours = std::ranges::any_of(
        all, [](const PointLattice& one) { return one.arrangement() != Arrangement::scatter; });
    if (!rows && had_neighbours)
        run.remark_loss(
            "Only open rows without gaps go on into each other: these points are a scatter now, and none is "
            "another's "
            "neighbour.");
    parts.counts = {parts.x.size(), 1, 1};
    Result<PointLattice> points = PointLattice::make(std::move(parts));
    if (!points) return points.error();
    return Value(closed_up(*points));
}

Result<Value> joined_placements(const std::vector<Placements>& all) {
    std::vector<PointLattice> origins;
    std::vector<Placement> placements;
    for (const Placements& one : all) {
        origins.push_back(one.origins());
        placements.insert(placements.end(), one.placements().begin(), one.placements().end());
    }
    PointLattice::Parts parts = stacked_parts(origins);
    parts.arrangement = Arrangement::scatter;
    parts.counts = {parts.x.size(), 1, 1};
    Result<PointLattice> points = PointLattice::make(std::move(parts));
    if (!points) return points.error();
    return as_value(Placements::make(*points, std::move(placements)));
}

// With the numbers that all of them carry.
SolidSet joined_bodies(const std::vector<SolidSet>& sets) {
    SolidSet joined;
    for (const SolidSet& set : sets)
        joined.bodies.insert(joined.bodies.end(), set.bodies.begin(), set.bodies.end());
    for (const Field& field : sets.front().fields) {
        Doubles numbers;
        for (const SolidSet& set : sets)
            for (const Field& other : set.fields)
                if (other.name == field.name && other.dimension == field.dimension)
                    numbers.insert(numbers.end(), other.values.span().begin(), other.values.span().end());
        if (numbers.size() == joined.bodies.size())
            joined.fields.push_back({field.name, std::move(numbers), field.dimension});
    }
    return joined;
}

bool counts_as_points(Kind kind) {
    return kind == Kind::points || kind == Kind::field;
}

}  // namespace

Result<Value> joined_values(const std::vector<const Value*>& things, const Run& run) {
    if (things.empty())
        return Error{ErrorCode::empty_input, "", "There is nothing to join", "Choose results."};
    const Kind kind = kind_of(*things.front());
    for (const Value* thing : things) {
        const Kind other = kind_of(*thing);
        if (other == kind || (counts_as_points(kind) && counts_as_points(other))) continue;
        return Error{ErrorCode::wrong_kind, "",
                     "holds " + with_article(kind) + ", and another " + with_article(other),
                     "Join results of one kind."};
    }
    if (run.cancelled()) return cancelled_error();
    switch (kind) {
        case Kind::points:
        case Kind::field:
            return joined_points(lattices_of(things), run);
        case Kind::mesh:
            return as_value(joined(taken<Mesh>(things)));
        case Kind::curves: {
            CurveSet set;
            for (const CurveSet& one : taken<CurveSet>(things))
                set.curves.insert(set.curves.end(), one.curves.begin(), one.curves.end());
            return Value(std::move(set));
        }
        case Kind::surface: {
            SurfaceSet set;
            for (const SurfaceSet& one : taken<SurfaceSet>(things))
                set.patches.insert(set.patches.end(), one.patches.begin(), one.patches.end());
            return Value(std::move(set));
        }
        case Kind::bodies: {
            return Value(joined_bodies(taken<SolidSet>(things)));
        }
        case Kind::attractors: {
            std::vector<Attractor> items;
            for (const Attractors& one : taken<Attractors>(things))
                items.insert(items.end(), one.items().begin(), one.items().end());
            return as_value(Attractors::make(std::move(items)));
        }
        case Kind::placements:
            return joined_placements(taken<Placements>(things));
        case Kind::directions: {
            const auto all = taken<DirectionsOnPoints>(things);
            auto points = joined_points(lattices_of(things), run);
            if (!points) return points.error();
            const auto& lattice = std::get<PointLattice>(*points);
            if (!lattice.field(all.front().name + "_x"))
                return Error{ErrorCode::wrong_kind, "", "The directions have different names",
                             "Join their points."};
            return Value(DirectionsOnPoints{lattice, all.front().name});
        }
        case Kind::frame:
            return as_value(joined_frames(taken<BarFrame>(things), run));
        case Kind::number:
        case Kind::delivery:
            break;
    }
    return Error{ErrorCode::wrong_kind, "", "Numbers cannot be joined", "Choose points, curves or meshes."};
}

Result<Value> copied(const Value& thing, const std::vector<Affine>& maps, bool closed, const Run& run) {
    std::vector<Value> copies;
    copies.reserve(maps.size());
    for (std::size_t at = 0; at < maps.size(); ++at) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(at) / static_cast<double>(maps.size()));
        Result<Value> copy = transformed(thing, maps[at]);
        if (copy && std::holds_alternative<Attractors>(*copy))
            copy = as_value(numbered(std::get<Attractors>(*copy), at + 1));
        if (!copy) return copy.error();
        copies.push_back(*std::move(copy));
    }
    std::vector<const Value*> all;
    all.reserve(copies.size());
    for (const Value& copy : copies)
        all.push_back(&copy);
    if (const auto* item = std::get_if<FieldOnPoints>(&thing)) {
        auto points = copied_points(lattices_of(all), closed);
        if (!points) return points.error();
        return Value(FieldOnPoints{*std::move(points), item->name});
    }
    if (std::holds_alternative<PointLattice>(thing)) {
        auto points = copied_points(lattices_of(all), closed);
        if (!points) return points.error();
        return Value(*std::move(points));
    }
    return joined_values(all, run);
}

Mesh welded(const Mesh& mesh, double tolerance_abs) {
    std::vector<Vec3> places;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        places.push_back(mesh.vertex(vertex));
    const std::vector<std::size_t> first = first_within(places, tolerance_abs);
    std::vector<std::uint32_t> number(places.size());
    std::vector<std::size_t> kept;
    for (std::size_t vertex = 0; vertex < places.size(); ++vertex) {
        if (first[vertex] == vertex) {
            number[vertex] = static_cast<std::uint32_t>(kept.size());
            kept.push_back(vertex);
        } else {
            number[vertex] = number[first[vertex]];
        }
    }
    Mesh::Parts parts{.x = gathered(mesh.x(), kept),
                      .y = gathered(mesh.y(), kept),
                      .z = gathered(mesh.z(), kept),
                      .corners = {},
                      .fields = gathered(mesh.fields(), kept)};
    std::size_t part = 0;
    std::vector<std::size_t> kept_faces;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        std::vector<std::uint32_t> corners;
        for (const std::uint32_t corner : mesh.face(face))
            if (std::ranges::find(corners, number[corner]) == corners.end())
                corners.push_back(number[corner]);
        if (corners.size() < 3) continue;  // both its sides lay within the tolerance
        if (const std::size_t of = mesh.part_of(face); parts.part_starts.empty() || of != part) {
            parts.part_starts.push_back(static_cast<std::uint32_t>(parts.first.size() - 1));
            part = of;
        }
        kept_faces.push_back(face);
        parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.face_fields = gathered(mesh.face_fields(), kept_faces);
    Result<Mesh> result = Mesh::make(std::move(parts));
    return result ? *std::move(result) : mesh;
}

double copies_bytes(const Value& thing, double count) {
    return static_cast<double>(bytes_of(thing)) * count * 2;
}

}  // namespace plume
