#include "core/formula/program.hpp"

#include <algorithm>
#include <bit>
#include <cmath>
#include <memory>

#include "core/base/noise.hpp"
#include "core/base/parallel.hpp"
#include "core/formula/kernels.hpp"

namespace plume {
namespace {

// Lanes of one block: long enough that choosing the kernel costs nothing against it, short enough that a
// dozen registers stay in the first-level cache.
constexpr std::size_t block_lanes = 256;
// Tables may take up to this share of the domain.
constexpr std::size_t least_table_saving = 8;
// Blocks handed to a thread at a time.
constexpr std::size_t blocks_per_task = 64;

constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();

// Where an operand is found while a block runs.
struct Source {
    enum class Type : std::uint8_t { constant, direct, table, reg, output };
    Type type = Type::constant;
    std::uint32_t number = 0;
};

struct Instruction {
    Operation operation = Operation::copy;
    std::array<Source, 3> operands;
    Source target;  // reg or output
};

struct Table {
    std::array<std::size_t, 3> strides{};  // 0 for a direction it does not have
    Doubles values;
};

// Numbers of one set of directions, fastest first.
struct Stage {
    std::array<std::size_t, 3> counts{1, 1, 1};
    std::vector<Instruction> instructions;
    std::size_t register_count = 0;

    std::size_t size() const { return counts[0] * counts[1] * counts[2]; }
    // Direction that runs fastest, and its length.
    std::size_t row() const {
        for (std::size_t d = 0; d < 3; ++d)
            if (counts[d] > 1) return d;
        return 0;
    }
};

Directions directions_of(const Domain& domain) {
    Directions present = 0;
    for (std::size_t d = 0; d < 3; ++d)
        if (domain.directions[d].count > 1) present |= static_cast<Directions>(1U << d);
    return present;
}

std::size_t size_over(const Domain& domain, Directions set) {
    std::size_t size = 1;
    for (std::size_t d = 0; d < 3; ++d)
        if (set & (1U << d)) size *= domain.directions[d].count;
    return size;
}

// Everything a run reads, found out before it begins.
class Planner {
public:
    Planner(const Graph& graph, std::span<const NodeId> outputs, const Domain& domain)
        : graph_(graph), outputs_(outputs), domain_(domain), all_(directions_of(domain)) {
        used_.assign(graph.size(), 0);
        stage_of_.assign(graph.size(), 0);
        for (const NodeId output : outputs)
            used_[output] = 1;
        for (std::size_t at = graph.size(); at-- > 0;) {
            if (!used_[at]) continue;
            const Node& node = graph[static_cast<NodeId>(at)];
            for (int operand = 0; operand < node.operand_count(); ++operand)
                used_[node.operands[static_cast<std::size_t>(operand)]] = 1;
        }
        for (std::size_t at = 0; at < graph.size(); ++at)
            if (used_[at]) stage_of_[at] = stage_set(graph[static_cast<NodeId>(at)]);
    }

    // Sets of directions with something to compute, smaller sets first, the whole domain last.
    std::vector<Directions> stages() const {
        std::vector<Directions> sets;
        for (std::size_t at = 0; at < graph_.size(); ++at)
            if (is_computed(static_cast<NodeId>(at)) && stage_of_[at] != all_) sets.push_back(stage_of_[at]);
        std::ranges::sort(sets, [](Directions a, Directions b) {
            const int x = std::popcount(static_cast<unsigned>(a)),
                      y = std::popcount(static_cast<unsigned>(b));
            return x != y ? x < y : a < b;
        });
        sets.erase(std::unique(sets.begin(), sets.end()), sets.end());
        sets.push_back(all_);
        return sets;
    }

    bool used(NodeId node) const { return used_[node] != 0; }
    Directions stage_of(NodeId node) const { return stage_of_[node]; }
    Directions all() const { return all_; }
    bool is_computed(NodeId node) const { return used_[node] && graph_[node].type == Node::Type::operation; }

private:
    // Directions without extent do not count; a set too large for a table counts as all.
    Directions stage_set(const Node& node) const {
        const auto set = static_cast<Directions>(node.depends & all_);
        if (set == all_ || size_over(domain_, set) * least_table_saving > domain_.size()) return all_;
        return set;
    }

