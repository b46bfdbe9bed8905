#include "core/formula/syntax.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/formula/functions.hpp"
#include "core/formula/tokens.hpp"

namespace plume {
namespace {

constexpr std::array<std::string_view, 13> sign_texts{
    "+", "-", "*", "/", "^", "<", "<=", ">", ">=", "==", "!=", "and", "or"};

using NodeResult = Result<std::uint32_t>;

class Parser {
public:
    // In one expression an end of line is only space; in a formula that is so inside brackets.
    Parser(std::string_view text, const std::vector<Token>& tokens, bool one_expression)
        : text_(text), tokens_(tokens), one_expression_(one_expression) {}

    Result<Syntax> expression() {
        skip();
        if (token().type == TokenType::end) return wrong("is empty", "Type a number or an expression.");
        SyntaxLine line;
        if (Status read = value_of(line); !read) return read.error();
        if (token().type != TokenType::end) return unfinished();
        syntax_.lines.push_back(line);
        return std::move(syntax_);
    }

    Result<Syntax> formula() {
        while (true) {
            while (token().type == TokenType::line_end)
                ++at_;
            if (token().type == TokenType::end) break;
            if (!syntax_.lines.empty() && syntax_.lines.back().name.empty()) return nameless();
            if (Status read = one_line(); !read) return read.error();
        }
        if (syntax_.lines.empty()) return wrong("is empty", "Type a line such as z = 0.4 * sin(x).");
        return std::move(syntax_);
    }

private:
    const Token& token() const { return tokens_[at_]; }
    const Token& next() const { return tokens_[std::min(at_ + 1, tokens_.size() - 1)]; }
    bool is_sign(std::string_view sign) const {
        return token().type == TokenType::sign && token().text == sign;
    }
    bool is_word(std::string_view word) const {
        return token().type == TokenType::name && token().text == word;
    }
    void skip() {
        while ((one_expression_ || brackets_ > 0) && token().type == TokenType::line_end)
            ++at_;
    }
    void advance() {
        ++at_;
        skip();
    }
    bool take(std::string_view sign) {
        if (!is_sign(sign)) return false;
        advance();
        return true;
    }
    std::string here() const { return column_text(text_, token().offset); }
    std::string quoted() const { return "‘" + std::string(token().text) + "’"; }
    Error wrong(std::string message, std::string mend, ErrorCode code = ErrorCode::syntax) const {
        return text_error(code, std::move(message), std::move(mend), token().offset,
                          std::max(token().end(), token().offset + 1));
    }

    Error unexpected() const {
        if (token().type == TokenType::end || token().type == TokenType::line_end) {
            const bool several = text_.find('\n') != std::string_view::npos;
            return wrong("ends where a number or a name is expected" + (several ? " " + here() : ""),
                         "Finish the expression.");
        }
        return wrong(quoted() + " " + here() + " is not expected there", "Check the brackets and operators.");
    }

    // What follows a whole expression and should not.
    Error unfinished() const {
        if (is_sign("="))
            return wrong("‘=’ " + here() + " gives a name to what is not a name",
                         "Write == to compare; put name = first in a line.");
        if (token().type == TokenType::sign) return unexpected();
        return wrong("an operator is missing between ‘" + std::string(tokens_[at_ - 1].text) + "’ and " +
                         quoted() + " " + here(),
                     "Write * for a product, as in 2*x.");
    }

    Error nameless() const {
        const SyntaxLine& line = syntax_.lines.back();
        return text_error(ErrorCode::syntax,
                          "a line without a name, " + column_text(text_, line.begin) + ", is used by nothing",
                          "Begin it with a name and =; only the last line may go without.", line.begin,
                          line.end);
    }

    Status one_line() {
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
        line.end = tokens_[at_ - 1].end();
        syntax_.lines.push_back(std::move(line));
        return Done{};
    }

    Status value_of(SyntaxLine& line) {
        const NodeResult root = choice();
        if (!root) return root.error();
        line.root = *root;
        return Done{};
    }

    std::size_t begin_of(std::uint32_t node) const { return syntax_.tree.nodes()[node].begin; }

    std::uint32_t binary(BinarySign sign, std::uint32_t left, std::uint32_t right, std::size_t sign_at) {
        SyntaxNode node{.type = SyntaxType::binary, .sign = sign, .text = {}};
        node.begin = begin_of(left);
        node.end = syntax_.tree.nodes()[right].end;
        node.sign_at = sign_at;
        const std::array<std::uint32_t, 2> children{left, right};
        return syntax_.tree.add(std::move(node), children);
    }

