#include "core/exchange/value_table.hpp"

#include <memory>

#include "core/base/overloaded.hpp"
#include "core/geometry/curve_division.hpp"
#include "core/geometry/spline_basis.hpp"

namespace plume {
namespace {

void add(ValueTable& table, std::string name, Dimension dimension,
         std::function<double(std::size_t)> number) {
    table.columns.push_back({std::move(name), dimension, std::move(number)});
}

// Addresses of the rows.
using Rows = std::shared_ptr<const std::vector<std::size_t>>;

Rows present_rows(const PointLattice& lattice) {
    std::vector<std::size_t> rows;
    rows.reserve(lattice.point_count());
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (lattice.present(index)) rows.push_back(index);
    return std::make_shared<const std::vector<std::size_t>>(std::move(rows));
}

ValueTable with_points(const PointLattice& lattice, const Rows& rows) {
    ValueTable table{{}, rows->size(), "points"};
    const auto address = [&](const char* name, auto part) {
        add(table, name, plain_number, [&lattice, rows, part](std::size_t row) {
            return static_cast<double>(lattice.address((*rows)[row]).*part);
        });
    };
    address("i", &Address::i);
    address("j", &Address::j);
    address("k", &Address::k);
    const auto column = [&](const std::string& name, const Column& values, Dimension dimension) {
        add(table, name, dimension, [values, rows](std::size_t row) { return values[(*rows)[row]]; });
    };
    column("x", lattice.x(), a_length);
    column("y", lattice.y(), a_length);
    column("z", lattice.z(), a_length);
    for (const Field& field : lattice.fields())
        column(field.name, field.values, field.dimension);
    return table;
}

ValueTable table(const PointLattice& lattice) {
    return with_points(lattice, present_rows(lattice));
}

ValueTable table(const Placements& placements) {
    const Rows rows = present_rows(placements.origins());
    ValueTable table = with_points(placements.origins(), rows);
    table.rows_are = "placements";
    const std::pair<const char*, Vec3 Frame::*> axes[] = {
        {"along", &Frame::along}, {"across", &Frame::across}, {"up", &Frame::up}};
    const std::pair<const char*, double Vec3::*> parts[] = {
        {"_x", &Vec3::x}, {"_y", &Vec3::y}, {"_z", &Vec3::z}};
    for (const auto& [axis_name, axis] : axes)
        for (const auto& [part_name, part] : parts)
            add(table, std::string(axis_name) + part_name, plain_number,
                [&placements, rows, axis = axis, part = part](std::size_t row) {
                    return placements.frame((*rows)[row]).*axis.*part;
                });
    return table;
}

ValueTable table(const Attractors& attractors) {
    const std::vector<Attractor>& items = attractors.items();
    ValueTable table{{}, items.size(), "attractors"};
    table.columns.push_back(
        {"name", plain_number, {}, [&items](std::size_t row) { return items[row].name; }});
    const std::pair<const char*, double Vec3::*> parts[] = {
        {"x", &Vec3::x}, {"y", &Vec3::y}, {"z", &Vec3::z}};
    for (const auto& [name, part] : parts)
        add(table, name, a_length,
            [&items, part = part](std::size_t row) { return items[row].position.*part; });
    add(table, "weight", plain_number, [&items](std::size_t row) { return items[row].weight; });
    return table;
}

// A row of the table of curves.
struct OnCurve {
    std::size_t curve = 0, point = 0;
    double share = 0, along = 0;
    Vec3 place;
    std::vector<double> fields;
};

std::vector<double> parameters_of(const SplineCurve& curve) {
    std::vector<double> parameters = breaks_of(curve.basis());
    if (curve.closed()) parameters.pop_back();
    return parameters;
}

std::vector<OnCurve> points_of(const CurveSet& set) {
    std::vector<OnCurve> points;
    for (std::size_t number = 0; number < set.curves.size(); ++number) {
        const SplineCurve& curve = set.curves[number];
        const CurveLength measure(curve);
        const std::vector<double> parameters = parameters_of(curve);
        for (std::size_t at = 0; at < parameters.size(); ++at) {
            OnCurve point{number, at, 0, measure.length_at(parameters[at]), {}, {}};
            point.share = measure.total() > 0 ? point.along / measure.total() : 0;
            point.place = evaluate(curve, parameters[at]).position;
            for (const Field& field : set.curves.front().fields())
                point.fields.push_back(field_at(curve, field.name, parameters[at]));
            points.push_back(std::move(point));
        }
    }
    return points;
}

ValueTable table(const CurveSet& set) {
    const auto points = std::make_shared<const std::vector<OnCurve>>(points_of(set));
    ValueTable table{{}, points->size(), "points on curves"};
    const auto column = [&](const char* name, Dimension dimension, auto number) {
        add(table, name, dimension,
            [points, number](std::size_t row) { return static_cast<double>(number((*points)[row])); });
    };
    column("curve", plain_number, [](const OnCurve& point) { return point.curve; });
    column("point", plain_number, [](const OnCurve& point) { return point.point; });
    column("u", plain_number, [](const OnCurve& point) { return point.share; });
    column("s", a_length, [](const OnCurve& point) { return point.along; });
    column("x", a_length, [](const OnCurve& point) { return point.place.x; });
    column("y", a_length, [](const OnCurve& point) { return point.place.y; });
    column("z", a_length, [](const OnCurve& point) { return point.place.z; });
    if (set.curves.empty()) return table;
    const std::vector<Field>& fields = set.curves.front().fields();
    for (std::size_t at = 0; at < fields.size(); ++at)
        add(table, fields[at].name, fields[at].dimension,
            [points, at](std::size_t row) { return (*points)[row].fields[at]; });
    return table;
}

ValueTable table(const Quantity& number) {
    ValueTable table{{}, 1, "number"};
    add(table, "value", number.dimension, [value = number.value](std::size_t) { return value; });
    return table;
}

Error no_points(Kind kind) {
    return {ErrorCode::wrong_kind, "", "has no points of its own: it holds " + with_article(kind),
            "Choose the points it was made from."};
}

}  // namespace

Result<ValueTable> table_of(const Value& value) {
    using Made = Result<ValueTable>;
    Made made =
        std::visit(Overloaded{[](const FieldOnPoints& item) -> Made { return table(item.points); },
                              [](const DirectionsOnPoints& item) -> Made { return table(item.points); },
                              [](const Mesh&) -> Made { return no_points(Kind::mesh); },
                              [](const SurfaceSet&) -> Made { return no_points(Kind::surface); },
                              [](const auto& item) -> Made { return table(item); }},
                   value);
    if (made && made->row_count == 0)
        return Error{ErrorCode::nothing_to_write, "", "is empty",
                     "Choose a result that has something in it."};
    return made;
}

}  // namespace plume
