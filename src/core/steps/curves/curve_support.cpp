#include "core/steps/curves/curve_support.hpp"

namespace plume {

SlotSpec curves_slot(std::string key, std::string label) {
    return reference_slot(std::move(key), std::move(label), {Kind::curves});
}

Error at_curve(Error error, const CurveSet& set, std::size_t index) {
    return set.curves.size() > 1 ? error_at(std::move(error), "Curve " + std::to_string(index)) : error;
}

Result<Value> each_curve(const Inputs& in, const Run& run,
                         const std::function<Result<SplineCurve>(const SplineCurve&)>& change) {
    const CurveSet& set = in.held<CurveSet>("curve");
    CurveSet changed;
    for (std::size_t index = 0; index < set.curves.size(); ++index) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(index) / static_cast<double>(set.curves.size()));
        Result<SplineCurve> curve = change(set.curves[index]);
        if (!curve) return at_curve(curve.error(), set, index);
        changed.curves.push_back(*std::move(curve));
    }
    return Value(std::move(changed));
}

double pole_count(const CurveSet& set) {
    double poles = 0;
    for (const SplineCurve& curve : set.curves)
        poles += static_cast<double>(curve.x().size() * (4 + curve.fields().size()));
    return poles;
}

Estimate poles_estimate(const Inputs& in, double bytes_a_pole, double seconds_a_pole) {
    const double poles = pole_count(in.held<CurveSet>("curve"));
    return {poles * bytes_a_pole, poles * seconds_a_pole};
}

std::string deviation_sentence(double deviation, const Inputs& in) {
    return "The largest deviation is " + quantity_text({deviation, a_length}, in.units(), 3) + ".";
}

}  // namespace plume
