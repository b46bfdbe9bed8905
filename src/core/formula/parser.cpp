#include "core/formula/parser.hpp"

#include <algorithm>

#include "core/formula/functions.hpp"
#include "core/formula/unit_tokens.hpp"

namespace plume {

Error Parser::unexpected() const {
    if (token().type == TokenType::end || token().type == TokenType::line_end) {
        const bool several = text_.find('\n') != std::string_view::npos;
        return wrong("ends where a number or a name is expected" + (several ? " " + here() : ""),
                     "Finish the expression.");
    }
    return wrong(quoted() + " " + here() + " is not expected there", "Check the brackets and operators.");
}

Error Parser::unfinished() const {
    if (is_sign("="))
        return wrong("‘=’ " + here() + " gives a name to what is not a name",
                     "Write == to compare; put name = first in a line.");
    if (token().type == TokenType::sign) return unexpected();
    return wrong(
        "an operator is missing between ‘" + std::string(before().text) + "’ and " + quoted() + " " + here(),
        "Write * for a product, as in 2*x.");
}

std::uint32_t Parser::binary(BinarySign sign, std::uint32_t left, std::uint32_t right, std::size_t sign_at) {
    SyntaxNode node{.type = SyntaxType::binary, .sign = sign, .text = {}};
    node.begin = begin_of(left);
    node.end = syntax_.tree.nodes()[right].end;
    node.sign_at = sign_at;
    const std::array<std::uint32_t, 2> children{left, right};
    return syntax_.tree.add(std::move(node), children);
}

NodeResult Parser::choice() {
    return chain({BinarySign::either}, [this] { return both(); });
}

NodeResult Parser::both() {
    return chain({BinarySign::both}, [this] { return negation(); });
}

NodeResult Parser::deeper(NodeResult (Parser::*read)()) {
    if (++depth_ > deepest_expression)
        return wrong("is nested too deeply " + here(), "Split it into several lines or controls.",
                     ErrorCode::too_deep);
    NodeResult result = (this->*read)();
    --depth_;
    return result;
}

NodeResult Parser::prefixed(SyntaxType type, NodeResult (Parser::*read)()) {
    const std::size_t begin = token().offset;
    advance();
    NodeResult inner = deeper(read);
    if (!inner) return inner;
    SyntaxNode node{.type = type, .text = {}};
    node.begin = begin;
    node.end = syntax_.tree.nodes()[*inner].end;
    return syntax_.tree.add(std::move(node), std::array{*inner});
}

NodeResult Parser::negation() {
    if (is_word("not")) return prefixed(SyntaxType::invert, &Parser::negation);
    return comparison();
}

NodeResult Parser::comparison() {
    static constexpr auto signs = {BinarySign::less,          BinarySign::less_equal, BinarySign::greater,
                                   BinarySign::greater_equal, BinarySign::equal,      BinarySign::unequal};
    int compared = 0;
    NodeResult result = chain(signs, [&]() -> NodeResult {
        if (++compared > 2) return wrong("two comparisons in a row " + here(), "Write a < b and b < c.");
        return sum();
    });
    return result;
}

NodeResult Parser::sum() {
    return chain({BinarySign::add, BinarySign::subtract}, [this] { return product(); });
}

NodeResult Parser::product() {
    return chain({BinarySign::multiply, BinarySign::divide}, [this] { return deeper(&Parser::unary); });
}

NodeResult Parser::unary() {
    if (is_sign("-")) return prefixed(SyntaxType::negate, &Parser::unary);
    if (!is_sign("+")) return power();
    advance();
    return deeper(&Parser::unary);
}

NodeResult Parser::power() {
    NodeResult base = operand();
    if (!base || !is_sign("^")) return base;
    const std::size_t sign_at = token().offset;
    advance();
    NodeResult exponent = deeper(&Parser::unary);
    if (!exponent) return exponent;
    return binary(BinarySign::power, *base, *exponent, sign_at);
}

Status Parser::close_bracket() {
    if (!is_sign(")")) {
        // Inside brackets an operand that follows another lacks an operator.
        if (token().type == TokenType::number || token().type == TokenType::name) return unfinished();
        if (is_sign("=")) return unfinished();
        return wrong("a closing bracket is missing " + here(), "Add a ).");
    }
    --brackets_;
    ++at_;
    skip();
    return Done{};
}

NodeResult Parser::operand() {
    skip();
    const Token first = token();
    if (is_sign("(")) {
        open_bracket();
        NodeResult inner = choice();
        if (!inner) return inner;
        if (Status closed = close_bracket(); !closed) return closed.error();
        return inner;
    }
    if (first.type == TokenType::number) return number(first);
    if (first.type != TokenType::name || is_word("and") || is_word("or")) return unexpected();
    if (is_word("not")) return wrong("‘not’ " + here() + " needs brackets there", "Write (not a).");
    ++at_;
    if (is_sign("(")) return call(first);
    skip();
    SyntaxNode node{.type = SyntaxType::name, .text = std::string(first.text)};
    node.begin = first.offset;
    node.end = first.end();
    return syntax_.tree.add(std::move(node));
}

NodeResult Parser::number(const Token& first) {
    ++at_;
    SyntaxNode node{.type = SyntaxType::number, .number = first.number, .text = {}};
    node.begin = first.offset;
    node.end = first.end();
    if (const std::size_t count = unit_tokens(tokens_, at_); count > 0) {
        node.text = unit_in(tokens_, at_, count);
        at_ += count;
        node.end = before().end();
    }
    skip();
    return syntax_.tree.add(std::move(node));
}

NodeResult Parser::call(const Token& name) {
    open_bracket();
    std::vector<std::uint32_t> arguments;
    if (!is_sign(")")) do {
            NodeResult argument = choice();
            if (!argument) return argument;
            arguments.push_back(*argument);
        } while (take(","));
    SyntaxNode node{.type = SyntaxType::call, .text = std::string(name.text)};
    node.begin = name.offset;
    node.end = token().end();
    if (Status closed = close_bracket(); !closed) return closed.error();
    return syntax_.tree.add(std::move(node), arguments);
}

Error Parser::wrong(std::string message, std::string mend, ErrorCode code) const {
    return text_error(code, std::move(message), std::move(mend), token().offset,
                      std::max(token().end(), token().offset + 1));
}

Status Parser::one_line() {
    SyntaxLine line;
    line.begin = token().offset;
    if (is_word("field") && next().type == TokenType::name) {
        line.field = true;
        ++at_;
    }
    if (token().type == TokenType::name && next().type == TokenType::sign && next().text == "=") {
        line.name = token().text;
        line.name_begin = token().offset;
        line.name_end = token().end();
        at_ += 2;
    } else if (line.field) {
        return wrong("a field needs a name and = " + here(), "Write field name = expression.");
    }
    if (Status read = value_of(line); !read) return read;
    if (token().type != TokenType::end && token().type != TokenType::line_end) return unfinished();
    line.end = before().end();
    syntax_.lines.push_back(std::move(line));
    return Done{};
}

Status Parser::value_of(SyntaxLine& line) {
    const NodeResult root = choice();
    if (!root) return root.error();
    line.root = *root;
    return Done{};
}

}  // namespace plume
