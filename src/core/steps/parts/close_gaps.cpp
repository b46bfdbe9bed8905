#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geometry/parts/fill_gaps.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::size_t gaps = points.address_count() - points.point_count();
    if (points.point_count() == 0)
        return about_slot(
            Error{ErrorCode::empty_input, "", "are gaps and nothing else", "Keep some points above."},
            "points");
    const std::string many = grouped_text(static_cast<std::int64_t>(gaps)) + (gaps == 1 ? " gap" : " gaps");
    if (in.word("way") == "fill") {
        Result<PointLattice> whole = filled(points, run);
        if (whole)
            run.remark(gaps == 0 ? "There was no gap." : many + (gaps == 1 ? " is" : " are") + " filled.");
        return as_value(std::move(whole));
    }
    PointLattice closed = closed_up(points);
    if (gaps > 0 && closed.arrangement() != points.arrangement())
        run.remark_loss(
            "What is left are no whole rows and columns: these points are a scatter now, and none is "
            "another's "
            "neighbour.");
    else
        run.remark(gaps == 0 ? "There was no gap." : many + (gaps == 1 ? " is" : " are") + " taken out.");
    return Value(std::move(closed));
}

Estimate estimate(const Inputs& in) {
    const PointLattice& points = in.lattice("points");
    const auto bytes = static_cast<double>(bytes_of(in.value("points")));
    const auto gaps = static_cast<double>(points.address_count() - points.point_count());
    if (in.word("way") != "fill") return {bytes, bytes * 1e-9};
    const double columns = 3 + static_cast<double>(points.fields().size());
    if (has_whole_factor(points)) return {bytes + gaps * 700, bytes * 1e-9 + gaps * 6e-6};
    const bool block = points.counts()[2] > 1;
    const double rounds = block ? 9e-8 * std::pow(gaps, 4.0 / 3) : 5e-8 * std::pow(gaps, 1.5);
    return {bytes + gaps * 450, bytes * 1e-9 + columns * rounds};
}

}  // namespace

StepKind close_gaps() {
    return {
        .key = "points.close_gaps",
        .verb = "Close the gaps",
        .synonyms = "fill holes missing neighbours mend close up interpolate",
        .sentence = "Close the gaps of {points}, {way}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  choice_slot("way", "Way",
                              {{"up", "closing up", "points on either side of a gap become neighbours"},
                               {"fill", "filling them",
                                "with points and numbers that are the mean of their neighbours'"}})},
        .results = {Kind::points},
        .result_name = "whole",
        .help =
            "A lattice without gaps. Closing up takes them out: a row stays a row, and rows or columns that "
            "are gone whole leave a grid. Filling puts a point in each, so that the arrangement stays; what "
            "was straight across a gap is straight again.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
