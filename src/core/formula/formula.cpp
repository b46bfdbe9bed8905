#include "core/formula/formula.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/formula/functions.hpp"
#include "core/formula/tokens.hpp"

namespace plume {
namespace {

struct Typed {
    NodeId node = 0;
    Dimension dimension;
};
using TypedResult = Result<Typed>;

bool divides_evenly(Dimension d, double factor) {
    const auto evenly = [&](double power) {
        return power * factor == std::round(power * factor) && std::abs(power * factor) <= 64;
    };
    return evenly(d.length) && evenly(d.angle) && evenly(d.force);
}

std::string quoted(std::string_view text) {
    return "‘" + std::string(text) + "’";
}

// A quantity as a plain number, and a plain number as a quantity.
NodeId counted(Graph& graph, NodeId quantity, Dimension dimension, const Scope& scope) {
    const double factor = internal_per_plain(dimension, scope.plain_units(), scope.units);
    return factor == 1 ? quantity : graph.apply(Operation::divide, quantity, graph.constant(factor));
}
NodeId counting(Graph& graph, NodeId plain, Dimension dimension, const Scope& scope) {
    const double factor = internal_per_plain(dimension, scope.plain_units(), scope.units);
    return factor == 1 ? plain : graph.apply(Operation::multiply, plain, graph.constant(factor));
}

class Checker {
public:
    Checker(const Syntax& syntax, std::string_view text, const FormulaSetting& setting)
        : syntax_(syntax),
          tree_(syntax.tree),
          text_(text),
          setting_(setting),
          units_(setting.scope.units),
          values_(tree_.nodes().size()) {}

    Result<CheckedFormula> all() {
        std::uint32_t next = 0;
        for (line_ = 0; line_ < syntax_.lines.size(); ++line_) {
            const SyntaxLine& line = syntax_.lines[line_];
            if (Status named = check_line_name(line); !named) return named.error();
            for (; next <= line.root; ++next) {
                TypedResult value = checked(tree_.nodes()[next]);
                if (!value) return located(value.error(), tree_.nodes()[next]);
                values_[next] = *value;
            }
            add_term(line, values_[line.root]);
        }
        return std::move(result_);
    }

private:
    Graph& graph() { return result_.graph; }
    bool strict() const { return setting_.strictness == UnitStrictness::slot; }

    // What an error lacks: the bytes it is about, and in texts of several lines the place in words.
    Error located(Error error, const SyntaxNode& node) const {
        if (error.begin == error.end) {
            error.begin = node.begin;
            error.end = node.end;
            if (text_.find('\n') != std::string_view::npos)
                error.message += " (" + column_text(text_, node.begin) + ")";
        }
        return error;
    }

    Status check_line_name(const SyntaxLine& line) const {
        if (line.name.empty()) return Done{};
        const auto wrong = [&](ErrorCode code, const std::string& message, std::string mend) {
            return text_error(code,
                              quoted(line.name) + ' ' + column_text(text_, line.name_begin) + ' ' + message,
                              std::move(mend), line.name_begin, line.name_end);
        };
        if (Status named = check_name(line.name); !named)
            return wrong(named.error().code, named.error().message, named.error().mend);
        if (result_.find(line.name))
            return wrong(ErrorCode::name_clash, "is given a second time", "Give this line another name.");
        if (input(line.name))
            return wrong(ErrorCode::name_clash, "already names something this formula reads",
                         "Give this line another name.");
        if (setting_.scope.find && line.name != time_name && setting_.scope.find(line.name))
            return wrong(ErrorCode::name_clash, "is already the name of a control",
                         "Give this line another name.");
        return Done{};
    }

    void add_term(const SyntaxLine& line, Typed value) {
        Term term{line.name,  value.node, value.dimension, line.field,   {},
                  line.begin, line.end,   line.name_begin, line.name_end};
        if (!line.name.empty() && std::ranges::find(setting_.muted, line.name) != setting_.muted.end()) {
            term.muted_to = is_factor(line.name) ? 1 : 0;
            term.node = graph().constant(*term.muted_to);
        }
        result_.terms.push_back(std::move(term));
    }