    // A chain of operands joined by any of `signs`, from left to right.
    template <class Operand>
    NodeResult chain(std::initializer_list<BinarySign> signs, Operand operand) {
        NodeResult left = operand();
        while (left) {
            const auto sign = std::ranges::find_if(
                signs, [&](BinarySign s) { return is_sign(text_of(s)) || is_word(text_of(s)); });
            if (sign == signs.end()) break;
            const std::size_t sign_at = token().offset;
            advance();
            NodeResult right = operand();
            if (!right) return right;
            left = binary(*sign, *left, *right, sign_at);
        }
        return left;
    }

    NodeResult choice() {
        return chain({BinarySign::either}, [this] { return both(); });
    }
    NodeResult both() {
        return chain({BinarySign::both}, [this] { return negation(); });
    }

    NodeResult deeper(NodeResult (Parser::*read)()) {
        if (++depth_ > deepest_expression)
            return wrong("is nested too deeply " + here(), "Split it into several lines or controls.",
                         ErrorCode::too_deep);
        NodeResult result = (this->*read)();
        --depth_;
        return result;
    }

    NodeResult prefixed(SyntaxType type, NodeResult (Parser::*read)()) {
        const std::size_t begin = token().offset;
        advance();
        NodeResult inner = deeper(read);
        if (!inner) return inner;
        SyntaxNode node{.type = type, .text = {}};
        node.begin = begin;
        node.end = syntax_.tree.nodes()[*inner].end;
        return syntax_.tree.add(std::move(node), std::array{*inner});
    }

    NodeResult negation() {
        if (is_word("not")) return prefixed(SyntaxType::invert, &Parser::negation);
        return comparison();
    }

    NodeResult comparison() {
        static constexpr auto signs = {BinarySign::less,    BinarySign::less_equal,
                                       BinarySign::greater, BinarySign::greater_equal,
                                       BinarySign::equal,   BinarySign::unequal};
        int compared = 0;
        NodeResult result = chain(signs, [&]() -> NodeResult {
            if (++compared > 2) return wrong("two comparisons in a row " + here(), "Write a < b and b < c.");
            return sum();
        });
        return result;
    }

    NodeResult sum() {
        return chain({BinarySign::add, BinarySign::subtract}, [this] { return product(); });
    }
    NodeResult product() {
        return chain({BinarySign::multiply, BinarySign::divide}, [this] { return deeper(&Parser::unary); });
    }

    NodeResult unary() {
        if (is_sign("-")) return prefixed(SyntaxType::negate, &Parser::unary);
        if (!is_sign("+")) return power();
        advance();
        return deeper(&Parser::unary);
    }

    NodeResult power() {
        NodeResult base = operand();
        if (!base || !is_sign("^")) return base;
        const std::size_t sign_at = token().offset;
        advance();
        NodeResult exponent = deeper(&Parser::unary);
        if (!exponent) return exponent;
        return binary(BinarySign::power, *base, *exponent, sign_at);
    }