    const Graph& graph_;
    std::span<const NodeId> outputs_;
    const Domain& domain_;
    Directions all_;
    std::vector<std::uint8_t> used_;
    std::vector<Directions> stage_of_;
};

double input_value(const Direction& direction, InputType type, std::size_t index) {
    if (type == InputType::loop_index) return static_cast<double>(index);
    return type == InputType::loop_value ? direction.value(index) : direction.share(index);
}

class Evaluation {
public:
    Evaluation(const Graph& graph, std::span<const NodeId> outputs, const Domain& domain, Keep keep,
               const Run& run)
        : graph_(graph),
          outputs_(outputs),
          domain_(domain),
          keep_(keep),
          run_(run),
          plan_(graph, outputs, domain) {
        tables_of_.assign(graph.size(), none);
        constants_of_.assign(graph.size(), none);
        for (NodeId node = 0; node < graph.size(); ++node)
            if (plan_.used(node) && graph.is_constant(node)) keep_constant(node);
    }

    Result<Evaluated> all() {
        const auto stages = plan_.stages();
        for (std::size_t at = 0; at + 1 < stages.size(); ++at)
            if (!make_tables(stages[at])) return cancelled_error();
        Evaluated result;
        result.surveys.resize(outputs_.size());
        result.columns.resize(outputs_.size());
        std::vector<double*> targets(outputs_.size(), nullptr);
        if (keep_ == Keep::columns)
            for (std::size_t at = 0; at < outputs_.size(); ++at) {
                result.columns[at].resize(domain_.size());
                targets[at] = result.columns[at].data();
            }
        const std::vector<NodeId> nodes(outputs_.begin(), outputs_.end());
        if (!run_stage(compile(plan_.all(), nodes), targets, &result.surveys)) return cancelled_error();
        return result;
    }

private:
    void keep_constant(NodeId node) {
        constants_of_[node] = static_cast<std::uint32_t>(constants_.size());
        constants_.emplace_back().fill(graph_[node].value);
    }

    // Nodes of this set that another stage or the end reads.
    std::vector<NodeId> exports(Directions set) const {
        std::vector<std::uint8_t> wanted(graph_.size(), 0);
        for (NodeId node = 0; node < graph_.size(); ++node) {
            if (!plan_.used(node) || plan_.stage_of(node) == set) continue;
            const Node& n = graph_[node];
            for (int at = 0; at < n.operand_count(); ++at)
                wanted[n.operands[static_cast<std::size_t>(at)]] = 1;
        }
        for (const NodeId output : outputs_)
            wanted[output] = 1;
        std::vector<NodeId> nodes;
        for (NodeId node = 0; node < graph_.size(); ++node)
            if (wanted[node] && plan_.is_computed(node) && plan_.stage_of(node) == set) nodes.push_back(node);
        return nodes;
    }

    bool make_tables(Directions set) {
        const std::vector<NodeId> nodes = exports(set);
        const std::size_t size = size_over(domain_, set);
        std::vector<double*> targets;
        std::vector<std::uint32_t> made;
        made.reserve(nodes.size());
        for (std::size_t at = 0; at < nodes.size(); ++at) {
            made.push_back(static_cast<std::uint32_t>(tables_.size()));
            add_table(set, size);
        }
        for (const std::uint32_t table : made)
            targets.push_back(tables_[table]->values.data());
        const Stage stage = compile(set, nodes);
        const bool finished = run_stage(stage, targets, nullptr);
        for (std::size_t at = 0; at < nodes.size(); ++at)
            tables_of_[nodes[at]] = made[at];
        return finished;
    }

    Table& add_table(Directions set, std::size_t size) {
        auto table = std::make_unique<Table>();
        std::size_t stride = 1;
        for (std::size_t d = 0; d < 3; ++d)
            if (set & (1U << d)) {
                table->strides[d] = stride;
                stride *= domain_.directions[d].count;
            }
        table->values.resize(size);
        tables_.push_back(std::move(table));
        return *tables_.back();
    }