    // Whether something is multiplied or divided by the name.
    bool is_factor(std::string_view name) const {
        return std::ranges::any_of(tree_.nodes(), [&](const SyntaxNode& node) {
            if (node.type != SyntaxType::binary ||
                (node.sign != BinarySign::multiply && node.sign != BinarySign::divide))
                return false;
            return std::ranges::any_of(tree_.children(node), [&](std::uint32_t child) {
                const SyntaxNode& operand = tree_.nodes()[child];
                return operand.type == SyntaxType::name && operand.text == name;
            });
        });
    }

    const FormulaInput* input(std::string_view name) const {
        const auto found = std::ranges::find(setting_.inputs, name, &FormulaInput::name);
        return found == setting_.inputs.end() ? nullptr : &*found;
    }

    TypedResult checked(const SyntaxNode& node) {
        switch (node.type) {
            case SyntaxType::number:
                return number(node);
            case SyntaxType::name:
                return name(node);
            case SyntaxType::call:
                return call(node);
            case SyntaxType::negate: {
                const Typed inner = child(node, 0);
                return Typed{graph().apply(Operation::negate, inner.node), inner.dimension};
            }
            case SyntaxType::invert:
                return Typed{graph().apply(Operation::invert, child(node, 0).node), plain_number};
            case SyntaxType::binary:
                break;
        }
        return binary(node);
    }

    Typed child(const SyntaxNode& node, std::size_t at) const { return values_[tree_.children(node)[at]]; }

    TypedResult number(const SyntaxNode& node) {
        const Quantity unit = unit_quantity(node.text, units_.length).value_or(Quantity{1, plain_number});
        return finite({graph().constant(node.number * unit.value), unit.dimension});
    }

    TypedResult finite(Typed value) {
        if (!graph().is_constant(value.node) || std::isfinite(graph()[value.node].value)) return value;
        return Error{ErrorCode::not_finite, "", "does not come to a finite number",
                     "Check for roots of negative numbers and very large powers."};
    }

    // Names -----------------------------------------------------------------------------------------------

    TypedResult name(const SyntaxNode& node) {
        if (const ConstantSpec* constant = find_constant(node.text))
            return Typed{graph().constant(constant->value), plain_number};
        if (const Term* term = result_.find(node.text)) return Typed{term->node, term->dimension};
        if (const FormulaInput* read = input(node.text)) {
            if (const auto* ref = std::get_if<InputRef>(&read->meaning))
                return Typed{graph().input(*ref), read->dimension};
            return finite({graph().constant(std::get<double>(read->meaning)), read->dimension});
        }
        if (setting_.scope.find)
            if (const auto found = setting_.scope.find(node.text))
                return finite({graph().constant(found->value), found->dimension});
        return unknown(node);
    }

    Error unknown(const SyntaxNode& node) const {
        const std::string where = quoted(node.text) + ' ' + column_text(text_, node.begin);
        for (std::size_t line = line_; line < syntax_.lines.size(); ++line) {
            if (syntax_.lines[line].name != node.text) continue;
            const bool circular = line == line_ || reads(line, syntax_.lines[line_].name);
            return text_error(ErrorCode::unknown_name,
                              where + (circular ? " is defined by itself" : " is used before it is defined"),
                              circular ? "Break the circle: a line reads only lines above it."
                                       : "Move its line above this one.",
                              node.begin, node.end);
        }
        std::string mend = "Names are those of lines above, of what the formula runs on and of controls.";
        if (strict()) mend = "Names are those of the study's controls.";
        if (is_unit(node.text))
            mend = "A unit follows a number, as in 2 " + node.text + ".";
        else if (find_function(node.text))
            mend = "Give the function its argument in brackets.";
        else if (const auto close = closest_name(node.text, known_names()))
            mend = "Did you mean ‘" + *close + "’?";
        return text_error(ErrorCode::unknown_name, where + " is not known", mend, node.begin, node.end);
    }

