#include "core/reference/refusals.hpp"

#include <map>
#include <nlohmann/json.hpp>
#include <vector>

#include "core/reference/carried_texts.hpp"

namespace plume {
namespace {

using Table = std::map<std::string, std::vector<Refusal>, std::less<>>;

Table read_table() {
    Table table;
    const nlohmann::json carried = nlohmann::json::parse(carried_refusals());
    for (const auto& [kind, list] : carried.items())
        for (const auto& entry : list)
            table[kind].push_back({entry.at("slot"), entry.at("text"), entry.at("mend")});
    return table;
}

}  // namespace

std::span<const Refusal> refusals_of(std::string_view kind) {
    static const Table table = read_table();
    const auto found = table.find(kind);
    if (found == table.end()) return {};
    return found->second;
}

}  // namespace plume
