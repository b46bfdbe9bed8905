#include "core/formula/syntax.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/formula/parser.hpp"

namespace plume {
namespace {

constexpr std::array<std::string_view, 13> sign_texts{
    "+", "-", "*", "/", "^", "<", "<=", ">", ">=", "==", "!=", "and", "or"};

class LineParser : public Parser {
public:
    using Parser::Parser;

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
            skip_line_ends();
            if (token().type == TokenType::end) break;
            if (!syntax_.lines.empty() && syntax_.lines.back().name.empty()) return nameless();
            if (Status read = one_line(); !read) return read.error();
        }
        if (syntax_.lines.empty()) return wrong("is empty", "Type a line such as z = 0.4 * sin(x).");
        return std::move(syntax_);
    }

private:
    Error nameless() const {
        const SyntaxLine& line = syntax_.lines.back();
        return text_error(
            ErrorCode::syntax,
            "a line without a name, " + column_text(text(), line.begin) + ", is used by nothing",
            "Begin it with a name and =; only the last line may go without.", line.begin, line.end);
    }
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
    Result<Syntax> read = LineParser(text, *tokens, true).expression();
    return read ? std::move(read) : inside(read.error(), text);
}

Result<Syntax> parse_formula(std::string_view text) {
    if (text.size() > longest_formula) return too_long(text.size(), longest_formula);
    const auto tokens = tokenize(text);
    if (!tokens) return inside(tokens.error(), text);
    Result<Syntax> read = LineParser(text, *tokens, false).formula();
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
