#include "core/data/value.hpp"

#include <algorithm>
#include <array>
#include <set>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"

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

std::string count_text(std::size_t count, std::string_view one, std::string_view many) {
    return grouped_text(static_cast<std::int64_t>(count)) + ' ' + std::string(count == 1 ? one : many);
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
    const bool one = kind == Kind::mesh || kind == Kind::surface;
    return (one ? "a " : "") + std::string(plain_name(kind));
}

std::string_view plain_name(Kind kind) {
    static constexpr std::array<std::string_view, kind_count> names{
        "points", "numbers on points",    "attractors", "mesh",    "surface",
        "curves", "directions on points", "placements", "a number"};
    return names[static_cast<std::size_t>(kind)];
}

std::string_view key_of(Kind kind) {
    static constexpr std::array<std::string_view, kind_count> keys{
        "points", "field", "attractors", "mesh", "surface", "curves", "directions", "placements", "number"};
    return keys[static_cast<std::size_t>(kind)];
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
        [&](const FieldOnPoints& item) { add_positions(counter, item.points); },
        [&](const Attractors& item) { counter.add(item.items().size() * sizeof(Attractor)); },
        [&](const Mesh& mesh) {
            add_positions(counter, mesh);
            counter.add((mesh.corner_count() + mesh.face_count() + 1) * sizeof(std::uint32_t));
        },
        [&](const SurfaceSet& set) {
            for (const SplinePatch& patch : set.patches)
                add_positions(counter, patch);
        },
        [&](const CurveSet& set) {
            for (const SplineCurve& curve : set.curves)
                add_positions(counter, curve);
        },
        [&](const DirectionsOnPoints& item) { add_positions(counter, item.points); },
        [&](const Placements& item) {
            add_positions(counter, item.origins());
            counter.add(item.frames().size() * sizeof(Frame));
        },
        [&](const Quantity&) {}};
    std::visit(add, value);
    return counter.bytes();
}

const PointLattice* lattice_of(const Value& value) {
    if (const auto* lattice = std::get_if<PointLattice>(&value)) return lattice;
    if (const auto* item = std::get_if<FieldOnPoints>(&value)) return &item->points;
    if (const auto* item = std::get_if<DirectionsOnPoints>(&value)) return &item->points;
    if (const auto* item = std::get_if<Placements>(&value)) return &item->origins();
    return nullptr;
}

std::string outline_text(const Value& value) {
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
            if (curve.basis().nodes.empty())
                return "one curve held by " + count_text(curve.basis().pole_count(), "pole", "poles") +
                       closed;
            return std::string(curve.basis().degree == 1 ? "one polyline through "
                                                         : "one smooth curve through ") +
                   count_text(curve.basis().nodes.size(), "point", "points") + closed;
        },
        [](const DirectionsOnPoints& item) {
            return count_text(item.points.point_count(), "direction", "directions");
        },
        [](const Placements& item) {
            return count_text(item.origins().point_count(), "placement", "placements");
        },
        [](const Quantity&) { return std::string("one number"); }};
    return std::visit(text, value);
}

std::vector<std::string> field_names(const Value& value) {
    const std::vector<Field>* fields = nullptr;
    if (const PointLattice* lattice = lattice_of(value))
        fields = &lattice->fields();
    else if (const auto* mesh = std::get_if<Mesh>(&value))
        fields = &mesh->fields();
    else if (const auto* set = std::get_if<SurfaceSet>(&value); set && !set->patches.empty())
        fields = &set->patches.front().fields();
    else if (const auto* curves = std::get_if<CurveSet>(&value); curves && !curves->curves.empty())
        fields = &curves->curves.front().fields();
    std::vector<std::string> names;
    if (fields)
        for (const Field& field : *fields)
            names.push_back(field.name);
    if (const auto* item = std::get_if<FieldOnPoints>(&value)) {
        std::erase(names, item->name);
        names.push_back(item->name);
    }
    return names;
}

}  // namespace plume
