#include "core/results/items.hpp"

#include <algorithm>
#include <limits>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/data/on_points.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/frames/member_list.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/results/numbers_along.hpp"

namespace plume {
namespace {

std::string address_title(const PointLattice& lattice, std::size_t index) {
    const Address at = lattice.address(index);
    const std::string text = "i " + std::to_string(at.i) + "  j " + std::to_string(at.j);
    return lattice.counts()[2] > 1 ? text + "  k " + std::to_string(at.k) : text;
}

// "3,2" as lists take it, with room to breathe.
std::string address_name(const PointLattice& lattice, std::size_t index) {
    std::string text;
    for (const char c : address_text(lattice, index))
        text += c == ',' ? std::string(", ") : std::string(1, c);
    return text;
}

Items points_of(const PointLattice& lattice) {
    return {.are = "points",
            .count = lattice.address_count(),
            .place = [&lattice](std::size_t item) { return lattice.point(item); },
            .name = [&lattice](std::size_t item) { return address_name(lattice, item); },
            .title = [&lattice](std::size_t item) { return address_title(lattice, item); },
            .fields = lattice.fields(),
            .listing = Listing{[&lattice](std::size_t item) { return address_text(lattice, item); },
                               [&lattice](std::string_view list) { return named_addresses(list, lattice); }}};
}

// Told at each look: of a line of descent that is longer, looking would be slow.
constexpr std::size_t most_generations_told = 400;

Items placements_of(const Placements& placements) {
    Items items = points_of(placements.origins());
    const auto& tree = placements.tree();
    if (!tree) return items;
    items.are = "parts";
    items.title = [&placements](std::size_t item) {
        const std::vector<std::size_t>& firsts = placements.tree()->generations;
        const auto next = std::ranges::upper_bound(firsts, item);
        return placements.tree()->name(item) + ' ' + std::to_string(item) + "  generation " +
               std::to_string(next - firsts.begin() - 1);
    };
    if (tree->descent && tree->generation_count() <= most_generations_told)
        items.why = [&placements](std::size_t item) { return placements.tree()->descent(item); };
    return items;
}

Items attractors_of(const std::vector<Attractor>& all) {
    return {.are = "attractors",
            .count = all.size(),
            .place = [&all](std::size_t item) { return all[item].position; },
            .name = [&all](std::size_t item) { return all[item].name; },
            .title =
                [&all](std::size_t item) {
                    return all[item].name + "  weight " + short_text(all[item].weight, 5);
                }};
}

// Numbers of faces that are the same all over a part.
std::vector<std::pair<std::string, Quantity>> numbers_of_part(const Mesh& mesh, std::size_t part) {
    std::vector<std::pair<std::string, Quantity>> numbers;
    const auto [begin, end] = mesh.part(part);
    for (const Field& field : mesh.face_fields()) {
        const auto values = field.values.span().subspan(begin, end - begin);
        if (std::ranges::all_of(values, [&](double value) { return value == values.front(); }))
            numbers.emplace_back(field.name, Quantity{values.front(), field.dimension});
    }
    return numbers;
}

Items parts_of(const Mesh& mesh) {
    Items items{
        .are = "parts",
        .count = mesh.face_count() > 0 ? mesh.part_count() : 0,
        .place = [&mesh](std::size_t item) { return part_place(mesh, item); },
        .place_is = in_the_middle,
        .name = [](std::size_t item) { return std::to_string(item); },
        .title =
            [&mesh](std::size_t item) {
                return "part " + std::to_string(item) + " of " + std::to_string(mesh.part_count()) +
                       (mesh.part_marks() ? ", " + mesh.part_mark(item) : "");
            },
        .listing = Listing{[](std::size_t item) { return std::to_string(item); },
                           [&mesh](std::string_view list) { return named_numbers(list, mesh.part_count()); }},
        .figures = [&mesh](std::size_t item) { return numbers_of_part(mesh, item); }};
    if (mesh.part_marks() && mesh.part_marks()->why) items.why = mesh.part_marks()->why;
    return items;
}

Items bodies_of(const SolidSet& set) {
    return {.are = "bodies",
            .count = set.bodies.size(),
            .place = [&set](std::size_t item) { return set.bodies[item].figures().centroid; },
            .place_is = in_the_middle,
            .name = [](std::size_t item) { return std::to_string(item); },
            .title =
                [&set](std::size_t item) {
                    return "body " + std::to_string(item) + " of " + std::to_string(set.bodies.size()) +
                           (set.marks ? ", " + body_mark(set, item) : "");
                },
            .fields = set.fields,
            .labelled_by = set.fields.empty() ? "" : set.fields.back().name,
            .noted = set.bodies.size() > 1};
}

Items surfaces_of(const SurfaceSet& set) {
    return {.are = "surfaces",
            .count = set.patches.size(),
            .place =
                [&set](std::size_t item) {
                    const SplineBasis &u = set.patches[item].u(), &v = set.patches[item].v();
                    return evaluate(set.patches[item], std::midpoint(u.start(), u.end()),
                                    std::midpoint(v.start(), v.end()))
                        .position;
                },
            .place_is = in_the_middle,
            .name = [](std::size_t item) { return std::to_string(item); },
            .title =
                [&set](std::size_t item) {
                    return "surface " + std::to_string(item) + " of " + std::to_string(set.patches.size());
                },
            .noted = set.patches.size() > 1};
}

Items curves_of(const std::vector<SplineCurve>& curves) {
    const auto fields = std::make_shared<const std::vector<Field>>(numbers_along(curves));
    return {.are = "curves",
            .count = curves.size(),
            .place =
                [&curves](std::size_t item) {
                    const SplineBasis& basis = curves[item].basis();
                    return evaluate(curves[item], std::midpoint(basis.start(), basis.end())).position;
                },
            .place_is = "half way",
            .name = [](std::size_t item) { return std::to_string(item); },
            .title =
                [&curves](std::size_t item) {
                    return "curve " + std::to_string(item) + " of " + std::to_string(curves.size());
                },
            .fields = *fields,
            .labelled_by = fields->empty() ? "" : fields->back().name,
            .own_fields = fields};
}

Items nodes_of(const BarFrame& frame) {
    Items nodes = points_of(frame.nodes());
    nodes.are = "nodes";
    nodes.name = [&frame](std::size_t item) { return node_mark(frame, item); };
    nodes.listing = {};
    nodes.title = [&frame](std::size_t item) { return "node " + node_mark(frame, item); };
    return nodes;
}

Items members_of(const BarFrame& frame) {
    const auto member = [&frame](std::size_t item) -> const Member& { return frame.members()[item]; };
    return {
        .are = "members",
        .count = frame.member_count(),
        .place =
            [&frame, member](std::size_t item) {
                return (frame.start(member(item)) + frame.end(member(item))) * 0.5;
            },
        .place_is = in_the_middle,
        .name = [&frame, member](std::size_t item) { return member_mark(frame, member(item)); },
        .title =
            [&frame, member](std::size_t item) {
                return member_mark(frame, member(item)) + "  " + std::string(plain_name(member(item).way)) +
                       ", row " + std::to_string(member(item).row);
            },
        .fields = frame.fields(),
        .listing = Listing{[&frame, member](std::size_t item) { return member_mark(frame, member(item)); },
                           [&frame](std::string_view list) { return named_members(list, frame); }},
        .figures =
            [&frame, member](std::size_t item) {
                return std::vector<std::pair<std::string, Quantity>>{
                    {"length", {frame.length_of(member(item)), a_length}}};
            },
        .others = std::make_shared<const Items>(nodes_of(frame))};
}

Items vertices_of(const Mesh& mesh) {
    return {.are = "vertices",
            .count = mesh.vertex_count(),
            .place = [&mesh](std::size_t item) { return mesh.vertex(item); },
            .name = [](std::size_t item) { return std::to_string(item); },
            .title = [](std::size_t item) { return "vertex " + std::to_string(item); },
            .fields = mesh.fields(),
            .listing =
                Listing{[](std::size_t item) { return std::to_string(item); },
                        [&mesh](std::string_view list) { return named_numbers(list, mesh.vertex_count()); }}};
}

bool carries(const Items& items, const std::string& field) {
    return std::ranges::find(items.fields, field, &Field::name) != items.fields.end();
}

}  // namespace

PointedAt pointed_at(const Items& items, std::size_t item) {
    return item < items.count ? PointedAt{items, item} : PointedAt{*items.others, item - items.count};
}

std::vector<Vec3> listed_places(const Items& items, std::string_view list) {
    std::vector<Vec3> places;
    const auto named = items.listing ? items.listing->named_in(list) : NamedAddresses();
    if (!named) return {};
    places.reserve(named->indices.size());
    for (const std::size_t index : named->indices)
        places.push_back(items.place(index));
    return places;
}

ItemRange labelled_items(const Items& items, const std::string& label_by) {
    if (!items.others) return {0, items.count};
    return carries(items, label_by) ? ItemRange{0, items.count} : ItemRange{items.count, items.total()};
}

Items items_of(const Value& value) {
    return std::visit(
        Overloaded{[](const PointLattice& lattice) { return points_of(lattice); },
                   [](const OnPoints auto& item) { return points_of(item.points); },
                   [](const Placements& item) { return placements_of(item); },
                   [](const Attractors& item) { return attractors_of(item.items()); },
                   [](const Mesh& mesh) { return parts_of(mesh); },
                   [](const SurfaceSet& set) { return surfaces_of(set); },
                   [](const CurveSet& set) { return curves_of(set.curves); },
                   [](const SolidSet& set) { return bodies_of(set); },
                   [](const BarFrame& frame) { return members_of(frame); },
                   [](const Quantity&) { return Items{}; }, [](const Delivery&) { return Items{}; }},
        value);
}

Items point_items_of(const Value& value) {
    if (const auto* mesh = std::get_if<Mesh>(&value)) return vertices_of(*mesh);
    const auto* frame = std::get_if<BarFrame>(&value);
    const PointLattice* lattice = frame ? &frame->nodes() : lattice_of(value);
    if (!lattice) return {};
    Items points = points_of(*lattice);
    if (frame) points.are = "nodes";
    // Gaps stand nowhere.
    points.place = [lattice](std::size_t item) {
        constexpr double none = std::numeric_limits<double>::quiet_NaN();
        return lattice->present(item) ? lattice->point(item) : Vec3{none, none, none};
    };
    return points;
}

std::string label_text(const Items& all, std::size_t item, const std::string& label_by, const Units& units) {
    const auto& [items, number] = pointed_at(all, item);
    const auto field =
        std::ranges::find(items.fields, label_by.empty() ? items.labelled_by : label_by, &Field::name);
    if (field != items.fields.end())
        return quantity_text({field->values[number], field->dimension}, units, 3);
    if (items.figures && !label_by.empty())
        for (const auto& [name, figure] : items.figures(number))
            if (name == label_by) return quantity_text(figure, units, 3);
    return items.name(number);
}

}  // namespace plume