    // Loop values, indices and shares stand in a table of their direction.
    std::uint32_t input_table(const Node& node) {
        for (const auto& [ref, table] : input_tables_)
            if (ref == node.input) return table;
        const Direction& direction = domain_.directions[node.input.number];
        const auto number = static_cast<std::uint32_t>(tables_.size());
        const auto set = static_cast<Directions>((1U << node.input.number) & plan_.all());
        Table& table = add_table(set, direction.count);
        for (std::size_t index = 0; index < direction.count; ++index)
            table.values[index] = input_value(direction, node.input.type, index);
        input_tables_.emplace_back(node.input, number);
        return number;
    }

    // Instructions for the nodes of one stage, in order, and the registers they need.
    Stage compile(Directions set, const std::vector<NodeId>& outputs) {
        Stage stage;
        for (std::size_t d = 0; d < 3; ++d)
            if (set & (1U << d)) stage.counts[d] = domain_.directions[d].count;
        std::vector<NodeId> order;
        std::vector<std::size_t> last_use(graph_.size(), 0);
        for (NodeId node = 0; node < graph_.size(); ++node) {
            const Node& n = graph_[node];
            if (!plan_.is_computed(node) || plan_.stage_of(node) != set) continue;
            for (int at = 0; at < n.operand_count(); ++at)
                last_use[n.operands[static_cast<std::size_t>(at)]] = order.size();
            order.push_back(node);
        }
        std::vector<Source> place(graph_.size(), Source{Source::Type::constant, none});
        std::vector<std::uint32_t> free_registers;
        std::vector<std::uint8_t> is_output(graph_.size(), 0);
        for (std::size_t at = 0; at < outputs.size(); ++at)
            if (plan_.is_computed(outputs[at]) && plan_.stage_of(outputs[at]) == set &&
                !is_output[outputs[at]]) {
                is_output[outputs[at]] = 1;
                place[outputs[at]] = {Source::Type::output, static_cast<std::uint32_t>(at)};
            }
        for (std::size_t at = 0; at < order.size(); ++at) {
            const NodeId node = order[at];
            const Node& n = graph_[node];
            Instruction instruction{n.operation, {}, {}};
            for (int operand = 0; operand < n.operand_count(); ++operand)
                instruction.operands[static_cast<std::size_t>(operand)] =
                    source_of(n.operands[static_cast<std::size_t>(operand)], place);
            // A register is free for the result as soon as its last reader reads it: kernels read a lane
            // before they write it.
            for (int operand = 0; operand < n.operand_count(); ++operand) {
                const NodeId read = n.operands[static_cast<std::size_t>(operand)];
                if (place[read].type != Source::Type::reg || last_use[read] != at) continue;
                free_registers.push_back(place[read].number);
                last_use[read] = order.size() + 1;  // not twice
            }
            if (!is_output[node]) {
                if (free_registers.empty())
                    free_registers.push_back(static_cast<std::uint32_t>(stage.register_count++));
                place[node] = {Source::Type::reg, free_registers.back()};
                free_registers.pop_back();
            }
            instruction.target = place[node];
            stage.instructions.push_back(instruction);
        }
        // Outputs that are constants, columns, tables or the same as another are copied.
        for (std::size_t at = 0; at < outputs.size(); ++at) {
            const Source target{Source::Type::output, static_cast<std::uint32_t>(at)};
            const Source source = source_of(outputs[at], place);
            if (source.type == target.type && source.number == target.number) continue;
            stage.instructions.push_back({Operation::copy, {source, source, source}, target});
        }
        return stage;
    }

    Source source_of(NodeId node, const std::vector<Source>& place) {
        const Node& n = graph_[node];
        if (n.type == Node::Type::constant) return {Source::Type::constant, constants_of_[node]};
        if (place[node].number != none) return place[node];
        if (n.type == Node::Type::input) {
            if (n.input.type == InputType::column) return {Source::Type::direct, n.input.number};
            return {Source::Type::table,
                    n.input.type == InputType::address_number ? by_address : input_table(n)};
        }
        return {Source::Type::table, tables_of_[node]};
    }

    // Running ---------------------------------------------------------------------------------------------

    // Memory of one thread: registers, room for operands that are not contiguous, and for outputs that are
    // only surveyed.
    struct Workspace {
        explicit Workspace(std::size_t registers, std::size_t outputs)
            : values((registers + 3 + outputs) * block_lanes),
              spare(values.data() + registers * block_lanes),
              outputs_at(spare + 3 * block_lanes) {}
        Doubles values;
        double* spare;
        double* outputs_at;
        std::array<std::array<double, widest_batch>, 3> single{};
    };

