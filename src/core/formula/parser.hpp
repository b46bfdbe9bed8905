#pragma once
// Reads expressions out of tokens, by recursive descent over the grammar in syntax.hpp; what reads lines
// of expressions builds on it. Private to the formula layer.

#include <algorithm>
#include <string>
#include <string_view>
#include <vector>

#include "core/formula/syntax.hpp"
#include "core/formula/tokens.hpp"

namespace plume {

using NodeResult = Result<std::uint32_t>;

class Parser {
public:
    // Over lines an end of line is only space; else that is so inside brackets.
    Parser(std::string_view text, const std::vector<Token>& tokens, bool over_lines)
        : text_(text), tokens_(tokens), over_lines_(over_lines) {}

protected:
    const Token& token() const { return tokens_[at_]; }
    const Token& next() const { return tokens_[std::min(at_ + 1, tokens_.size() - 1)]; }
    const Token& before() const { return tokens_[at_ - 1]; }
    bool is_sign(std::string_view sign) const {
        return token().type == TokenType::sign && token().text == sign;
    }
    bool is_word(std::string_view word) const {
        return token().type == TokenType::name && token().text == word;
    }
    bool ends_line() const { return token().type == TokenType::end || token().type == TokenType::line_end; }
    void pass() { ++at_; }
    std::string_view text() const { return text_; }
    std::string here() const { return column_text(text_, token().offset); }
    std::string quoted() const { return "‘" + std::string(token().text) + "’"; }
    // An error about the token in hand.
    Error wrong(std::string message, std::string mend, ErrorCode code = ErrorCode::syntax) const;
    Error unexpected() const;
    // What follows a whole expression and should not.
    Error unfinished() const;

    // An expression; returns its root.
    NodeResult choice();
    NodeResult sum();
    Status value_of(SyntaxLine& line);
    // [field] [name =] expression, to the end of the line.
    Status one_line();
    void skip() {
        while ((over_lines_ || brackets_ > 0) && token().type == TokenType::line_end)
            ++at_;
    }
    void skip_line_ends() {
        while (token().type == TokenType::line_end)
            ++at_;
    }

    Syntax syntax_;

private:
    void advance() {
        ++at_;
        skip();
    }
    bool take(std::string_view sign) {
        if (!is_sign(sign)) return false;
        advance();
        return true;
    }
    std::size_t begin_of(std::uint32_t node) const { return syntax_.tree.nodes()[node].begin; }
    std::uint32_t binary(BinarySign sign, std::uint32_t left, std::uint32_t right, std::size_t sign_at);

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

    NodeResult both();
    NodeResult deeper(NodeResult (Parser::*read)());
    NodeResult prefixed(SyntaxType type, NodeResult (Parser::*read)());
    NodeResult negation();
    NodeResult comparison();
    NodeResult product();
    NodeResult unary();
    NodeResult power();
    Status close_bracket();
    void open_bracket() {
        ++brackets_;
        advance();
    }
    NodeResult operand();
    NodeResult number(const Token& first);
    NodeResult call(const Token& name);

    std::string_view text_;
    const std::vector<Token>& tokens_;
    std::size_t at_ = 0;
    int depth_ = 0, brackets_ = 0;
    bool over_lines_;
};

}  // namespace plume
