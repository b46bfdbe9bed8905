#include "core/results/columns.hpp"

#include <algorithm>
#include <cmath>
#include <memory>

#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/data/delivery.hpp"
#include "core/data/on_points.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_nodes.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/results/frame_columns.hpp"
#include "core/results/numbers_along.hpp"
#include "core/results/panel_columns.hpp"
#include "core/results/table_making.hpp"

namespace plume {

using namespace table_making;

namespace {

// Coordinates and fields of what has one entry a row, or one at rows[row].
using Rows = std::shared_ptr<const std::vector<std::size_t>>;

void add_column(Table& table, const std::string& name, const Column& values, Dimension dimension,
                const Rows& rows) {
    if (rows)
        add(table, name, dimension, [values, rows](std::size_t row) { return values[(*rows)[row]]; });
    else
        add(table, name, dimension, [values](std::size_t row) { return values[row]; });
}

template <class Positioned>
void add_positions(Table& table, const Positioned& item, const Rows& rows = {}) {
    add_column(table, "x", item.x(), a_length, rows);
    add_column(table, "y", item.y(), a_length, rows);
    add_column(table, "z", item.z(), a_length, rows);
    for (const Field& field : item.fields())
        add_column(table, field.name, field.values, field.dimension, rows);
}

// Items are addresses ------------------------------------------------------------------------------------

// Addresses of the rows; nothing where every address has one.
Rows present_rows(const PointLattice& lattice) {
    if (!lattice.has_gaps()) return {};
    std::vector<std::size_t> rows;
    rows.reserve(lattice.point_count());
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (lattice.present(index)) rows.push_back(index);
    return std::make_shared<const std::vector<std::size_t>>(std::move(rows));
}

Table with_points(const PointLattice& lattice, const char* rows_are) {
    const Rows rows = present_rows(lattice);
    Table table{{}, lattice.point_count(), rows_are};
    table.item_of_row = [rows](std::size_t row) { return std::optional(rows ? (*rows)[row] : row); };
    table.row_of_item = [rows, count = table.row_count](std::size_t item) -> std::optional<std::size_t> {
        if (!rows) return item < count ? std::optional(item) : std::nullopt;
        const auto found = std::ranges::lower_bound(*rows, item);
        if (found == rows->end() || *found != item) return {};
        return static_cast<std::size_t>(found - rows->begin());
    };
    const std::pair<const char*, std::size_t Address::*> parts[] = {
        {"i", &Address::i}, {"j", &Address::j}, {"k", &Address::k}};
    for (std::size_t d = 0; d < 3; ++d)
        add_whole(table, parts[d].first, d > 0 && lattice.counts()[d] == 1,
                  [&lattice, rows, part = parts[d].second](std::size_t row) {
                      return static_cast<double>(lattice.address(rows ? (*rows)[row] : row).*part);
                  });
    add_positions(table, lattice, rows);
    return table;
}

Table placements_table(const Placements& placements) {
    Table table = with_points(placements.origins(), "placements");
    if (const PartTree* tree = placements.tree().get()) {
        add_text(table, "part",
                 [tree, at = table.item_of_row](std::size_t row) { return tree->name(*at(row)); });
        add_text(table, "came of", [tree, at = table.item_of_row](std::size_t row) {
            const std::uint32_t parent = tree->parents[*at(row)];
            return parent == PartTree::none ? std::string() : std::to_string(parent);
        });
    }
    const std::pair<const char*, Vec3 Placement::*> axes[] = {
        {"along", &Placement::along}, {"across", &Placement::across}, {"up", &Placement::up}};
    for (const auto& [axis_name, axis] : axes)
        for (const auto& [part_name, part] : coordinates)
            add(table, std::string(axis_name) + '_' + part_name, plain_number,
                [&placements, at = table.item_of_row, axis = axis, part = part](std::size_t row) {
                    return placements.placement(*at(row)).*axis.*part;
                });
    return table;
}

Table attractors_table(const std::vector<Attractor>& items) {
    Table table{{}, items.size(), "attractors"};
    let_rows_be_items(table);
    add_text(table, "name", [&items](std::size_t row) { return items[row].name; });
    for (const auto& [name, part] : coordinates)
        add(table, name, a_length,
            [&items, part = part](std::size_t row) { return items[row].position.*part; });
    add(table, "weight", plain_number, [&items](std::size_t row) { return items[row].weight; });
    return table;
}

// Items are parts ----------------------------------------------------------------------------------------

void let_rows_be(PartSort sort, Table& table) {
    table.part_of_row = [sort](std::size_t row) { return PartRef{sort, row}; };
    table.row_of_part = [sort, count = table.row_count](PartRef part) {
        return part.sort == sort && part.number < count ? std::optional(part.number) : std::nullopt;
    };
}

Table vertices_table(const Mesh& mesh) {
    Table table{{}, mesh.vertex_count(), "vertices"};
    add_whole(table, "vertex", false, [](std::size_t row) { return static_cast<double>(row); });
    std::vector<std::uint32_t> parts(mesh.part_count() > 1 ? mesh.vertex_count() : 0, 0);
    for (std::size_t part = 0; part < mesh.part_count() && !parts.empty(); ++part)
        for (std::size_t face = mesh.part(part).begin; face < mesh.part(part).end; ++face)
            for (const std::uint32_t corner : mesh.face(face))
                parts[corner] = static_cast<std::uint32_t>(part);
    const auto part_of = std::make_shared<const std::vector<std::uint32_t>>(std::move(parts));
    if (mesh.part_count() > 1)
        add_whole(table, "part", false,
                  [part_of](std::size_t row) { return static_cast<double>((*part_of)[row]); });
    add_positions(table, mesh);
    table.item_of_row = [part_of](std::size_t row) {
        return std::optional<std::size_t>(part_of->empty() ? 0 : (*part_of)[row]);
    };
    let_rows_be(PartSort::vertex, table);
    // A part's first vertex stands for it.
    table.row_of_item = [&mesh](std::size_t item) -> std::optional<std::size_t> {
        if (item >= mesh.part_count() || mesh.face_count() == 0) return {};
        std::size_t first = mesh.vertex_count();
        for (std::size_t face = mesh.part(item).begin; face < mesh.part(item).end; ++face)
            for (const std::uint32_t corner : mesh.face(face))
                first = std::min<std::size_t>(first, corner);
        return first;
    };
    return table;
}

Table faces_table(const Mesh& mesh) {
    Table table{{}, mesh.face_count(), "faces"};
    add_whole(table, "face", false, [](std::size_t row) { return static_cast<double>(row); });
    add_whole(table, "part", mesh.part_count() == 1,
              [&mesh](std::size_t row) { return static_cast<double>(mesh.part_of(row)); });
    add_whole(table, "corners", false,
              [&mesh](std::size_t row) { return static_cast<double>(mesh.face(row).size()); });
    for (const auto& [name, part] : coordinates)
        add(table, name, a_length,
            [&mesh, part = part](std::size_t row) { return face_middle(mesh, row).*part; });
    for (const Field& field : mesh.face_fields())
        add_column(table, field.name, field.values, field.dimension, {});
    table.item_of_row = [&mesh](std::size_t row) { return std::optional(mesh.part_of(row)); };
    let_rows_be(PartSort::face, table);
    table.row_of_item = [&mesh](std::size_t item) -> std::optional<std::size_t> {
        if (item >= mesh.part_count() || mesh.face_count() == 0) return {};
        return mesh.part(item).begin;
    };
    return table;
}

// Whether numbers of faces are the same all over each part: then they are the part's.
bool parts_have_numbers(const Mesh& mesh) {
    if (mesh.part_count() == 1) return false;
    const auto alike = [](double a, double b) { return a == b || (std::isnan(a) && std::isnan(b)); };
    return std::ranges::all_of(mesh.face_fields(), [&](const Field& field) {
        for (std::size_t part = 0; part < mesh.part_count(); ++part)
            for (std::size_t face = mesh.part(part).begin + 1; face < mesh.part(part).end; ++face)
                if (!alike(field.values[face], field.values[face - 1])) return false;
        return true;
    });
}

// Bars, panels: a row each.
Table parts_table(const Mesh& mesh) {
    Table table{{}, mesh.part_count(), "parts"};
    let_rows_be_items(table);
    add_whole(table, "part", false, [](std::size_t row) { return static_cast<double>(row); });
    if (mesh.part_marks()) add_text(table, "mark", [&mesh](std::size_t row) { return mesh.part_mark(row); });
    for (const Field& field : mesh.face_fields()) {
        add(table, field.name, field.dimension,
            [&mesh, values = field.values](std::size_t row) { return values[mesh.part(row).begin]; });
        mark_if_whole(table.columns.back(), table.row_count);
    }
    if (are_panels(mesh)) add_panel_shapes(table, mesh);
    for (const auto& [name, part] : coordinates)
        add(table, name, a_length,
            [&mesh, part = part](std::size_t row) { return part_place(mesh, row).*part; });
    return table;
}

Table bodies_table(const SolidSet& set) {
    const std::vector<Body>& bodies = set.bodies;
    Table table{{}, bodies.size(), "bodies"};
    let_rows_be_items(table);
    add_whole(table, "body", false, [](std::size_t row) { return static_cast<double>(row); });
    if (set.marks) add_text(table, "mark", [&set](std::size_t row) { return body_mark(set, row); });
    add_whole(table, "faces", false,
              [&bodies](std::size_t row) { return static_cast<double>(bodies[row].face_count()); });
    add(table, "volume", {3, 0}, [&bodies](std::size_t row) { return bodies[row].figures().volume; });
    add(table, "area", {2, 0}, [&bodies](std::size_t row) { return bodies[row].figures().area; });
    for (const auto& [name, part] : coordinates)
        add(table, name, a_length,
            [&bodies, part = part](std::size_t row) { return bodies[row].figures().centroid.*part; });
    for (const Field& field : set.fields)
        add_column(table, field.name, field.values, field.dimension, {});
    return table;
}

// Nothing of them is an item -----------------------------------------------------------------------------

Table without_items(std::size_t row_count, const char* rows_are) {
    Table table{{}, row_count, rows_are};
    table.item_of_row = table.row_of_item = [](std::size_t) { return std::optional<std::size_t>(); };
    return table;
}

// A row of the table of curves.
struct OnCurve {
    std::size_t curve = 0, point = 0;
    double share = 0, along = 0;
    Vec3 place;
    std::vector<double> fields;
};

// The rows of curves, measured one curve at a time when one of its rows is asked for: a reader looks at few.
class CurveRows {
public:
    explicit CurveRows(const CurveSet& set) : set_(set), points_(set.curves.size()) {
        for (const SplineCurve& curve : set.curves)
            starts_.push_back(starts_.back() + node_count(curve));
    }
    std::size_t count() const { return starts_.back(); }
    std::size_t curve_of(std::size_t row) const {
        return static_cast<std::size_t>(std::ranges::upper_bound(starts_, row) - starts_.begin()) - 1;
    }
    std::size_t first_row_of(std::size_t curve) const { return starts_[curve]; }
    const OnCurve& at(std::size_t row) {
        const std::size_t curve = curve_of(row);
        if (points_[curve].empty()) points_[curve] = measured(curve);
        return points_[curve][row - starts_[curve]];
    }

private:
    std::vector<OnCurve> measured(std::size_t number) const {
        const SplineCurve& curve = set_.curves[number];
        const CurveLength measure(curve);
        const std::vector<double> parameters = node_parameters(curve);
        std::vector<OnCurve> points;
        points.reserve(parameters.size());
        for (std::size_t at = 0; at < parameters.size(); ++at) {
            OnCurve point{number, at, 0, measure.length_at(parameters[at]), {}, {}};
            point.share = measure.total() > 0 ? point.along / measure.total() : 0;
            point.place = evaluate(curve, parameters[at]).position;
            for (const Field& field : set_.curves.front().fields())
                point.fields.push_back(field_at(curve, field.name, parameters[at]));
            points.push_back(std::move(point));
        }
        return points;
    }

