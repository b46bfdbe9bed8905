#include "core/steps/curves/curve_support.hpp"

#include <algorithm>
#include <numbers>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/held_curve.hpp"
#include "core/geometry/surfaces/surface_crossings.hpp"
#include "core/steps/surfaces/surface_support.hpp"

namespace plume {

SlotSpec curves_slot(std::string key, std::string label) {
    return reference_slot(std::move(key), std::move(label), {Kind::curves});
}

SlotSpec degree_slot() {
    SlotSpec spec = count_slot("degree", "Degree", "3", 1);
    spec.most = 5;
    return spec;
}

SlotSpec ends_slot() {
    return choice_slot("ends", "Ends",
                       {{"open", "an open", "it touches its first and last pole"},
                        {"closed", "a closed", "the last pole is joined to the first"}});
}

SlotSpec sweep_slot(std::string preset) {
    SlotSpec spec = angle_slot("sweep", "Sweep", std::move(preset));
    spec.least = -2 * std::numbers::pi;
    spec.most = 2 * std::numbers::pi;
    return spec;
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

Result<Value> surface_of_each(const Inputs& in, const Run& run, std::string_view slot,
                              const std::function<Result<SplinePatch>(const SplineCurve&)>& make) {
    SurfaceSet surfaces;
    for (const SplineCurve& curve : in.held<CurveSet>("curve").curves) {
        if (run.cancelled()) return cancelled_error();
        Result<SplinePatch> patch = make(curve);
        if (!patch) return about_slot(patch.error(), slot);
        surfaces.patches.push_back(*std::move(patch));
    }
    return Value(std::move(surfaces));
}

Result<SplineCurve> only_curve(const Inputs& in, const char* slot) {
    const auto& curves = in.held<CurveSet>(slot).curves;
    if (curves.size() == 1) return curves.front();
    return about_slot(
        Error{ErrorCode::wrong_kind, "",
              curves.empty() ? "holds no curve" : "holds " + std::to_string(curves.size()) + " curves",
              "Choose a result with one."},
        slot);
}

SlotSpec cutter_slot(bool planes) {
    std::vector<Kind> kinds{Kind::curves, Kind::surface};
    if (planes) kinds.push_back(Kind::placements);
    return reference_slot("cutter", "Crossed by", std::move(kinds));
}

double cutter_poles(const Inputs& in) {
    const Value& cutter = in.value("cutter");
    if (const auto* curves = std::get_if<CurveSet>(&cutter)) return pole_count(*curves);
    const auto* const surface = std::get_if<SurfaceSet>(&cutter);
    return surface ? searched_bays(surface->patches) : 0;
}

Result<std::vector<double>> crossings_with_cutter(const SplineCurve& curve, const Inputs& in,
                                                  const Run& run) {
    const Value& cutter = in.value("cutter");
    if (const auto* surface = std::get_if<SurfaceSet>(&cutter)) {
        auto found = crossings_with_surface(curve, *surface, run);
        return found ? found : about_slot(found.error(), "cutter");
    }
    std::vector<double> parameters;
    const auto add = [&](const std::vector<double>& found) {
        parameters.insert(parameters.end(), found.begin(), found.end());
    };
    if (const auto* planes = std::get_if<Placements>(&cutter)) {
        for (const Placement& plane : planes->present_placements())
            add(crossings_with_plane(curve, plane));
    } else {
        for (const SplineCurve& other : in.held<CurveSet>("cutter").curves) {
            const auto found = crossings_with_curve(curve, other, in.number("tolerance"), run);
            if (!found) return about_slot(found.error(), "cutter");
            add(*found);
        }
    }
    std::ranges::sort(parameters);
    return parameters;
}

Result<Value> held_by_poles(const Inputs& in, const std::function<Vec3(Vec3)>& place) {
    HeldCurve held;
    held.closed = in.word("ends") == "closed";
    held.degree = static_cast<int>(in.count("degree"));
    for (const ResolvedPlace& pole : in.places("poles")) {
        held.poles.push_back(place(pole.position));
        held.weights.push_back(pole.weight);
    }
    Result<SplineCurve> curve = curve_held_by(held);
    if (!curve) return about_slot(curve.error(), "poles");
    return Value(CurveSet{{*std::move(curve)}});
}

Result<Value> rows_of_points(const std::vector<PointRow>& rows, const std::string& field, Dimension dimension,
                             bool closed) {
    std::size_t columns = 0;
    for (const PointRow& row : rows)
        columns = std::max(columns, row.points.size());
    const std::size_t count = columns * rows.size();
    Doubles x(count), y(count), z(count), numbers(count);
    PointLattice::Parts parts;
    parts.present.assign(count, 0);
    for (std::size_t row = 0; row < rows.size(); ++row)
        for (std::size_t at = 0; at < columns; ++at) {
            const std::size_t index = at + columns * row;
            const bool there = at < rows[row].points.size();
            const Vec3 point = there ? rows[row].points[at] : Vec3{};
            x[index] = point.x;
            y[index] = point.y;
            z[index] = point.z;
            numbers[index] = there ? rows[row].numbers[at] : 0;
            parts.present[index] = there ? 1 : 0;
        }
    const bool even = std::ranges::all_of(parts.present, [](std::uint8_t there) { return there != 0; });
    parts.arrangement = rows.size() == 1 ? Arrangement::row : Arrangement::grid;
    parts.counts = {columns, rows.size(), 1};
    parts.closed = {closed && even, false, false};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.fields.push_back({field, std::move(numbers), dimension});
    return as_value(PointLattice::make(std::move(parts)));
}

double polygon_length(const SplineCurve& curve) {
    double total = 0;
    for (std::size_t pole = 1; pole < curve.x().size(); ++pole)
        total += length(curve.pole(pole) - curve.pole(pole - 1));
    return total;
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

std::string listed_names(const std::vector<std::string>& names) {
    std::string text;
    for (const std::string& name : names)
        text += (text.empty() ? "" : ", ") + printable(name);
    return text;
}

std::string deviation_sentence(double deviation, const Inputs& in) {
    // Metric ones are read in millimetres.
    const double millimetres = deviation * metres_per(in.units().length) * 1000;
    const bool metric = in.units().length != LengthUnit::foot && in.units().length != LengthUnit::inch;
    const std::string size = metric && millimetres < 10 ? short_text(millimetres, 3) + " mm"
                                                        : quantity_text({deviation, a_length}, in.units(), 3);
    return "The largest deviation is " + size + ".";
}

Estimate nearest_on_curves_estimate(const Inputs& in, double columns) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    const auto curves = static_cast<double>(in.held<CurveSet>("curve").curves.size());
    const Estimate chords = poles_estimate(in, 2000, 2e-5);
    return {points * columns * sizeof(double) + chords.bytes, points * curves * 2e-6 + chords.seconds};
}

}  // namespace plume
