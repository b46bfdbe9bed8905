#include <cmath>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/numbers/quantity_range.hpp"

namespace plume {
namespace {

constexpr std::array<const char*, 3> coordinates{"x", "y", "z"};
// Even bays the search for the tolerance starts from: enough to see every wave of a hand-made formula.
constexpr std::size_t first_bays = 64;
constexpr std::size_t most_points = 1'000'000;
// Ends nearer than this share of the curve's size are taken for the same place.
constexpr double closing_share = 1e-9;
// Samples for graphs of the terms.
constexpr std::size_t graph_samples = 512;

Result<QuantityRange> range_of(const Inputs& in) {
    const std::string where = "‘" + in.word("name") + "’";
    auto range = range_between(in.quantity("from"), in.quantity("to"), where, in.units());
    if (range && range->from == range->to)
        return about_slot(Error{ErrorCode::out_of_range, where,
                                "begins and ends at " + quantity_text(in.quantity("from"), in.units()) +
                                    ", which makes no curve",
                                "Give it another end."},
                          "to");
    if (!range) return about_slot(range.error(), "to");
    return range;
}

// The parameter is a column, so that any set of parameters can be asked for.
FormulaSite site_at(const Inputs& in, const QuantityRange& range, std::vector<double> parameters) {
    FormulaSite site;
    Doubles column(parameters.begin(), parameters.end());
    site.owned.emplace_back(std::move(column));
    site.domain.directions[0] = {parameters.size(), range.from, range.to, false};
    site.domain.columns = {site.owned.front().span()};
    site.direction_names[0] = in.word("name");
    site.inputs.push_back(
        {in.word("name"), range.dimension, InputRef{InputType::column, 0}, "runs along the curve"});
    for (const char* name : coordinates)
        site.results.push_back({name, "coordinate along the curve", true, true});
    return site;
}

Result<FormulaSite> site_of(const Inputs& in) {
    const Result<QuantityRange> range = range_of(in);
    if (!range) return range.error();
    std::vector<double> parameters(graph_samples);
    const Direction even{graph_samples, range->from, range->to, false};
    for (std::size_t at = 0; at < graph_samples; ++at)
        parameters[at] = even.value(at);
    return site_at(in, *range, std::move(parameters));
}

// Coordinates and fields of the formula at any parameters.
class CurveFormula {
public:
    static Result<CurveFormula> make(const Inputs& in, const QuantityRange& range) {
        CurveFormula made(in, range);
        Result<CheckedFormula> formula = checked_formula(in, site_at(in, range, {range.from}));
        if (!formula) return formula.error();
        for (const char* name : coordinates) {
            const Term* line = formula->find(name);
            Term own;
            if (!line) {  // the parameter itself may be a coordinate
                own.name = name;
                own.node = formula->graph.input({InputType::column, 0});
                own.dimension = range.dimension;
                line = &own;
            }
            const auto node = node_of(*formula, *line, a_length, in);
            if (!node) return node.error();
            made.outputs_.push_back(*node);
        }
        made.fields_ = field_nodes(*formula);
        made.formula_ = *std::move(formula);
        return made;
    }

    Result<std::vector<Vec3>> points(const std::vector<double>& parameters, const Run& run) const {
        const auto result = evaluated(parameters, outputs_, run);
        if (!result) return result.error();
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (const Survey& survey = result->surveys[axis]; survey.not_finite > 0)
                return about_slot(
                    Error{ErrorCode::not_finite, "",
                          std::string("has no finite ‘") + coordinates[axis] + "’ at " + in_.word("name") +
                              " = " +
                              quantity_text({parameters[survey.first_not_finite], range_.dimension},
                                            in_.units()),
                          "Look for a root or logarithm of a negative number, or a division by zero there."},
                    "formula");
        std::vector<Vec3> points(parameters.size());
        for (std::size_t at = 0; at < points.size(); ++at)
            points[at] = {result->columns[0][at], result->columns[1][at], result->columns[2][at]};
        return points;
    }

    Result<std::vector<Field>> fields(const std::vector<double>& parameters, const Run& run) const {
        std::vector<NodeId> nodes;
        for (const NamedNode& field : fields_)
            nodes.push_back(field.node);
        auto result = evaluated(parameters, nodes, run);
        if (!result) return result.error();
        std::vector<Field> fields;
        for (std::size_t at = 0; at < fields_.size(); ++at)
            fields.push_back({fields_[at].name, std::move(result->columns[at]), fields_[at].dimension});
        return fields;
    }

private:
    CurveFormula(const Inputs& in, const QuantityRange& range) : in_(in), range_(range) {}

