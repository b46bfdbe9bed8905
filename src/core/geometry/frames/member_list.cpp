#include "core/geometry/frames/member_list.hpp"

#include <algorithm>
#include <map>
#include <optional>
#include <string>
#include <unordered_map>
#include <utility>

#include "core/base/text.hpp"

namespace plume {
namespace {

using Ends = std::pair<std::uint32_t, std::uint32_t>;

Ends in_order(std::uint32_t a, std::uint32_t b) {
    return {std::min(a, b), std::max(a, b)};
}

class NodesByMark {
public:
    explicit NodesByMark(const BarFrame& frame) {
        for (std::size_t node = 0; node < frame.nodes().address_count(); ++node)
            if (frame.nodes().present(node))
                nodes_.emplace(node_mark(frame, node), static_cast<std::uint32_t>(node));
    }

    std::optional<std::uint32_t> node(std::string_view mark) const {
        const auto found = nodes_.find(std::string(mark));
        return found == nodes_.end() ? std::nullopt : std::optional(found->second);
    }
    // Marks of nodes may hold dashes of their own.
    std::optional<Ends> ends(std::string_view mark) const {
        for (const std::string_view dash : {std::string_view("–"), std::string_view("-")})
            for (std::size_t at = mark.find(dash); at != std::string_view::npos;
                 at = mark.find(dash, at + 1)) {
                const auto from = node(mark.substr(0, at)), to = node(mark.substr(at + dash.size()));
                if (from && to) return in_order(*from, *to);
            }
        return {};
    }

private:
    std::unordered_map<std::string, std::uint32_t> nodes_;
};

}  // namespace

Result<NamedAddresses> named_members(std::string_view text, const BarFrame& frame) {
    const std::vector<std::string_view> words = words_between(text, list_separators);
    if (words.empty())
        return Error{ErrorCode::empty_input, "", "No mark is given",
                     "Type some, or pick members in the model."};
    const NodesByMark nodes(frame);
    // What the marks name, and whether a member was found for it.
    std::map<Ends, bool> members;
    std::map<std::uint32_t, bool> whole_nodes;
    for (const std::string_view word : words)
        if (const auto node = nodes.node(word))
            whole_nodes.emplace(*node, false);
        else if (const auto ends = nodes.ends(word))
            members.emplace(*ends, false);
    NamedAddresses named{std::vector<std::uint8_t>(frame.member_count()), 0, {}};
    for (std::size_t at = 0; at < named.mask.size(); ++at) {
        const Member& member = frame.members()[at];
        for (const std::uint32_t node : {member.from, member.to})
            if (const auto found = whole_nodes.find(node); found != whole_nodes.end())
                named.mask[at] = found->second = true;
        if (const auto found = members.find(in_order(member.from, member.to)); found != members.end())
            named.mask[at] = found->second = true;
    }
    const auto is_there = [&](std::string_view word) {
        if (const auto node = nodes.node(word)) return whole_nodes.at(*node);
        const auto ends = nodes.ends(word);
        return ends && members.at(*ends);
    };
    for (const std::string_view word : words)
        if (!is_there(word) && named.missing++ == 0) named.first_missing = word;
    return named;
}

}  // namespace plume