    const CurveSet& set_;
    std::vector<std::size_t> starts_{0};  // the first row of each curve, and how many there are
    std::vector<std::vector<OnCurve>> points_;
};

Table curves_table(const CurveSet& set) {
    const auto rows = std::make_shared<CurveRows>(set);
    Table table{{}, rows->count(), "points on curves"};
    table.item_of_row = [rows](std::size_t row) { return std::optional(rows->curve_of(row)); };
    let_rows_be(PartSort::vertex, table);
    // A curve's first point stands for it.
    table.row_of_item = [rows, count = set.curves.size()](std::size_t item) {
        return item < count ? std::optional(rows->first_row_of(item)) : std::nullopt;
    };
    const auto whole = [&](const char* name, bool idle, std::size_t OnCurve::*number) {
        add_whole(table, name, idle,
                  [rows, number](std::size_t row) { return static_cast<double>(rows->at(row).*number); });
    };
    const auto column = [&](const char* name, Dimension dimension, auto number) {
        add(table, name, dimension, [rows, number](std::size_t row) { return number(rows->at(row)); });
    };
    whole("curve", set.curves.size() == 1, &OnCurve::curve);
    whole("point", false, &OnCurve::point);
    column("u", plain_number, [](const OnCurve& point) { return point.share; });
    column("s", a_length, [](const OnCurve& point) { return point.along; });
    for (const auto& [name, part] : coordinates)
        column(name, a_length, [part = part](const OnCurve& point) { return point.place.*part; });
    if (set.curves.empty()) return table;
    const std::vector<Field>& fields = set.curves.front().fields();
    for (std::size_t at = 0; at < fields.size(); ++at)
        column(fields[at].name.c_str(), fields[at].dimension,
               [at](const OnCurve& point) { return point.fields[at]; });
    return table;
}

Table whole_curves_table(const CurveSet& set) {
    const std::vector<SplineCurve>& curves = set.curves;
    Table table{{}, curves.size(), "curves"};
    let_rows_be_items(table);
    add_whole(table, "curve", false, [](std::size_t row) { return static_cast<double>(row); });
    add(table, "length", a_length, [&curves](std::size_t row) { return CurveLength(curves[row]).total(); });
    add_text(table, "ends",
             [&curves](std::size_t row) { return std::string(curves[row].closed() ? "closed" : "open"); });
    add_whole(table, "points", false,
              [&curves](std::size_t row) { return static_cast<double>(node_count(curves[row])); });
    for (const Field& field : numbers_along(curves))
        add_field(table, field);
    return table;
}

// Patches one after the other.
Table poles_table(const SurfaceSet& set) {
    const auto starts = std::make_shared<std::vector<std::size_t>>(1, 0);
    for (const SplinePatch& patch : set.patches)
        starts->push_back(starts->back() + patch.x().size());
    Table table = without_items(starts->back(), "poles");
    const auto patch_of = [starts](std::size_t row) {
        return static_cast<std::size_t>(std::ranges::upper_bound(*starts, row) - starts->begin()) - 1;
    };
    // A row leads to its surface, but no pole stands for one.
    table.item_of_row = [patch_of](std::size_t row) { return std::optional(patch_of(row)); };
    add_whole(table, "surface", set.patches.size() == 1,
              [patch_of](std::size_t row) { return static_cast<double>(patch_of(row)); });
    add_whole(table, "pole", false, [patch_of, starts](std::size_t row) {
        return static_cast<double>(row - (*starts)[patch_of(row)]);
    });
    const std::pair<const char*, const Column& (SplinePatch::*)() const> columns[] = {
        {"x", &SplinePatch::x}, {"y", &SplinePatch::y}, {"z", &SplinePatch::z}};
    for (const auto& [name, column] : columns)
        add(table, name, a_length, [&set, patch_of, starts, column = column](std::size_t row) {
            const std::size_t patch = patch_of(row);
            return (set.patches[patch].*column)()[row - (*starts)[patch]];
        });
    return table;
}

Table number_table(const Quantity& number) {
    Table table = without_items(1, "number");
    add(table, "value", number.dimension, [value = number.value](std::size_t) { return value; });
    return table;
}

Table given_table(const DeliveryContent& delivery) {
    Table table = without_items(delivery.results.size(), "results");
    const auto add_text = [&](const char* name, auto text) {
        TableColumn column{name, plain_number, {}};
        column.text = [&delivery, text](std::size_t row) { return std::string(text(delivery.results[row])); };
        table.columns.push_back(std::move(column));
    };
    add_text("result", [](const GivenResult& given) { return given.name; });
    add_text("holds", [](const GivenResult& given) { return plain_name(kind_of(*given.value)); });
    add_text("given as", [](const GivenResult& given) { return given.as; });
    return table;
}

}  // namespace

std::string list_text(const std::vector<double>& numbers, double factor) {
    std::string text;
    for (const double number : numbers)
        text += (text.empty() ? "" : " ") + short_text(number * factor, 7);
    return text;
}

std::vector<std::string> rows_of(const Value& value) {
    using Names = std::vector<std::string>;
    return std::visit(
        Overloaded{[](const PointLattice&) { return Names{"points"}; },
                   [](const OnPoints auto&) { return Names{"points"}; },
                   [](const Placements&) { return Names{"placements"}; },
                   [](const Attractors&) { return Names{"attractors"}; },
                   [](const Mesh& mesh) {
                       if (mesh.face_fields().empty()) return Names{"vertices"};
                       return parts_have_numbers(mesh) ? Names{"parts", "faces"} : Names{"faces"};
                   },
                   [](const SurfaceSet&) { return Names{"poles"}; },
                   [](const CurveSet&) {
                       return Names{"points on curves", "curves"};
                   },
                   [](const SolidSet&) { return Names{"bodies"}; },
                   [](const BarFrame&) {
                       return Names{"members", "nodes"};
                   },
                   [](const Quantity&) { return Names{"number"}; },
                   [](const Delivery&) { return Names{"results"}; }},
        value);
}

Table columns_of(const Value& value, std::string_view rows) {
    if (rows.empty()) return columns_of(value, rows_of(value).front());
    return std::visit(Overloaded{[](const PointLattice& lattice) { return with_points(lattice, "points"); },
                                 [](const OnPoints auto& item) { return with_points(item.points, "points"); },
                                 [](const Placements& item) { return placements_table(item); },
                                 [](const Attractors& item) { return attractors_table(item.items()); },
                                 [&](const Mesh& mesh) {
                                     if (rows == "vertices") return vertices_table(mesh);
                                     return rows == "parts" ? parts_table(mesh) : faces_table(mesh);
                                 },
                                 [](const SurfaceSet& set) { return poles_table(set); },
                                 [&](const CurveSet& set) {
                                     return rows == "curves" ? whole_curves_table(set) : curves_table(set);
                                 },
                                 [](const SolidSet& set) { return bodies_table(set); },
                                 [&](const BarFrame& frame) {
                                     return rows == "nodes" ? nodes_table(frame) : members_table(frame);
                                 },
                                 [](const Quantity& number) { return number_table(number); },
                                 [](const Delivery& delivery) { return given_table(*delivery); }},
                      value);
}

}  // namespace plume
