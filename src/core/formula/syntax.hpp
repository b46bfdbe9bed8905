#pragma once
// Text of expressions and formulas as trees, checked for form only: names and units are judged later.
//
//   formula   = { line (end of line | ;) }
//   line      = [field] [name =] choice         the name may be left out in the last line
//   choice    = both { or both }
//   both      = negation { and negation }
//   negation  = not negation | comparison
//   comparison = sum [ (< | <= | > | >= | == | !=) sum ]
//   sum       = product { (+ | -) product }
//   product   = unary { (* | /) unary }
//   unary     = [+ | -] unary | power           so that -2^2 is -4
//   power     = operand [ ^ unary ]             right-associative
//   operand   = number [unit { / unit }] | name | name ( choice {, choice} ) | ( choice )
//
// Layout. Nodes stand in one array, children before parents, so that whatever walks a tree is a loop and no
// text, however long, can exhaust the stack. Recursion in reading is bounded by `deepest_expression`.

#include <array>
#include <cstdint>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

inline constexpr std::size_t longest_expression = 4096;  // in bytes
inline constexpr std::size_t longest_formula = 65'536;
inline constexpr int deepest_expression = 64;

enum class SyntaxType { number, name, call, negate, invert, binary };
enum class BinarySign {
    add,
    subtract,
    multiply,
    divide,
    power,
    less,
    less_equal,
    greater,
    greater_equal,
    equal,
    unequal,
    both,
    either
};
std::string_view text_of(BinarySign sign);

struct SyntaxNode {
    SyntaxType type = SyntaxType::number;
    BinarySign sign = BinarySign::add;
    double number = 0;
    std::string text;  // of a name or call its name, of a number its unit as typed
    std::uint32_t first_child = 0, child_count = 0;
    std::size_t begin = 0, end = 0;  // bytes of the source
    std::size_t sign_at = 0;         // of a binary: where its sign stands
};

class SyntaxTree {
public:
    const std::vector<SyntaxNode>& nodes() const { return nodes_; }
    std::span<const std::uint32_t> children(const SyntaxNode& node) const {
        return std::span(children_).subspan(node.first_child, node.child_count);
    }
    // Appends a node below which `children` hang; returns its number.
    std::uint32_t add(SyntaxNode node, std::span<const std::uint32_t> children = {});

private:
    std::vector<SyntaxNode> nodes_;
    std::vector<std::uint32_t> children_;
};

struct SyntaxLine {
    std::string name;  // empty when left out
    bool field = false;
    std::uint32_t root = 0;
    std::size_t begin = 0, end = 0;            // of the whole line
    std::size_t name_begin = 0, name_end = 0;  // of the name
};

struct Syntax {
    SyntaxTree tree;
    std::vector<SyntaxLine> lines;  // of an expression: just one, without a name
};

// Errors: syntax, bad_number, too_deep, too_long; begin and end say where.
Result<Syntax> parse_expression(std::string_view text);
Result<Syntax> parse_formula(std::string_view text);

// Text that reads back as the same tree, with no more brackets than it needs.
std::string printed(const Syntax& syntax);

}  // namespace plume