    Result<Evaluated> evaluated(const std::vector<double>& parameters, const std::vector<NodeId>& outputs,
                                const Run& run) const {
        const FormulaSite site = site_at(in_, range_, parameters);
        return evaluate(formula_.graph, outputs, site.domain, Keep::columns, run);
    }

    const Inputs& in_;
    QuantityRange range_;
    CheckedFormula formula_;
    std::vector<NodeId> outputs_;
    std::vector<NamedNode> fields_;
};

Result<FunctionSamples> sampled(const CurveFormula& formula, const Inputs& in, const QuantityRange& range,
                                const Run& run) {
    const CurveFunction function = [&](const std::vector<double>& parameters) {
        return formula.points(parameters, run);
    };
    if (in.word("sampling") == "tolerance")
        return sample_function(function, range.from, range.to, in.number("tolerance"), first_bays,
                               most_points, run);
    // No tolerance is as coarse as this one: the even bays are left as they are.
    return sample_function(function, range.from, range.to, Box::infinite, in.count("count") - 1, most_points,
                           run);
}

// Samples that a tolerance asks for, from what a coarse one does: the sagitta falls with the square of their
// number.
double samples_for(const Inputs& in, double tolerance) {
    constexpr std::size_t coarse_most = 4'000, coarse_bays = 64;
    const Result<QuantityRange> range = range_of(in);
    if (!range) return 0;
    const Result<CurveFormula> formula = CurveFormula::make(in, *range);
    if (!formula) return 0;
    const Run run;
    const CurveFunction function = [&](const std::vector<double>& parameters) {
        return formula->points(parameters, run);
    };
    const auto even =
        sample_function(function, range->from, range->to, Box::infinite, coarse_bays, coarse_most, run);
    if (!even) return 0;
    Box box;
    for (const Vec3 point : even->points)
        box.include(point);
    const double coarse = std::max(tolerance, box.diagonal() * 1e-4);
    const auto some =
        sample_function(function, range->from, range->to, coarse, coarse_bays, coarse_most, run);
    const double count = some ? static_cast<double>(some->points.size()) : coarse_most;
    return std::min(count * std::sqrt(coarse / tolerance), static_cast<double>(most_points));
}

Estimate estimate(const Inputs& in) {
    const double count =
        in.word("sampling") == "tolerance" ? samples_for(in, in.number("tolerance")) : in.number("count");
    return {count * 20 * sizeof(double), count * 1e-6};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<QuantityRange> range = range_of(in);
    if (!range) return range.error();
    const Result<CurveFormula> formula = CurveFormula::make(in, *range);
    if (!formula) return formula.error();
    Result<FunctionSamples> samples = sampled(*formula, in, *range, run);
    if (!samples) return samples.error();
    Box box;
    for (const Vec3 point : samples->points)
        box.include(point);
    CurvePoints item;
    item.closed = samples->points.size() > 3 &&
                  length(samples->points.back() - samples->points.front()) <= closing_share * box.diagonal();
    // Parameters have to increase, whichever way the curve was drawn.
    for (const double parameter : samples->parameters)
        item.parameters.push_back(range->to > range->from ? parameter : -parameter);
    if (item.closed) {
        samples->points.pop_back();
        samples->parameters.pop_back();
    }
    auto fields = formula->fields(samples->parameters, run);
    if (!fields) return fields.error();
    item.fields = *std::move(fields);
    item.points = std::move(samples->points);
    Result<SplineCurve> curve = curve_through(std::move(item), CurveShape::straight);
    if (!curve) return curve.error();
    return Value(CurveSet{{*std::move(curve)}});
}

}  // namespace

StepKind draw_formula_curve() {
    return {
        .key = "curve.formula",
        .verb = "Draw a formula curve",
        .synonyms = "parametric function line spiral helix path equation",
        .sentence =
            "Draw a curve as {name} runs from {from} to {to}, {sampling} "
            "[sampling=tolerance|{tolerance}][sampling=fixed|{count}]. By {formula}.",
        .slots = {name_slot("name", "Parameter", "t"), quantity_slot("from", "Beginning", "0°"),
                  quantity_slot("to", "End", "720°"),
                  choice_slot("sampling", "Sampling",
                              {{"tolerance", "true to", "as many points as keep the chords this near"},
                               {"fixed", "in points:", "evenly in the parameter"}}),
                  length_above_zero_slot("tolerance", "Tolerance", "5 mm"),
                  count_slot("count", "Points", "200", 2),
                  formula_slot("formula", formula_label,
                               "x = 3 m * cos(t)\n"
                               "y = 3 m * sin(t)\n"
                               "z = 3 m * t / 360°")},
        .results = {Kind::curves},
        .result_name = "path",
        .help =
            "A curve from formulas of one parameter. Where its ends meet it is closed. Lines that begin with "
            "field go "
            "along as fields.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
