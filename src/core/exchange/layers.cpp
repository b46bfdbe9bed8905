#include "core/exchange/layers.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/exchange/table_export.hpp"

namespace plume {

std::string Layers::of(const std::vector<Field>& fields, std::size_t index) const {
    if (job_.layers_by.empty()) return result_;
    const auto found = std::ranges::find(fields, job_.layers_by, &Field::name);
    return found == fields.end() ? result_ : of(*found, found->values[index]);
}

std::string Layers::of(const Field& field, double value) const {
    const std::string unit = unit_of(field.dimension, job_);
    return result_ + ' ' + short_text(value * factor_of(field.dimension, job_), 6) +
           (unit.empty() ? "" : ' ' + unit);
}

Status check_layers(const ExportJob& job) {
    if (job.layers_by.empty()) return Done{};
    for (const ExportedResult& result : job.results) {
        const std::vector<std::string> names = field_names(*result.value);
        if (std::ranges::find(names, job.layers_by) != names.end()) return Done{};
    }
    return Error{ErrorCode::unknown_name, "‘" + shortened(printable(job.layers_by)) + "’",
                 "is no number that one of the results carries",
                 "Name one that plume inspect tells of them."};
}

}  // namespace plume
