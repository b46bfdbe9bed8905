#include "core/data/value.hpp"

#include <algorithm>
#include <array>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/base/text.hpp"
#include "core/data/delivery.hpp"
#include "core/data/on_points.hpp"

namespace plume {
namespace {

class ByteCounter {
public:
    explicit ByteCounter(SeenColumns& seen) : seen_(seen) {}
    void add(const Column& column) {
        if (seen_.insert(column.data()).second) bytes_ += column.size() * sizeof(double);
    }
    void add(std::size_t bytes) { bytes_ += bytes; }
    void add(const std::vector<Field>& fields) {
        for (const Field& field : fields)
            add(field.values);
    }
    std::size_t bytes() const { return bytes_; }

private:
    SeenColumns& seen_;
    std::size_t bytes_ = 0;
};

template <class Positioned>
void add_positions(ByteCounter& counter, const Positioned& item) {
    counter.add(item.x());
    counter.add(item.y());
    counter.add(item.z());
    counter.add(item.fields());
}

void add_mesh(ByteCounter& counter, const Mesh& mesh) {
    add_positions(counter, mesh);
    counter.add(mesh.face_fields());
    counter.add((mesh.corner_count() + mesh.face_count() + 1) * sizeof(std::uint32_t));
}

struct KindWords {
    std::string_view key, name;
    std::string article;
};

const KindWords& words_of(Kind kind) {
    static const std::array<KindWords, kind_count> words{{{"points", "points", ""},
                                                          {"field", "numbers on points", ""},
                                                          {"attractors", "attractors", ""},
                                                          {"mesh", "mesh", "a "},
                                                          {"surface", "surface", "a "},
                                                          {"curves", "curves", ""},
                                                          {"directions", "directions on points", ""},
                                                          {"placements", "placements", ""},
                                                          {"bodies", "bodies", ""},
                                                          {"frame", "frame", "a "},
                                                          {"number", "a number", ""},
                                                          {"delivery", "delivery", "a "}}};
    return words[static_cast<std::size_t>(kind)];
}

}  // namespace

DirectionsOnPoints with_directions(const PointLattice& points, const std::string& name, Doubles x, Doubles y,
                                   Doubles z, Dimension dimension) {
    return {points.with_field({name + "_x", std::move(x), dimension})
                .with_field({name + "_y", std::move(y), dimension})
                .with_field({name + "_z", std::move(z), dimension}),
            name};
}

Kind kind_of(const Value& value) {
    return static_cast<Kind>(value.index());
}

std::string with_article(Kind kind) {
    return words_of(kind).article + std::string(plain_name(kind));
}

std::string_view plain_name(Kind kind) {
    return words_of(kind).name;
}

std::string_view key_of(Kind kind) {
    return words_of(kind).key;
}

std::size_t bytes_of(const Value& value) {
    SeenColumns seen;
    return bytes_of(value, seen);
}

std::size_t bytes_of(const Value& value, SeenColumns& seen) {
    ByteCounter counter(seen);
    counter.add(sizeof(Value));
    const Overloaded add{
        [&](const PointLattice& lattice) {
            add_positions(counter, lattice);
            if (lattice.has_gaps()) counter.add(lattice.address_count());
        },
        [&](const OnPoints auto& item) { add_positions(counter, item.points); },
        [&](const Attractors& item) { counter.add(item.items().size() * sizeof(Attractor)); },
        [&](const Mesh& mesh) { add_mesh(counter, mesh); },
        [&](const SurfaceSet& set) {
            for (const SplinePatch& patch : set.patches)
                add_positions(counter, patch);
        },
        [&](const CurveSet& set) {
            for (const SplineCurve& curve : set.curves)
                add_positions(counter, curve);
        },
        [&](const Placements& item) {
            add_positions(counter, item.origins());
            counter.add(item.placements().size() * sizeof(Placement));
            if (item.tree()) counter.add(item.placements().size() * bytes_in_tree);
        },
        [&](const SolidSet& set) {
            for (const Field& field : set.fields)
                counter.add(field.values);
            for (const Body& body : set.bodies) {
                if (body.mesh_besides()) add_mesh(counter, *body.mesh_besides());
                for (const SplinePatch& patch : body.patches())
                    add_positions(counter, patch);
            }
        },
        [&](const BarFrame& frame) {
            add_positions(counter, frame.nodes());
            counter.add(frame.fields());
            counter.add(frame.member_count() * sizeof(Member) + frame.nodes().address_count());
        },
        // What it gives is held by the steps above.
        [](const Quantity&) {}, [](const Delivery&) {}};
    std::visit(add, value);
    return counter.bytes();
}

const PointLattice* lattice_of(const Value& value) {
    using Found = const PointLattice*;
    return std::visit(Overloaded{[](const PointLattice& lattice) -> Found { return &lattice; },
                                 [](const OnPoints auto& item) -> Found { return &item.points; },
                                 [](const Placements& item) -> Found { return &item.origins(); },
                                 [](const Attractors&) -> Found { return nullptr; },
                                 [](const Mesh&) -> Found { return nullptr; },
                                 [](const SurfaceSet&) -> Found { return nullptr; },
                                 [](const CurveSet&) -> Found { return nullptr; },
                                 [](const SolidSet&) -> Found { return nullptr; },
                                 [](const BarFrame& frame) -> Found { return &frame.nodes(); },
                                 [](const Quantity&) -> Found { return nullptr; },
                                 [](const Delivery&) -> Found { return nullptr; }},
                      value);
}

const Field* field_in_hand(const Value& value) {
    const auto* item = std::get_if<FieldOnPoints>(&value);
    return item ? &item->field() : nullptr;
}

std::optional<Quantity> number_of(const Value& value) {
    const auto* number = std::get_if<Quantity>(&value);
    return number ? std::optional(*number) : std::nullopt;
}

std::string outline_text(const Value& value, const Units& units) {
    const Overloaded text{
        [](const PointLattice& lattice) { return arrangement_text(lattice); },
        [](const FieldOnPoints& item) { return count_text(item.points.point_count(), "number", "numbers"); },
        [](const Attractors& item) { return count_text(item.items().size(), "attractor", "attractors"); },
        [](const Mesh& mesh) {
            const std::string parts =
                mesh.part_count() > 1 ? ", " + count_text(mesh.part_count(), "part", "parts") : "";
            return count_text(mesh.face_count(), "face", "faces") + ", " +
                   count_text(mesh.vertex_count(), "vertex", "vertices") + parts;
        },
        [](const SurfaceSet& set) {
            if (set.patches.size() != 1) return count_text(set.patches.size(), "surface", "surfaces");
            const SplinePatch& patch = set.patches.front();
            return "one surface, " + std::to_string(patch.u().pole_count()) + " × " +
                   std::to_string(patch.v().pole_count()) + " poles";
        },
        [](const CurveSet& set) {
            if (set.curves.size() != 1) return count_text(set.curves.size(), "curve", "curves");
            const SplineCurve& curve = set.curves.front();
            const std::string closed = curve.closed() ? ", closed" : "";
            const SplineBasis& basis = curve.basis();
            // The first poles of a closed one stand behind its last again.
            const std::size_t repeated = basis.closed ? static_cast<std::size_t>(basis.degree) : 0;
            if (basis.nodes.empty())
                return "one curve held by " + count_text(basis.pole_count() - repeated, "pole", "poles") +
                       closed;
            const char* const shape = basis.degree == 1  ? "one polyline through "
                                      : curve.rational() ? "one curve with arcs through "
                                                         : "one smooth curve through ";
            return shape + count_text(curve.basis().nodes.size(), "point", "points") + closed;
        },
        [](const DirectionsOnPoints& item) {
            return count_text(item.points.point_count(), "direction", "directions");
        },
        [](const Placements& item) {
            if (item.tree())
                return count_text(item.origins().point_count(), "part", "parts") + " grown over " +
                       count_text(item.tree()->generation_count() - 1, "generation", "generations");
            return count_text(item.origins().point_count(), "placement", "placements");
        },
        [&](const SolidSet& set) {
            std::size_t faces = 0;
            for (const Body& body : set.bodies)
                faces += body.face_count();
            return count_text(set.bodies.size(), "body", "bodies") + ", " +
                   count_text(faces, "face", "faces") + ", " +
                   quantity_text({figures_of(set).volume, {3, 0}}, units);
        },
        [](const BarFrame& frame) {
            return count_text(frame.member_count(), "member", "members") + ", " +
                   count_text(frame.node_count(), "node", "nodes");
        },
        [&](const Quantity& number) { return quantity_text(number, units, 6); },
        [](const Delivery& delivery) { return outline_text(*delivery); }};
    return std::visit(text, value);
}

std::vector<std::string> field_names(const Value& value) {
    using Fields = std::span<const Field>;
    const Overloaded carried{[](const PointLattice& lattice) -> Fields { return lattice.fields(); },
                             [](const OnPoints auto& item) -> Fields { return item.points.fields(); },
                             [](const Placements& item) -> Fields { return item.origins().fields(); },
                             [](const Attractors&) -> Fields { return {}; },
                             [](const Mesh& mesh) -> Fields { return mesh.fields(); },
                             [](const SurfaceSet& set) -> Fields {
                                 return set.patches.empty() ? Fields() : Fields(set.patches.front().fields());
                             },
                             [](const CurveSet& set) -> Fields {
                                 return set.curves.empty() ? Fields() : Fields(set.curves.front().fields());
                             },
                             [](const SolidSet& set) -> Fields {
                                 if (set.bodies.empty()) return {};
                                 const Body& body = set.bodies.front();
                                 return body.exact() ? body.patches().front().fields() : body.mesh().fields();
                             },
                             [](const BarFrame& frame) -> Fields { return frame.nodes().fields(); },
                             [](const Quantity&) -> Fields { return {}; },
                             [](const Delivery&) -> Fields { return {}; }};
    std::vector<std::string> names;
    for (const Field& field : std::visit(carried, value))
        names.push_back(field.name);
    if (const auto* set = std::get_if<SolidSet>(&value))
        for (const Field& field : set->fields)
            names.push_back(field.name);
    if (const auto* mesh = std::get_if<Mesh>(&value))
        for (const Field& field : mesh->face_fields()) {
            std::erase(names, field.name);
            names.push_back(field.name);
        }
    if (const auto* frame = std::get_if<BarFrame>(&value))
        for (const Field& field : frame->fields()) {
            std::erase(names, field.name);
            names.push_back(field.name);
        }
    if (const auto* item = std::get_if<FieldOnPoints>(&value)) {
        std::erase(names, item->name);
        names.push_back(item->name);
    }
    return names;
}

}  // namespace plume