    // Whether a line below reads `name`, by itself or by lines between.
    bool reads(std::size_t line, const std::string& name) const {
        std::vector<std::string> wanted{name};
        const std::size_t from = line_;
        for (std::size_t at = from; at <= line; ++at) {
            const bool hit = std::ranges::any_of(nodes_of(at), [&](const SyntaxNode& node) {
                return node.type == SyntaxType::name && std::ranges::find(wanted, node.text) != wanted.end();
            });
            if (hit && at > from) wanted.push_back(syntax_.lines[at].name);
            if (hit && at == line) return true;
        }
        return false;
    }
    std::span<const SyntaxNode> nodes_of(std::size_t line) const {
        const std::size_t first = line == 0 ? 0 : syntax_.lines[line - 1].root + 1;
        return std::span(tree_.nodes()).subspan(first, syntax_.lines[line].root + 1 - first);
    }

    std::vector<std::string> known_names() const {
        std::vector<std::string> names = setting_.scope.known_names;
        for (const FormulaInput& read : setting_.inputs)
            names.push_back(read.name);
        for (const Term& term : result_.terms)
            names.push_back(term.name);
        return names;
    }

    // Units -----------------------------------------------------------------------------------------------

    Error mismatch(std::string_view doing, Dimension a, Dimension b) const {
        std::string mend = "Give both the same unit";
        if ((a == plain_number) != (b == plain_number)) {
            const Dimension other = a == plain_number ? b : a;
            if (const std::string unit = unit_text(other, units_); !unit.empty())
                mend += ", for example 1 " + unit;
        }
        return {ErrorCode::unit_mismatch, "",
                "cannot " + std::string(doing) + " " + dimension_name(a, units_) + " and " +
                    dimension_name(b, units_),
                mend + "."};
    }

    // Brings all to one unit: in a formula a plain number counts study units of the others'.
    Result<Dimension> alike(std::span<Typed> values, std::string_view doing) {
        Dimension common = values.front().dimension;
        for (const Typed& value : values) {
            if (value.dimension == common) continue;
            const bool plain = common == plain_number || value.dimension == plain_number;
            if (strict() || !plain) return mismatch(doing, common, value.dimension);
            if (common == plain_number) common = value.dimension;
        }
        for (Typed& value : values) {
            if (value.dimension == common) continue;
            value.node = counting(graph(), value.node, common, setting_.scope);
            value.dimension = common;
        }
        return common;
    }

    Error needs(std::string_view function, std::string_view what, Dimension has, std::string mend) const {
        return {ErrorCode::unit_mismatch, "",
                quoted(function) + " takes " + std::string(what) + ", and has " + dimension_name(has, units_),
                std::move(mend)};
    }

    TypedResult plain(std::string_view function, Typed value) const {
        if (value.dimension == plain_number) return value;
        const std::string unit = unit_text(value.dimension, units_);
        return needs(function, "a plain number", value.dimension,
                     "Divide by 1 " + unit + ", or by what suits it.");
    }

    // Operators -------------------------------------------------------------------------------------------

    TypedResult binary(const SyntaxNode& node) {
        std::array<Typed, 2> sides{child(node, 0), child(node, 1)};
        switch (node.sign) {
            case BinarySign::add:
                return joined(Operation::add, sides, "add");
            case BinarySign::subtract:
                return joined(Operation::subtract, sides, "subtract");
            case BinarySign::multiply:
            case BinarySign::divide:
                return product(sides, node.sign == BinarySign::divide);
            case BinarySign::power:
                return power(sides[0], sides[1]);
            case BinarySign::both:
                return Typed{graph().apply(Operation::both, sides[0].node, sides[1].node), plain_number};
            case BinarySign::either:
                return Typed{graph().apply(Operation::either, sides[0].node, sides[1].node), plain_number};
            default:
                break;
        }
        const auto operation =
            static_cast<Operation>(static_cast<int>(Operation::less) + static_cast<int>(node.sign) -
                                   static_cast<int>(BinarySign::less));
        TypedResult compared = joined(operation, sides, "compare");
        if (compared) compared->dimension = plain_number;
        return compared;
    }