    Status close_bracket() {
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
    void open_bracket() {
        ++brackets_;
        advance();
    }

    NodeResult operand() {
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

    NodeResult number(const Token& first) {
        ++at_;
        SyntaxNode node{.type = SyntaxType::number, .number = first.number, .text = {}};
        node.begin = first.offset;
        node.end = first.end();
        if (token().type == TokenType::name && is_unit(token().text)) {
            node.text = token().text;
            node.end = token().end();
            ++at_;
        }
        skip();
        return syntax_.tree.add(std::move(node));
    }

    NodeResult call(const Token& name) {
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

    std::string_view text_;
    const std::vector<Token>& tokens_;
    Syntax syntax_;
    std::size_t at_ = 0;
    int depth_ = 0, brackets_ = 0;
    bool one_expression_;
};

Error too_long(std::size_t size, std::size_t longest) {
    return text_error(
        ErrorCode::too_long,
        "is too long, with " + std::to_string(size) + " characters of at most " + std::to_string(longest),
        "Split it into several steps or controls.", 0, longest);
}

// Printing -----------------------------------------------------------------------------------------------

// How tightly a node binds: what hangs below it looser needs brackets.
int strength(const SyntaxNode& node) {
    if (node.type == SyntaxType::negate) return 6;
    if (node.type == SyntaxType::invert) return 3;
    if (node.type != SyntaxType::binary) return 9;
    switch (node.sign) {
        case BinarySign::either:
            return 1;
        case BinarySign::both:
            return 2;
        case BinarySign::add:
        case BinarySign::subtract:
            return 4 + 1;
        case BinarySign::multiply:
        case BinarySign::divide:
            return 6;
        case BinarySign::power:
            return 8;
        default:
            return 4;
    }
}

// Words and comparisons are spaced, powers are not.
std::string joined(BinarySign sign) {
    const std::string text(text_of(sign));
    return sign == BinarySign::power ? text : " " + text + " ";
}

class Printer {
public:
    explicit Printer(const Syntax& syntax) : tree_(syntax.tree), texts_(syntax.tree.nodes().size()) {
        for (std::size_t index = 0; index < texts_.size(); ++index)
            texts_[index] = print(tree_.nodes()[index]);
    }
    std::string take(std::uint32_t node) { return std::move(texts_[node]); }

private:
    // A child's text, in brackets unless it binds at least as tightly as `needed`.
    std::string bound(std::uint32_t child, int needed) {
        if (strength(tree_.nodes()[child]) >= needed) return take(child);
        return "(" + take(child) + ")";
    }

    std::string print(const SyntaxNode& node) {
        const auto children = tree_.children(node);
        switch (node.type) {
            case SyntaxType::number:
                return exact_text(node.number) + (node.text.empty() || node.text == "°" ? "" : " ") +
                       node.text;
            case SyntaxType::name:
                return node.text;
            case SyntaxType::negate:
                return "-" + bound(children[0], 6 + 1 - (is_negate(children[0]) ? 1 : 0));
            case SyntaxType::invert:
                return "not " + bound(children[0], 3);
            case SyntaxType::call: {
                std::string text = node.text + "(";
                for (std::size_t at = 0; at < children.size(); ++at)
                    text += (at > 0 ? ", " : "") + take(children[at]);
                return text + ")";
            }
            case SyntaxType::binary:
                break;
        }
        // A power's base binds tighter than itself, its exponent may be a sign; the others join leftwards,
        // and comparisons do not join at all.
        const int own = strength(node);
        if (node.sign == BinarySign::power) {
            std::string base = bound(children[0], 9);
            return std::move(base) + "^" +
                   (is_negate(children[1]) ? take(children[1]) : bound(children[1], 8));
        }
        std::string left = bound(children[0], own == 4 ? 5 : own);
        left += joined(node.sign);
        left += bound(children[1], right_strength(own, children[1]));
        return left;
    }
    bool is_negate(std::uint32_t node) const { return tree_.nodes()[node].type == SyntaxType::negate; }
    int right_strength(int own, std::uint32_t child) const {
        return own == 6 && is_negate(child) ? 6 : own + 1;
    }

    const SyntaxTree& tree_;
    std::vector<std::string> texts_;
};

// An error at the end of the text is about its last letter, so that there is something to underline.
Error inside(Error error, std::string_view text) {
    error.end = std::min(error.end, text.size());
    if (error.begin < error.end) return error;
    error.begin = error.end;
    while (error.begin > 0 && (error.begin == error.end || (text[error.begin] & '\xC0') == '\x80'))
        --error.begin;
    return error;
}

}  // namespace

std::string_view text_of(BinarySign sign) {
    return sign_texts[static_cast<std::size_t>(sign)];
}

std::uint32_t SyntaxTree::add(SyntaxNode node, std::span<const std::uint32_t> children) {
    node.first_child = static_cast<std::uint32_t>(children_.size());
    node.child_count = static_cast<std::uint32_t>(children.size());
    children_.insert(children_.end(), children.begin(), children.end());
    nodes_.push_back(std::move(node));
    return static_cast<std::uint32_t>(nodes_.size() - 1);
}

Result<Syntax> parse_expression(std::string_view text) {
    if (text.size() > longest_expression) return too_long(text.size(), longest_expression);
    const auto tokens = tokenize(text);
    if (!tokens) return inside(tokens.error(), text);
    Result<Syntax> read = Parser(text, *tokens, true).expression();
    return read ? std::move(read) : inside(read.error(), text);
}

Result<Syntax> parse_formula(std::string_view text) {
    if (text.size() > longest_formula) return too_long(text.size(), longest_formula);
    const auto tokens = tokenize(text);
    if (!tokens) return inside(tokens.error(), text);
    Result<Syntax> read = Parser(text, *tokens, false).formula();
    return read ? std::move(read) : inside(read.error(), text);
}

std::string printed(const Syntax& syntax) {
    Printer printer(syntax);
    std::string text;
    for (const SyntaxLine& line : syntax.lines) {
        if (!text.empty()) text += '\n';
        if (line.field) text += "field ";
        if (!line.name.empty()) text += line.name + " = ";
        text += printer.take(line.root);
    }
    return text;
}

}  // namespace plume