    struct Block {
        std::size_t begin, count;            // flat, within the stage
        std::array<std::size_t, 3> address;  // of its first lane
        bool one_row;                        // all lanes differ in the fastest direction only
    };

    bool run_stage(const Stage& stage, const std::vector<double*>& targets, std::vector<Survey>* surveys) {
        const std::size_t size = stage.size(), row = stage.row(), row_length = stage.counts[row];
        // Long rows are cut into blocks of their own, so that what does not change along a row is one number.
        const bool by_rows = row_length >= block_lanes / 2;
        const std::size_t pieces = (row_length + block_lanes - 1) / block_lanes;
        const std::size_t blocks =
            by_rows ? size / row_length * pieces : (size + block_lanes - 1) / block_lanes;
        const std::size_t tasks = (blocks + blocks_per_task - 1) / blocks_per_task;
        std::vector<std::vector<Survey>> found(surveys ? tasks : 0);
        const bool finished =
            parallel_blocks(blocks, blocks_per_task, run_, [&](std::size_t begin, std::size_t end) {
                Workspace workspace(stage.register_count, targets.size());
                std::vector<Survey> mine(targets.size());
                for (std::size_t index = begin; index < end; ++index) {
                    if (run_.cancelled()) return;
                    Block block{};
                    if (by_rows) {
                        const std::size_t piece = index % pieces;
                        const std::size_t from = row_length * piece / pieces;
                        block.begin = index / pieces * row_length + from;
                        block.count = row_length * (piece + 1) / pieces - from;
                    } else {
                        block.begin = index * block_lanes;
                        block.count = std::min(block_lanes, size - block.begin);
                    }
                    block.address = {block.begin % stage.counts[0],
                                     block.begin / stage.counts[0] % stage.counts[1],
                                     block.begin / stage.counts[0] / stage.counts[1]};
                    block.one_row = block.address[row] + block.count <= row_length;
                    run_block(stage, block, targets, workspace);
                    if (surveys) survey(block, targets, workspace, mine);
                }
                if (surveys) found[begin / blocks_per_task] = std::move(mine);
            });
        if (surveys)
            for (const auto& task : found)
                for (std::size_t at = 0; at < task.size(); ++at)
                    (*surveys)[at].include(task[at]);
        return finished;
    }

    double* output_at(std::size_t output, const Block& block, const std::vector<double*>& targets,
                      Workspace& workspace) const {
        return targets[output] ? targets[output] + block.begin : workspace.outputs_at + output * block_lanes;
    }

    void run_block(const Stage& stage, const Block& block, const std::vector<double*>& targets,
                   Workspace& workspace) {
        for (const Instruction& instruction : stage.instructions) {
            std::array<Lanes, 3> lanes;
            const int operands = operand_count(instruction.operation);
            for (int at = 0; at < operands; ++at)
                lanes[static_cast<std::size_t>(at)] =
                    lanes_of(instruction.operands[static_cast<std::size_t>(at)], static_cast<std::size_t>(at),
                             stage, block, targets, workspace);
            double* const out = instruction.target.type == Source::Type::output
                                    ? output_at(instruction.target.number, block, targets, workspace)
                                    : workspace.values.data() + instruction.target.number * block_lanes;
            kernels_.of(instruction.operation)(out, lanes[0], lanes[1], lanes[2], block.count);
        }
    }

    Lanes lanes_of(Source source, std::size_t operand, const Stage& stage, const Block& block,
                   const std::vector<double*>& targets, Workspace& workspace) {
        switch (source.type) {
            case Source::Type::constant:
                return {constants_[source.number].data(), 0};
            case Source::Type::direct:
                return {domain_.columns[source.number].data() + block.begin, 1};
            case Source::Type::reg:
                return {workspace.values.data() + source.number * block_lanes, 1};
            case Source::Type::output:
                return {output_at(source.number, block, targets, workspace), 1};
            case Source::Type::table:
                break;
        }
        double* const spare = workspace.spare + operand * block_lanes;
        if (source.number == by_address) {
            std::array<std::size_t, 3> at = block.address;
            for (std::size_t lane = 0; lane < block.count; ++lane) {
                spare[lane] = address_number(at[0], at[1], at[2]);
                for (std::size_t d = 0; d < 3 && ++at[d] == stage.counts[d]; ++d)
                    at[d] = 0;
            }
            return {spare, 1};
        }
        return table_lanes(*tables_[source.number], stage, block, spare, workspace.single[operand]);
    }