    TypedResult joined(Operation operation, std::span<Typed> sides, std::string_view doing) {
        const auto dimension = alike(sides, doing);
        if (!dimension) return dimension.error();
        return finite({graph().apply(operation, sides[0].node, sides[1].node), *dimension});
    }

    TypedResult product(std::span<const Typed> sides, bool divide) {
        if (divide && graph().is_constant(sides[1].node, 0))
            return Error{ErrorCode::division_by_zero, "", "divides by zero", "Divide by something else."};
        const Dimension dimension = product_of(sides[0].dimension, sides[1].dimension, divide ? -1 : 1);
        return finite(
            {graph().apply(divide ? Operation::divide : Operation::multiply, sides[0].node, sides[1].node),
             dimension});
    }

    TypedResult power(Typed base, Typed exponent) {
        if (exponent.dimension != plain_number)
            return Error{ErrorCode::unit_mismatch, "",
                         "has a power that is " + dimension_name(exponent.dimension, units_),
                         "Powers are plain numbers."};
        Dimension dimension = base.dimension;
        if (dimension != plain_number) {
            const bool fixed = graph().is_constant(exponent.node);
            const double value = fixed ? graph()[exponent.node].value : 0;
            if (!fixed || std::abs(value) > 8 || !divides_evenly(dimension, value))
                return Error{ErrorCode::unit_mismatch, "",
                             "raises " + dimension_name(dimension, units_) + " to the power " +
                                 (fixed ? short_text(value) : "of something that varies"),
                             "Use whole powers from -8 to 8 there."};
            dimension = power_of(dimension, value);
        }
        return finite({graph().apply(Operation::power, base.node, exponent.node), dimension});
    }

    // Functions -------------------------------------------------------------------------------------------

    TypedResult call(const SyntaxNode& node) {
        const FunctionSpec* function = find_function(node.text);
        if (!function) return no_function(node);
        const auto count = static_cast<int>(node.child_count);
        if (count < function->least || count > function->most)
            return text_error(ErrorCode::syntax,
                              arguments_text(*function) + " and has " + std::to_string(count) + ", " +
                                  column_text(text_, node.begin),
                              "Write " + node.text + "(" + std::string(function->arguments) + ").",
                              node.begin, node.end);
        std::vector<Typed> arguments;
        for (const std::uint32_t argument : tree_.children(node))
            arguments.push_back(values_[argument]);
        TypedResult result = ruled(*function, arguments);
        return result ? finite(*result) : result;
    }

    Error no_function(const SyntaxNode& node) const {
        std::vector<std::string> names;
        for (const FunctionSpec& function : formula_functions())
            names.emplace_back(function.name);
        const auto close = closest_name(node.text, names);
        const std::string where = quoted(node.text) + ' ' + column_text(text_, node.begin);
        const bool a_name = result_.find(node.text) || input(node.text);
        return text_error(ErrorCode::unknown_name, "there is no function " + where,
                          a_name  ? "Write * for a product."
                          : close ? "Did you mean ‘" + *close + "’?"
                                  : "The help lists all functions.",
                          node.begin, node.begin + node.text.size());
    }

