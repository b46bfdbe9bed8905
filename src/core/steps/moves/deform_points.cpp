#include <cmath>
#include <limits>

#include "core/steps/formula_support.hpp"
#include "core/steps/moves/axis_slots.hpp"
#include "core/steps/moves/moved_nodes.hpp"

namespace plume {
namespace {

// Heights along the axis: 0 at the lowest point, 1 at the highest.
struct Span {
    double low = 0, high = 0;
    double length() const { return high - low; }
};

Span span_of(const PointLattice& points, const Placement& axis) {
    constexpr double infinite = std::numeric_limits<double>::infinity();
    Span span{infinite, -infinite};
    for (std::size_t index = 0; index < points.address_count(); ++index) {
        if (!points.present(index) || !is_finite(points.point(index))) continue;
        const double height = axis.to_local(points.point(index)).z;
        span = {std::min(span.low, height), std::max(span.high, height)};
    }
    return span.low > span.high ? Span{} : span;
}

Result<FormulaSite> site_of(const Inputs& in) {
    const PointLattice& points = in.lattice("points");
    const Placement axis = axis_of(in);
    const Span span = span_of(points, axis);
    FormulaSite site = site_on_lattice(points);
    Doubles heights(points.address_count()), shares(points.address_count());
    for (std::size_t index = 0; index < heights.size(); ++index) {
        heights[index] = axis.to_local(points.point(index)).z - span.low;
        shares[index] = span.length() > 0 ? heights[index] / span.length() : 0;
    }
    add_numbers(site, "height", std::move(heights), a_length, "along the axis, from the lowest point");
    add_numbers(site, "share", std::move(shares), plain_number,
                "of the height: 0 at the lowest point, 1 at the highest");
    site.results.push_back({"", "the last line is the amount: an angle, or a factor to taper by", true,
                            in.word("how") != "taper"});
    return site;
}

Vec3 deformed(const std::string& how, Vec3 local, double amount, const Span& span) {
    if (how == "twist") {
        const double c = std::cos(amount), s = std::sin(amount);
        return {c * local.x - s * local.y, s * local.x + c * local.y, local.z};
    }
    if (how == "taper") return {local.x * amount, local.y * amount, local.z};
    // A bend by the angle `amount` from the lowest to the highest point lays the axis on a circle of the
    // radius length / amount towards the first axis; what stands beside the axis keeps its distance from it.
    if (std::abs(amount) < 1e-12 || !(span.length() > 0)) return local;
    const double radius = span.length() / amount, angle = amount * (local.z - span.low) / span.length();
    const double reach = radius - local.x;
    return {radius - reach * std::cos(angle), local.y, span.low + reach * std::sin(angle)};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const std::string& how = in.word("how");
    const Result<FormulaSite> site = site_of(in);
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    const auto node = node_of(*formula, *term_of(*formula, ""), how == "taper" ? plain_number : an_angle, in);
    if (!node) return node.error();
    std::vector<NodeId> outputs{*node};
    const auto fields = field_nodes(*formula);
    for (const NamedNode& field : fields)
        outputs.push_back(field.node);
    auto result = evaluate(formula->graph, outputs, site->domain, Keep::columns, run);
    if (!result) return result.error();
    const Placement axis = axis_of(in);
    const Span span = span_of(points, axis);
    Doubles x(points.address_count()), y(x.size()), z(x.size());
    for (std::size_t index = 0; index < x.size(); ++index) {
        const Vec3 at =
            axis.to_world(deformed(how, axis.to_local(points.point(index)), result->columns[0][index], span));
        x[index] = at.x;
        y[index] = at.y;
        z[index] = at.z;
    }
    return in_form_of(in.value("points"), with_fields(points.moved(std::move(x), std::move(y), std::move(z)),
                                                      fields, *result, 1));
}

}  // namespace

StepKind deform_points() {
    return {
        .key = "points.deform",
        .verb = "Twist, taper or bend points",
        .synonyms = "deform rotate along axis cone curl turn",
        .sentence = std::string("Deform {points} about ") + axis_words + ": {how} by {formula}.",
        .slots = with_axis({moved_slot(),
                            choice_slot("how", "How",
                                        {{"twist", "twist", "turn about the axis by an angle"},
                                         {"taper", "taper", "scale across the axis by a factor"},
                                         {"bend", "bend", "lay the axis on a circle, by this angle in all"}}),
                            formula_slot("formula", formula_label, "90° * share")}),
        .results = moved_kinds(),
        .result_name = "deformed",
        .help =
            "Twists, tapers or bends points about an axis, by an amount that may differ from point to point: "
            "the "
            "formula reads height and share along the axis, coordinates, addresses and fields. Twist and "
            "bend want "
            "an angle, taper a factor.",
        .estimate =
            [](const Inputs& in) {
                // Three new coordinates, and what the formula gives before them.
                const auto points = static_cast<double>(in.lattice("points").address_count());
                return Estimate{points * 6 * sizeof(double), points * 6e-8};
            },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
