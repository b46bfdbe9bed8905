#pragma once
// A formula checked against where it stands: names, units, number of arguments; and made into a graph.
//
// Units. Every known unit is checked. In a formula a plain number beside a quantity counts study units (the 1
// of `x + 1` is one study length, or what Scope::plain says); in a slot it does not, there units have to
// agree. Angles are radians inside; a plain number in a trigonometric function counts the study's angle unit.

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "core/base/error.hpp"
#include "core/base/units.hpp"
#include "core/formula/graph.hpp"
#include "core/formula/syntax.hpp"

namespace plume {

// The name of the moment, in seconds. Whatever else has it stands before it.
inline constexpr std::string_view time_name = "time";

// What names of the study mean where an expression stands.
struct Scope {
    Units units;
    std::function<std::optional<Quantity>(std::string_view name)> find;
    std::vector<std::string> known_names;  // offered when a name is unknown
    std::optional<Units> plain = {};       // what a plain number beside a quantity counts; else study units

    const Units& plain_units() const { return plain ? *plain : units; }
};

// A name that only this formula can read: a loop variable, a coordinate, a field, a count.
struct FormulaInput {
    std::string name;
    Dimension dimension;
    std::variant<InputRef, double> meaning;
    std::string help;  // one line
};

enum class UnitStrictness { slot, formula };

struct FormulaSetting {
    Scope scope;
    std::vector<FormulaInput> inputs;
    std::vector<std::string> muted;  // lines that become 0, or 1 where something multiplies by them
    UnitStrictness strictness = UnitStrictness::formula;
    InputRef point_number{InputType::address_number, 0};  // what random() goes by
};

// One line.
struct Term {
    std::string name;  // empty when left out
    NodeId node = 0;
    Dimension dimension;
    bool field = false;
    std::optional<double> muted_to;
    std::size_t begin = 0, end = 0;            // bytes of the line
    std::size_t name_begin = 0, name_end = 0;  // bytes of the name
};

struct CheckedFormula {
    Graph graph;
    std::vector<Term> terms;  // in the order of the lines

    const Term* find(std::string_view name) const;
};

// Errors: those of reading, and unknown_name, name_clash, unit_mismatch, division_by_zero and not_finite (of
// constants), syntax (number of arguments). begin and end of the error say where in `text`.
Result<CheckedFormula> check_formula(std::string_view text, const FormulaSetting& setting);
Result<CheckedFormula> check_expression(std::string_view text, const FormulaSetting& setting);
// Of lines that were read already from `text`; any of them may go without a name.
Result<CheckedFormula> check_lines(const Syntax& lines, std::string_view text, const FormulaSetting& setting);

// A term's node in the unit wanted: a plain number counts plain units of it. Error: unit_mismatch.
Result<NodeId> as_dimension(CheckedFormula& formula, const Term& term, Dimension wanted, const Scope& scope);

}  // namespace plume
