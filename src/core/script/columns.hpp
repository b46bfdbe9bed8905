#pragma once
// Numbers by the column, as scripts reckon with them: nothing is computed until somebody looks, and then with
// the programs that formulas run as.
//
// An expression is a tree of what has been asked for so far. One that is large is computed right away, so
// that loops over columns take neither memory nor depth.

#include <array>
#include <memory>

#include "core/base/run.hpp"
#include "core/data/column.hpp"
#include "core/formula/graph.hpp"

namespace plume {

// What columns take that are computed, against what they may.
struct ColumnMeter {
    std::size_t used = 0, most = 0;  // bytes
};

class LazyColumn {
public:
    LazyColumn(Column values);  // NOLINT(google-explicit-constructor): wraps
    // The same number, or 0, 1, 2 ... , so many times.
    static LazyColumn constant(double value, std::size_t count);
    static LazyColumn numbers(std::size_t count);
    // Every number of these, which are equally long.
    static LazyColumn applied(Operation operation, std::array<const LazyColumn*, 3> operands);

    std::size_t size() const;
    // Errors: cancelled; out_of_memory beyond what the meter allows. It has to outlive the column.
    Result<Column> values(const Run& run, ColumnMeter& meter) const;
    // How much stands unevaluated in it.
    std::size_t pending() const;

private:
    struct Node;
    explicit LazyColumn(std::shared_ptr<Node> node) : node_(std::move(node)) {}
    std::shared_ptr<Node> node_;
};

// From here on an expression is computed before it grows further.
inline constexpr std::size_t most_pending = 200;

}  // namespace plume