    TypedResult ruled(const FunctionSpec& function, std::vector<Typed>& arguments) {
        const std::span<Typed> all(arguments);
        switch (function.rule) {
            case UnitRule::keeps:
                return applied(function, arguments, arguments.front().dimension);
            case UnitRule::rounds:
                return rounded(function, arguments.front());
            case UnitRule::alike:
                return alike_to(function, arguments, all, {});
            case UnitRule::alike_then_number: {
                TypedResult share = plain(function.name, arguments.back());
                if (!share) return share;
                return alike_to(function, arguments, all.first(all.size() - 1), {});
            }
            case UnitRule::alike_to_number:
                if (function.name == "gauss") return gauss(arguments);
                return alike_to(function, arguments, all, plain_number);
            case UnitRule::alike_to_angle:
                return alike_to(function, arguments, all, an_angle);
            case UnitRule::condition:
                return alike_to(function, arguments, all.subspan(1), {});
            case UnitRule::angle_to_number:
                return of_angle(function, arguments);
            case UnitRule::number_to_angle:
            case UnitRule::number_to_number: {
                TypedResult number = plain(function.name, arguments.front());
                if (!number) return number;
                return applied(function, arguments,
                               function.rule == UnitRule::number_to_angle ? an_angle : plain_number);
            }
            case UnitRule::any_to_number:
                return of_any(function, arguments);
            case UnitRule::second_root:
            case UnitRule::third_root:
                break;
        }
        return root(function, arguments);
    }

    // Whole numbers of what a plain number counts.
    TypedResult rounded(const FunctionSpec& function, Typed value) {
        const NodeId whole =
            graph().apply(function.operation, counted(graph(), value.node, value.dimension, setting_.scope));
        return Typed{counting(graph(), whole, value.dimension, setting_.scope), value.dimension};
    }

    TypedResult alike_to(const FunctionSpec& function, const std::vector<Typed>& arguments,
                         std::span<Typed> same, std::optional<Dimension> result) {
        const auto dimension = alike(same, "compare");
        if (!dimension) return dimension.error();
        return applied(function, arguments, result.value_or(*dimension));
    }

    TypedResult of_angle(const FunctionSpec& function, std::vector<Typed>& arguments) {
        Typed& angle = arguments.front();
        if (angle.dimension == plain_number)
            angle.node = counting(graph(), angle.node, an_angle, setting_.scope);
        else if (angle.dimension != an_angle)
            return needs(function.name, "an angle", angle.dimension,
                         angle.dimension == a_length
                             ? "For a wave of 4 m write " + std::string(function.name) + "(360° * x / 4 m)."
                             : "Give it an angle, as in 30°.");
        return applied(function, arguments, plain_number);
    }

    TypedResult of_any(const FunctionSpec& function, std::vector<Typed>& arguments) {
        if (function.operation == Operation::sign) return applied(function, arguments, plain_number);
        for (const Typed& argument : arguments)
            if (strict() || argument.dimension.angle != 0 || argument.dimension.force != 0)
                if (TypedResult number = plain(function.name, argument); !number) return number;
        if (function.operation == Operation::random) {
            if (strict())
                return Error{ErrorCode::unknown_name, "",
                             "‘random’ is different on each point, and here is none", "Use it in a formula."};
            const NodeId point = graph().input(setting_.point_number);
            return Typed{graph().apply(Operation::random, arguments.front().node, point), plain_number};
        }
        return noise(arguments);
    }

    TypedResult noise(std::vector<Typed>& arguments) {
        for (Typed& argument : arguments)
            argument.node = counted(graph(), argument.node, argument.dimension, setting_.scope);
        const NodeId x = arguments[0].node;
        if (arguments.size() == 1) return Typed{graph().apply(Operation::noise_1, x), plain_number};
        const NodeId y = arguments[1].node;
        if (arguments.size() == 2) return Typed{graph().apply(Operation::noise_2, x, y), plain_number};
        return Typed{graph().apply(Operation::noise_3, x, y, arguments[2].node), plain_number};
    }