    static Lanes table_lanes(const Table& table, const Stage& stage, const Block& block, double* spare,
                             std::array<double, widest_batch>& single) {
        std::array<std::size_t, 3> address = block.address;
        const auto from = [&] {
            return address[0] * table.strides[0] + address[1] * table.strides[1] +
                   address[2] * table.strides[2];
        };
        const std::size_t row = stage.row(), stride = table.strides[row];
        if (block.one_row) {
            if (stride == 1) return {table.values.data() + from(), 1};
            if (stride == 0) {
                single.fill(table.values[from()]);
                return {single.data(), 0};
            }
        }
        for (std::size_t lane = 0; lane < block.count;) {
            const std::size_t length = std::min(block.count - lane, stage.counts[row] - address[row]);
            const double* const values = table.values.data() + from();
            for (std::size_t at = 0; at < length; ++at)
                spare[lane + at] = values[at * stride];
            lane += length;
            address[row] = 0;
            for (std::size_t d = row + 1; d < 3; ++d) {
                if (++address[d] < stage.counts[d]) break;
                address[d] = 0;
            }
        }
        return {spare, 1};
    }

    void survey(const Block& block, const std::vector<double*>& targets, Workspace& workspace,
                std::vector<Survey>& found) const {
        for (std::size_t at = 0; at < targets.size(); ++at) {
            const double* const values = output_at(at, block, targets, workspace);
            Survey& mine = found[at];
            const std::size_t before = mine.not_finite;
            kernels_.survey(values, block.count, mine.least, mine.most, mine.not_finite);
            if (before > 0 || mine.not_finite == 0) continue;
            const double* const bad =
                std::find_if_not(values, values + block.count, [](double v) { return std::isfinite(v); });
            mine.first_not_finite = block.begin + static_cast<std::size_t>(bad - values);
        }
    }

    static constexpr std::uint32_t by_address = none - 1;

    const Graph& graph_;
    std::span<const NodeId> outputs_;
    const Domain& domain_;
    Keep keep_;
    const Run& run_;
    Planner plan_;
    const KernelSet& kernels_ = kernels();
    std::vector<std::array<double, widest_batch>> constants_;
    std::vector<std::unique_ptr<Table>> tables_;
    std::vector<std::uint32_t> tables_of_, constants_of_;
    std::vector<std::pair<InputRef, std::uint32_t>> input_tables_;
};

}  // namespace

double Direction::value(std::size_t index) const {
    if (count < 2) return first;
    // From the nearer end, so that both ends are exact.
    const double share_along = static_cast<double>(index) / static_cast<double>(count - 1);
    return share_along < 0.5 ? first + (last - first) * share_along
                             : last - (last - first) * (1 - share_along);
}

double Direction::share(std::size_t index) const {
    const std::size_t bays = closed ? count : count - 1;
    return bays == 0 ? 0 : static_cast<double>(index) / static_cast<double>(bays);
}

void Survey::include(const Survey& other) {
    least = std::min(least, other.least);
    most = std::max(most, other.most);
    not_finite += other.not_finite;
    first_not_finite = std::min(first_not_finite, other.first_not_finite);
}

Result<Evaluated> evaluate(const Graph& graph, std::span<const NodeId> outputs, const Domain& domain,
                           Keep keep, const Run& run) {
    if (domain.size() == 0) {
        Evaluated nothing;
        nothing.columns.resize(outputs.size());
        nothing.surveys.resize(outputs.size());
        return nothing;
    }
    return Evaluation(graph, outputs, domain, keep, run).all();
}

double evaluation_bytes(std::size_t output_count, double address_count) {
    return address_count * sizeof(double) * static_cast<double>(output_count) *
           (1 + 1.0 / least_table_saving);
}

}  // namespace plume
