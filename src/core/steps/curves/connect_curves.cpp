#include <cmath>

#include "core/geometry/curves/curve_chains.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto chains = chained_end_to_end(in.held<CurveSet>("curve"), in.number("tolerance"), run);
    if (!chains) return chains.error();
    const auto told = [&](double size) { return quantity_text({size, a_length}, in.units(), 3); };
    std::string words = chains->joints == 0 ? "No ends meet"
                        : chains->joints == 1
                            ? "One pair of ends was put together"
                            : std::to_string(chains->joints) + " pairs of ends were put together";
    if (chains->largest_gap > 0) words += ", up to " + told(chains->largest_gap) + " apart";
    if (std::isfinite(chains->smallest_open))
        words += "; the nearest that stay open are " + told(chains->smallest_open) + " apart";
    run.remark(words + ".");
    return Value(chains->set);
}

}  // namespace

StepKind connect_curves() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "1 mm");
    tolerance.least = 0;
    return {
        .key = "curve.connect",
        .verb = "Join curves end to end",
        .synonyms = "connect chain append close gap weld concatenate",
        .sentence = "Join the curves of {curve} end to end where they are within {tolerance}.",
        .slots = {curves_slot(), tolerance},
        .results = {Kind::curves},
        .result_name = "joined",
        .help =
            "Pieces become the longest curves, turned round where necessary, nearest ends first; what comes "
            "round "
            "is closed. Ends that are a little apart meet in their middle.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 8, 1e-6); },
        .make = make,
    };
}

}  // namespace plume
