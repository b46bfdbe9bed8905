#include "core/geometry/numbers/field_arithmetic.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

FieldOperation operation_of(const std::string& word) {
    static const std::map<std::string, FieldOperation> operations{{"add", FieldOperation::add},
                                                                  {"subtract", FieldOperation::subtract},
                                                                  {"multiply", FieldOperation::multiply},
                                                                  {"average", FieldOperation::average},
                                                                  {"smallest", FieldOperation::smallest},
                                                                  {"largest", FieldOperation::largest},
                                                                  {"mix", FieldOperation::mix}};
    return operations.at(word);
}

Result<Dimension> dimension_of(const Inputs& in, FieldOperation operation) {
    const Dimension a = in.field("a").field().dimension, b = in.field("b").field().dimension;
    if (operation == FieldOperation::multiply) return product_of(a, b);
    if (a != b)
        return about_slot(Error{ErrorCode::unit_mismatch, "‘" + in.field("b").name + "’",
                                "is " + dimension_name(b, in.units()) + ", and ‘" + in.field("a").name +
                                    "’ is " + dimension_name(a, in.units()),
                                "Bring one of them to a range of the other's unit."},
                          "b");
    return a;
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.field("a").points.address_count());
    return {points * sizeof(double), points * 2e-9};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const FieldOnPoints &a = in.field("a"), &b = in.field("b");
    if (!a.points.same_arrangement(b.points))
        return about_slot(Error{ErrorCode::unlike_arrangement, "‘" + b.name + "’",
                                "stands on " + arrangement_text(b.points) + ", and ‘" + a.name + "’ on " +
                                    arrangement_text(a.points),
                                "Choose numbers on the same points."},
                          "b");
    const FieldOperation operation = operation_of(in.word("operation"));
    const Result<Dimension> dimension = dimension_of(in, operation);
    if (!dimension) return dimension.error();
    const double share = operation == FieldOperation::mix ? in.number("share") : 0;
    Result<Column> values = combined(a.field().values, b.field().values, operation, share, run);
    if (!values) return values.error();
    PointLattice points = a.points;
    // What b carries comes along as far as a has no field of that name.
    for (const Field& field : b.points.fields())
        if (!points.field(field.name)) points = points.with_field(field);
    return Value(FieldOnPoints{points.with_field({in.result_name(), *std::move(values), *dimension}),
                               in.result_name()});
}

}  // namespace

StepKind combine_fields() {
    return {
        .key = "field.combine",
        .verb = "Combine numbers",
        .synonyms = "add multiply average mix blend minimum maximum sum difference fields",
        .sentence =
            "Combine {a} with {b}: {operation}[operation=mix| {share} of the way from the first to the "
            "second].",
        .slots = {reference_slot("a", "First numbers", {Kind::field}),
                  reference_slot("b", "Second numbers", {Kind::field}),
                  choice_slot("operation", "Operation",
                              {{"add", "add them", ""},
                               {"subtract", "take the second from the first", ""},
                               {"multiply", "multiply them", "units multiply, too"},
                               {"average", "take their average", ""},
                               {"largest", "take the larger", "at each point"},
                               {"smallest", "take the smaller", "at each point"},
                               {"mix", "go", "a share of the way, as of a control"}}),
                  number_slot("share", "Share", "0.5")},
        .results = {Kind::field},
        .result_name = "combined",
        .help =
            "One number on each point from two. Both have to stand on the same points and have the same "
            "unit.",
        .bears_name = true,
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
