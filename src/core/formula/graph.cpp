#include "core/formula/graph.hpp"

#include <bit>
#include <utility>

#include "core/formula/kernels.hpp"

namespace plume {
namespace {

bool commutes(Operation operation) {
    return operation == Operation::add || operation == Operation::multiply;
}

// The noise and random of a point differ from point to point even where their operands do not.
Directions depends_of(InputRef ref) {
    if (ref.type == InputType::column || ref.type == InputType::address_number) return every_direction;
    return static_cast<Directions>(1U << ref.number);
}

}  // namespace

std::size_t Graph::HashOfKey::operator()(const Key& key) const {
    std::uint64_t hash = 0;
    for (const std::uint64_t word : key.words)
        hash = (hash ^ word) * 0x9e3779b97f4a7c15U + (hash >> 29U);
    return static_cast<std::size_t>(hash ^ (hash >> 32U));
}

NodeId Graph::add(const Key& key, const Node& node) {
    const auto [place, fresh] = known_.try_emplace(key, static_cast<NodeId>(nodes_.size()));
    if (fresh) nodes_.push_back(node);
    return place->second;
}

NodeId Graph::constant(double value) {
    Node node;
    node.value = value;
    return add({{1, std::bit_cast<std::uint64_t>(value), 0}}, node);
}

NodeId Graph::input(InputRef ref) {
    Node node;
    node.type = Node::Type::input;
    node.input = ref;
    node.depends = depends_of(ref);
    return add({{2, static_cast<std::uint64_t>(ref.type), ref.number}}, node);
}

NodeId Graph::folded(Operation operation, const std::array<NodeId, 3>& operands) {
    std::array<std::array<double, widest_batch>, 3> lanes;
    for (std::size_t at = 0; at < lanes.size(); ++at)
        lanes[at].fill(nodes_[operands[at]].value);
    double result = 0;
    kernels().of(operation)(&result, {lanes[0].data(), 0}, {lanes[1].data(), 0}, {lanes[2].data(), 0}, 1);
    return constant(result);
}

// Small whole powers are products: exact to an ulp each, and ten times as fast.
NodeId Graph::power(NodeId base, NodeId exponent) {
    if (is_constant(exponent, 0.5)) return apply(Operation::square_root, base);
    if (is_constant(exponent, 1)) return base;
    if (is_constant(exponent, -1)) return apply(Operation::divide, constant(1), base);
    const NodeId square = apply(Operation::multiply, base, base);
    if (is_constant(exponent, 2)) return square;
    return apply(Operation::multiply, square, is_constant(exponent, 3) ? base : square);
}

// A product joins the sum it stands in, unless it could be computed less often than the sum.
bool Graph::fuses(NodeId product, NodeId other) const {
    const Node& node = nodes_[product];
    return node.type == Node::Type::operation && node.operation == Operation::multiply &&
           (nodes_[other].depends | node.depends) == node.depends;
}

NodeId Graph::apply(Operation operation, NodeId a, NodeId b, NodeId c) {
    const int count = operand_count(operation);
    if (count < 2) b = a;
    if (count < 3) c = a;
    if (is_constant(a) && is_constant(b) && is_constant(c)) return folded(operation, {a, b, c});
    if (operation == Operation::power)
        for (const double easy : {-1.0, 0.5, 1.0, 2.0, 3.0, 4.0})
            if (is_constant(b, easy)) return power(a, b);
    if (operation == Operation::multiply && is_constant(b, 1)) return a;
    if (operation == Operation::multiply && is_constant(a, 1)) return b;
    if (operation == Operation::divide && is_constant(b, 1)) return a;
    if (operation == Operation::select && is_constant(a)) return nodes_[a].value != 0 ? b : c;
    if (operation == Operation::add)
        for (const auto& [product, other] : {std::pair{a, b}, std::pair{b, a}})
            if (fuses(product, other)) {
                const std::array<NodeId, 3> factors = nodes_[product].operands;
                return apply(Operation::multiply_add, factors[0], factors[1], other);
            }
    if (commutes(operation) && a > b) std::swap(a, b);

    Node node;
    node.type = Node::Type::operation;
    node.operation = operation;
    node.operands = {a, b, c};
    for (int at = 0; at < count; ++at)
        node.depends |= nodes_[node.operands[static_cast<std::size_t>(at)]].depends;
    const std::uint64_t pair = static_cast<std::uint64_t>(a) << 32U | b;
    return add({{3 + static_cast<std::uint64_t>(operation), pair, count == 3 ? c : 0}}, node);
}

}  // namespace plume
