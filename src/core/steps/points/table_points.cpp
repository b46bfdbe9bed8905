#include "core/steps/points/table_points.hpp"

#include <algorithm>

#include "core/assets/point_table.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/steps/files/file_support.hpp"

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
    parts.fields = readable_fields(points.fields(), run);
    for (Field& field : parts.fields)
        field.values = scaled(field.values, field.dimension == a_length ? factor : 1);
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
