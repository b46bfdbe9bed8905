#include "core/geometry/numbers/field_arithmetic.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/geometry/points/lattice_links.hpp"

namespace plume {
namespace {

template <class Operation>
Result<Column> each(const Column& a, const Column& b, const Run& run, Operation operation) {
    Doubles values(a.size());
    const double *in_a = a.data(), *in_b = b.data();
    double* const out = values.data();
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                out[index] = operation(in_a[index], in_b[index]);
        });
    if (!finished) return cancelled_error();
    return Column(std::move(values));
}

// Neighbours of every point, one list after the other.
struct Neighbours {
    std::vector<std::size_t> first, list;
};

Neighbours neighbours_of(const PointLattice& lattice) {
    Neighbours found;
    found.first.assign(lattice.address_count() + 1, 0);
    for_each_link(lattice, [&](std::size_t from, std::size_t to) {
        ++found.first[from + 1];
        ++found.first[to + 1];
    });
    std::partial_sum(found.first.begin(), found.first.end(), found.first.begin());
    found.list.resize(found.first.back());
    std::vector<std::size_t> next(found.first.begin(), found.first.end() - 1);
    for_each_link(lattice, [&](std::size_t from, std::size_t to) {
        found.list[next[from]++] = to;
        found.list[next[to]++] = from;
    });
    return found;
}

}  // namespace

Result<Column> combined(const Column& a, const Column& b, FieldOperation operation, double share,
                        const Run& run) {
    switch (operation) {
        case FieldOperation::add:
            return each(a, b, run, [](double x, double y) { return x + y; });
        case FieldOperation::subtract:
            return each(a, b, run, [](double x, double y) { return x - y; });
        case FieldOperation::multiply:
            return each(a, b, run, [](double x, double y) { return x * y; });
        case FieldOperation::average:
            return each(a, b, run, [](double x, double y) { return (x + y) / 2; });
        case FieldOperation::smallest:
            return each(a, b, run, [](double x, double y) { return std::min(x, y); });
        case FieldOperation::largest:
            return each(a, b, run, [](double x, double y) { return std::max(x, y); });
        case FieldOperation::mix:
            return each(a, b, run, [share](double x, double y) { return x + (y - x) * share; });
    }
    return a;
}

Result<Column> smoothed(const PointLattice& lattice, const Column& values, std::size_t times, double strength,
                        const Run& run) {
    if (lattice.arrangement() == Arrangement::scatter)
        return Error{ErrorCode::wrong_kind, "", "A scatter has no neighbours to smooth over",
                     "Smooth the numbers of a lattice."};
    const Neighbours neighbours = neighbours_of(lattice);
    Doubles now(values.data(), values.data() + values.size()), next(values.size());
    for (std::size_t round = 0; round < times; ++round) {
        const bool finished =
            parallel_blocks(now.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
                for (std::size_t index = begin; index < end; ++index) {
                    double sum = 0, count = 0;
                    for (std::size_t at = neighbours.first[index]; at < neighbours.first[index + 1]; ++at) {
                        const double other = now[neighbours.list[at]];
                        if (!std::isfinite(other)) continue;
                        sum += other;
                        count += 1;
                    }
                    next[index] = count > 0 ? now[index] + (sum / count - now[index]) * strength : now[index];
                }
            });
        if (!finished) return cancelled_error();
        std::swap(now, next);
    }
    return Column(std::move(now));
}

}  // namespace plume
