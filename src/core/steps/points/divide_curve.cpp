#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/points/typed_shares.hpp"

namespace plume {
namespace {

constexpr double most_points = 50e6;

Result<std::vector<double>> lengths_on(const Inputs& in, double total, bool closed) {
    std::vector<double> lengths;
    const std::string& rule = in.word("rule");
    if (rule == "shares") {
        const auto shares = typed_shares(in.word("shares"));
        if (!shares) return shares.error();
        for (const double share : *shares)
            if (!closed || share < 1) lengths.push_back(share * total);  // 1 is the seam, which is 0 already
        return lengths;
    }
    double bays = in.has("bays") ? in.number("bays") : 0, step = total / bays;
    if (rule == "spacing") {
        step = in.number("spacing");
        bays = std::floor(total / step + 1e-9);
        if (bays < 1)
            return about_slot(Error{ErrorCode::out_of_range, "",
                                    "is larger than the curve, which is " +
                                        quantity_text({total, a_length}, in.units()) + " long",
                                    "Type a smaller spacing."},
                              "spacing");
        if (bays > most_points)
            return about_slot(Error{ErrorCode::over_budget, "", "would give more than 50 million points",
                                    "Type a larger spacing."},
                              "spacing");
        // What is left over on a closed curve would be a short bay at its seam.
        if (closed) step = total / bays;
    }
    const auto count = static_cast<std::size_t>(bays) + (closed ? 0 : 1);
    for (std::size_t at = 0; at < count; ++at)
        lengths.push_back(std::min(total, step * static_cast<double>(at)));
    return lengths;
}

Result<PointRow> divided(const SplineCurve& curve, const Inputs& in) {
    const CurveLength measure(curve);
    Result<std::vector<double>> lengths = lengths_on(in, measure.total(), curve.closed());
    if (!lengths) return lengths.error();
    PointRow row;
    row.numbers = *std::move(lengths);
    for (const double length : row.numbers)
        row.points.push_back(evaluate(curve, measure.parameter_at(length)).position);
    return row;
}

Result<Value> make(const Inputs& in, const Run& run) {
    std::vector<PointRow> rows;
    bool closed = in.word("rule") != "shares";
    for (const SplineCurve& curve : in.held<CurveSet>("curve").curves) {
        if (run.cancelled()) return cancelled_error();
        Result<PointRow> row = divided(curve, in);
        if (!row) return row.error();
        rows.push_back(*std::move(row));
        closed = closed && curve.closed();
    }
    return rows_of_points(rows, "along", a_length, closed);
}

Estimate estimate(const Inputs& in) {
    double points = 0, most = 0;
    const CurveSet& set = in.held<CurveSet>("curve");
    for (const SplineCurve& curve : set.curves) {
        const std::string& rule = in.word("rule");
        const double here = rule == "bays"      ? in.number("bays") + 1
                            : rule == "spacing" ? polygon_length(curve) / in.number("spacing") + 1
                                                : static_cast<double>(in.word("shares").size()) / 2 + 1;
        points += here;
        most = std::max(most, here);
    }
    // While they are placed, and then in rows as long as the longest.
    const double addresses = most * static_cast<double>(set.curves.size());
    return {points * 40 + addresses * 33, points * 2e-6};
}

}  // namespace

StepKind divide_curve() {
    return {
        .key = "lattice.along_curve",
        .verb = "Place points along a curve",
        .synonyms = "divide curve spacing count parameters length points on",
        .sentence =
            "Place points along {curve} {rule} [rule=bays|{bays} bays][rule=spacing|{spacing}]"
            "[rule=shares|{shares}].",
        .slots = {reference_slot("curve", "Curve", {Kind::curves}),
                  choice_slot("rule", "Rule",
                              {{"bays", "in", "so many bays of the same length"},
                               {"spacing", "every",
                                "the length of a bay; a closed curve takes the nearest that goes in evenly"},
                               {"shares", "at the shares", "0 is the start, 1 the end of its length"}}),
                  count_slot("bays", "Bays", "24", 1), length_above_zero_slot("spacing", "Spacing", "1 m"),
                  text_slot("shares", "Shares", "0 0.25 0.5 0.75 1")},
        .results = {Kind::points},
        .result_name = "stations",
        .help =
            "Points at even lengths along a curve, with the field along: the length from its start. An open "
            "curve of n bays has n + 1 points; a closed one has n and never repeats its seam. Several curves "
            "give a row each.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
