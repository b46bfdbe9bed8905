#include "core/steps/points/table_points.hpp"

#include <algorithm>

#include "core/assets/point_table.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/base/unique_names.hpp"
#include "core/formula/expression.hpp"

namespace plume {
namespace {

Column scaled(const Column& column, double factor) {
    if (factor == 1) return column;
    Doubles values(column.span().begin(), column.span().end());
    for (double& value : values)
        value *= factor;
    return Column(std::move(values));
}

// The points in study units, with fields that formulas can read; says which labels had to change.
Result<PointLattice> for_study(const PointLattice& points, const Inputs& in, const Run& run) {
    const double factor = internal_per_plain(a_length, in.text_units(), in.units());
    PointLattice::Parts parts;
    parts.arrangement = points.arrangement();
    parts.counts = points.counts();
    parts.x = scaled(points.x(), factor);
    parts.y = scaled(points.y(), factor);
    parts.z = scaled(points.z(), factor);
    constexpr int most_told = 6;
    int changes = 0;
    std::string changed;
    UniqueNames names;
    for (const Field& field : points.fields()) {
        const std::string name = names.take(readable_name(field.name));
        if (name != field.name && ++changes <= most_told)
            changed += (changed.empty() ? "" : ", ") + ("‘" + shortened(field.name) + "’ as ‘" + name + "’");
        parts.fields.push_back(
            {name, scaled(field.values, field.dimension == a_length ? factor : 1), field.dimension});
    }
    if (changes > 0)
        run.remark(
            "Formulas read the column " + changed +
            (changes > most_told ? " and " + std::to_string(changes - most_told) + " more likewise." : "."));
    return PointLattice::make(std::move(parts));
}

}  // namespace

Result<PointLattice> points_of_table(std::string_view text, const Inputs& in, const Run& run) {
    const auto table = read_point_table(text, in.text_units(), run);
    if (!table) return table.error();
    if (table->bad_row_count > 0) run.remark_loss(bad_rows_text(*table));
    if (table->long_row_count > 0)
        run.remark_loss(grouped_text(static_cast<std::int64_t>(table->long_row_count)) +
                        (table->long_row_count == 1 ? " row has" : " rows have") +
                        " more cells than there are columns, the first in line " +
                        std::to_string(table->first_long_row) + "; what is beyond was left out.");
    return for_study(table->points, in, run);
}

}  // namespace plume
