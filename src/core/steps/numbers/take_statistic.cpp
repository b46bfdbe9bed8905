#include <algorithm>
#include <cmath>

#include "core/base/sum.hpp"
#include "core/measure/statistics.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

// The standard deviation.
double spread_of(const FieldOnPoints& item, const Statistics& statistics) {
    Sum squares;
    for (std::size_t index = 0; index < item.points.address_count(); ++index) {
        const double value = item.field().values[index];
        if (!item.points.present(index) || !std::isfinite(value)) continue;
        squares.add((value - statistics.mean) * (value - statistics.mean));
    }
    return std::sqrt(squares.value() / static_cast<double>(statistics.count - statistics.not_finite));
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const FieldOnPoints& item = in.field("field");
    const Statistics statistics = statistics_of(item.points, item.field().values, 1);
    const std::string& what = in.word("statistic");
    if (what == "count") return Value(Quantity{static_cast<double>(statistics.count), plain_number});
    if (statistics.count == statistics.not_finite)
        return about_slot(Error{ErrorCode::empty_input, "", "have no finite number among them",
                                "Look at the step that makes them."},
                          "field");
    const double value = what == "least"    ? statistics.least
                         : what == "most"   ? statistics.most
                         : what == "median" ? statistics.median
                         : what == "sum"    ? statistics.sum
                         : what == "spread" ? spread_of(item, statistics)
                                            : statistics.mean;
    return Value(Quantity{value, item.field().dimension});
}

}  // namespace

StepKind take_statistic() {
    return {
        .key = "number.statistic",
        .verb = "Take a figure of numbers",
        .synonyms = "statistics minimum maximum mean average median sum count deviation single value",
        .sentence = "Take {statistic} of {field}.",
        .slots = {choice_slot("statistic", "Figure",
                              {{"mean", "the mean", ""},
                               {"least", "the smallest", ""},
                               {"most", "the largest", ""},
                               {"median", "the median", "as many lie below as above"},
                               {"sum", "the sum", ""},
                               {"spread", "the standard deviation", "of all, not of a sample"},
                               {"count", "the count", "of points"}}),
                  reference_slot("field", "Numbers", {Kind::field})},
        .results = {Kind::number},
        .result_name = "figure",
        .help =
            "One number out of many. Expressions and formulas of later steps read it by its name, as they "
            "read a control.",
        .estimate =
            [](const Inputs& in) {
                const auto numbers = static_cast<double>(in.lattice("field").address_count());
                return Estimate{numbers * sizeof(double), numbers * 2e-8};
            },
        .make = make,
    };
}

}  // namespace plume
