#pragma once
// Graph: what a formula computes, every common subexpression once.
//
// Nodes stand in order: operands before what uses them. Each knows which directions of the domain it depends
// on, so that a program can compute what hangs on one loop variable only once a row or column. Constants are
// folded with the very kernels that run over lanes.

#include <array>
#include <cstdint>
#include <unordered_map>
#include <vector>

#include "core/formula/operation.hpp"

namespace plume {

// What the lanes of a program read.
enum class InputType : std::uint8_t {
    loop_value,     // of a direction: its variable's value
    loop_index,     // of a direction: 0, 1, 2 ...
    loop_share,     // of a direction: 0 to 1 over open bays, 0 to just below 1 over closed ones
    column,         // the n-th column of the domain
    address_number  // a number of the address alone (base/noise.hpp)
};

struct InputRef {
    InputType type = InputType::column;
    std::uint32_t number = 0;  // direction 0 to 2, or column
    bool operator==(const InputRef&) const = default;
};

using NodeId = std::uint32_t;
using Directions = std::uint8_t;  // bit d: depends on direction d
inline constexpr Directions every_direction = 7;

struct Node {
    enum class Type : std::uint8_t { constant, input, operation };
    Type type = Type::constant;
    Operation operation = Operation::copy;
    Directions depends = 0;
    InputRef input;
    std::array<NodeId, 3> operands{};
    double value = 0;  // of a constant

    int operand_count() const { return type == Type::operation ? plume::operand_count(operation) : 0; }
};

class Graph {
public:
    NodeId constant(double value);
    NodeId input(InputRef ref);
    NodeId apply(Operation operation, NodeId a, NodeId b = 0, NodeId c = 0);

    const Node& operator[](NodeId id) const { return nodes_[id]; }
    std::size_t size() const { return nodes_.size(); }
    bool is_constant(NodeId id) const { return nodes_[id].type == Node::Type::constant; }
    bool is_constant(NodeId id, double value) const { return is_constant(id) && nodes_[id].value == value; }

private:
    struct Key {
        std::array<std::uint64_t, 3> words;
        bool operator==(const Key&) const = default;
    };
    struct HashOfKey {
        std::size_t operator()(const Key& key) const;
    };
    NodeId add(const Key& key, const Node& node);
    NodeId folded(Operation operation, const std::array<NodeId, 3>& operands);
    NodeId power(NodeId base, NodeId exponent);
    bool fuses(NodeId product, NodeId other) const;

    std::vector<Node> nodes_;
    std::unordered_map<Key, NodeId, HashOfKey> known_;
};

}  // namespace plume