    TypedResult gauss(std::vector<Typed>& arguments) {
        NodeId x = arguments.front().node;
        if (arguments.size() == 2) {
            if (const auto dimension = alike(arguments, "compare"); !dimension) return dimension.error();
            if (graph().is_constant(arguments[1].node, 0))
                return Error{ErrorCode::division_by_zero, "", "has a bell of no width",
                             "Give it a width above zero."};
            x = graph().apply(Operation::divide, arguments[0].node, arguments[1].node);
        } else if (TypedResult number = plain("gauss", arguments.front()); !number) {
            return number;
        }
        const NodeId square = graph().apply(Operation::multiply, x, x);
        const NodeId exponent = graph().apply(Operation::multiply, square, graph().constant(-0.5));
        return Typed{graph().apply(Operation::exponential, exponent), plain_number};
    }

    TypedResult root(const FunctionSpec& function, const std::vector<Typed>& arguments) {
        const Dimension dimension = arguments.front().dimension;
        const double share = function.rule == UnitRule::second_root ? 0.5 : 1.0 / 3;
        const int divisor = function.rule == UnitRule::second_root ? 2 : 3;
        if (!divides_evenly(dimension, share))
            return Error{ErrorCode::unit_mismatch, "",
                         "takes the root of " + dimension_name(dimension, units_),
                         divisor == 2 ? "Roots need a plain number or an area."
                                      : "Cube roots need a plain number or a volume."};
        return applied(function, arguments, power_of(dimension, share));
    }

    TypedResult applied(const FunctionSpec& function, const std::vector<Typed>& arguments,
                        Dimension dimension) {
        const int operands = operand_count(function.operation);
        if (operands == 1) return Typed{graph().apply(function.operation, arguments[0].node), dimension};
        if (operands == 3)
            return Typed{
                graph().apply(function.operation, arguments[0].node, arguments[1].node, arguments[2].node),
                dimension};
        NodeId result = arguments[0].node;
        for (std::size_t at = 1; at < arguments.size(); ++at)
            result = graph().apply(function.operation, result, arguments[at].node);
        return Typed{result, dimension};
    }

    const Syntax& syntax_;
    const SyntaxTree& tree_;
    std::string_view text_;
    const FormulaSetting& setting_;
    const Units& units_;
    std::vector<Typed> values_;
    CheckedFormula result_;
    std::size_t line_ = 0;
};

}  // namespace

const Term* CheckedFormula::find(std::string_view name) const {
    if (name.empty()) return nullptr;
    const auto found = std::ranges::find(terms, name, &Term::name);
    return found == terms.end() ? nullptr : &*found;
}

Result<CheckedFormula> check_formula(std::string_view text, const FormulaSetting& setting) {
    const Result<Syntax> syntax = parse_formula(text);
    if (!syntax) return syntax.error();
    return Checker(*syntax, text, setting).all();
}

Result<CheckedFormula> check_expression(std::string_view text, const FormulaSetting& setting) {
    const Result<Syntax> syntax = parse_expression(text);
    if (!syntax) return syntax.error();
    return Checker(*syntax, text, setting).all();
}

Result<CheckedFormula> check_lines(const Syntax& lines, std::string_view text,
                                   const FormulaSetting& setting) {
    return Checker(lines, text, setting).all();
}

Result<NodeId> as_dimension(CheckedFormula& formula, const Term& term, Dimension wanted, const Scope& scope) {
    const Units& units = scope.units;
    if (term.dimension == wanted || term.muted_to) return term.node;
    if (term.dimension == plain_number) return counting(formula.graph, term.node, wanted, scope);
    const std::string who = term.name.empty() ? "The last line" : quoted(term.name);
    return text_error(ErrorCode::unit_mismatch,
                      who + " has to be " + dimension_name(wanted, units) + ", and is " +
                          dimension_name(term.dimension, units),
                      "Multiply or divide by a quantity with a unit, such as 1 " +
                          unit_text(wanted == plain_number ? term.dimension : wanted, units) + ".",
                      term.begin, term.end);
}

}  // namespace plume
