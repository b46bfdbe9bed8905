#pragma once
// Of columns what stands at some indices, in their order.

#include <vector>

#include "core/base/parallel.hpp"
#include "core/data/column.hpp"

namespace plume {

// One number per entry of `kept`, which are indices of the column. Undefined numbers when cancelled.
template <class Index>
Column gathered(const Column& column, const std::vector<Index>& kept, const Run& run = {}) {
    Doubles values(kept.size());
    parallel_blocks(kept.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at)
            values[at] = column[kept[at]];
    });
    return values;
}

template <class Index>
std::vector<Field> gathered(const std::vector<Field>& fields, const std::vector<Index>& kept,
                            const Run& run = {}) {
    std::vector<Field> result;
    result.reserve(fields.size());
    for (const Field& field : fields)
        result.push_back({field.name, gathered(field.values, kept, run), field.dimension});
    return result;
}

}  // namespace plume
