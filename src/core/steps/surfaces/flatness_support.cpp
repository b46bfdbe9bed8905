#include "core/steps/surfaces/flatness_support.hpp"

#include "core/geometry/surfaces/flatness.hpp"

namespace plume {

SlotSpec panels_slot() {
    return reference_slot("panels", "Panels", {Kind::mesh, Kind::curves});
}

Result<std::vector<double>> gaps_of(const Value& panels, const Run& run) {
    std::vector<double> gaps;
    if (const auto* mesh = std::get_if<Mesh>(&panels)) {
        auto found = panel_gaps(*mesh, run);
        if (!found) return found;
        gaps = *std::move(found);
    } else {
        for (const SplineCurve& curve : std::get<CurveSet>(panels).curves)
            gaps.push_back(flatness_of(curve).gap);
    }
    if (gaps.empty())
        return about_slot(Error{ErrorCode::empty_input, "", "have no face and no curve", "Choose others."},
                          "panels");
    return gaps;
}

Estimate flatness_estimate(const Inputs& in) {
    const auto bytes = static_cast<double>(bytes_of(in.value("panels")));
    return {bytes / 2, bytes * 1e-8};
}

}  // namespace plume
