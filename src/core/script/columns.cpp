#include "core/script/columns.hpp"

#include <algorithm>
#include <unordered_map>

#include "core/formula/program.hpp"

namespace plume {

struct LazyColumn::Node {
    enum class Type { values, constant, numbers, operation };
    Type type = Type::values;
    std::size_t count = 0, pending = 0;
    Column values;
    double constant = 0;
    Operation operation = Operation::copy;
    std::array<std::shared_ptr<Node>, 3> operands{};
    ColumnMeter* meter = nullptr;  // that counts the values

    Node() = default;
    Node(const Node&) = delete;
    Node& operator=(const Node&) = delete;
    ~Node() {
        if (meter) meter->used -= count * sizeof(double);
    }

    // Of an expression the graph that computes it; columns are what it reads.
    class Builder;
};

class LazyColumn::Node::Builder {
public:
    NodeId add(const Node& node) {
        if (const auto known = made_.find(&node); known != made_.end()) return known->second;
        const NodeId id = made(node);
        made_.emplace(&node, id);
        return id;
    }
    Graph graph;
    Domain domain;

private:
    NodeId made(const Node& node) {
        switch (node.type) {
            case Type::values:
                domain.columns.push_back(node.values.span());
                return graph.input(
                    {InputType::column, static_cast<std::uint32_t>(domain.columns.size() - 1)});
            case Type::constant:
                return graph.constant(node.constant);
            case Type::numbers:
                return graph.input({InputType::loop_index, 0});
            case Type::operation:
                break;
        }
        std::array<NodeId, 3> ids{};
        for (std::size_t at = 0; at < 3 && node.operands[at]; ++at)
            ids[at] = add(*node.operands[at]);
        return graph.apply(node.operation, ids[0], ids[1], ids[2]);
    }
    std::unordered_map<const Node*, NodeId> made_;
};

LazyColumn::LazyColumn(Column values) : node_(std::make_shared<Node>()) {
    node_->count = values.size();
    node_->values = std::move(values);
}

LazyColumn LazyColumn::constant(double value, std::size_t count) {
    auto node = std::make_shared<Node>();
    node->type = Node::Type::constant;
    node->count = count;
    node->constant = value;
    return LazyColumn(std::move(node));
}

LazyColumn LazyColumn::numbers(std::size_t count) {
    auto node = std::make_shared<Node>();
    node->type = Node::Type::numbers;
    node->count = count;
    return LazyColumn(std::move(node));
}

LazyColumn LazyColumn::applied(Operation operation, std::array<const LazyColumn*, 3> operands) {
    auto node = std::make_shared<Node>();
    node->type = Node::Type::operation;
    node->operation = operation;
    node->count = operands[0]->size();
    node->pending = 1;
    for (std::size_t at = 0; at < 3 && operands[at]; ++at) {
        node->operands[at] = operands[at]->node_;
        node->pending += operands[at]->pending();
    }
    return LazyColumn(std::move(node));
}

std::size_t LazyColumn::size() const {
    return node_->count;
}

std::size_t LazyColumn::pending() const {
    return node_->pending;
}

Result<Column> LazyColumn::values(const Run& run, ColumnMeter& meter) const {
    Node& node = *node_;
    if (node.type == Node::Type::values) return node.values;
    const std::size_t bytes = node.count * sizeof(double);
    if (bytes > meter.most - std::min(meter.most, meter.used))
        return Error{ErrorCode::out_of_memory, "", "needs more memory than it may have", "Allow it more."};
    Node::Builder builder;
    const NodeId output = builder.add(node);
    builder.domain.directions[0] = {node.count, 0, 1, false};
    auto made = evaluate(builder.graph, std::array{output}, builder.domain, Keep::columns, run);
    if (!made) return made.error();
    // What it was made of is not needed any more.
    node.values = std::move(made->columns.front());
    node.meter = &meter;
    meter.used += bytes;
    node.type = Node::Type::values;
    node.pending = 0;
    node.operands = {};
    return node.values;
}

}  // namespace plume
