#include "core/picture/draw/drawing.hpp"

namespace plume {
namespace {

// Colours of members: by the numbers of theirs, where the name chosen is one of these, else by those of the
// nodes they end at. A frame is plain unless its members have numbers or it is asked for others.
class BarColours {
public:
    BarColours(const BarFrame& frame, const std::string& wanted, Drawable& drawable)
        : by_member_(wanted.empty() ||
                     std::ranges::find(frame.fields(), wanted, &Field::name) != frame.fields().end()),
          colours_(by_member_ ? frame.fields() : frame.nodes().fields(), wanted, "", drawable,
                   [&](std::size_t index) { return by_member_ || frame.nodes().present(index); }) {}

    float of_bar(std::size_t member, std::size_t node) const {
        return colours_.at(by_member_ ? member : node);
    }
    float of_node(std::size_t node) const { return by_member_ ? plain_coordinate : colours_.at(node); }

private:
    bool by_member_;
    Colours colours_;
};

}  // namespace

// A bar is an edge with vertices of its own; nodes are points numbered behind the members.
void draw_frame(const BarFrame& frame, const DrawOptions& options, Drawable& drawable) {
    drawable.lines_are = LineRole::bars;
    drawable.points_are = PointRole::feet;
    settle(drawable, frame.nodes().bounds());
    const BarColours colours(frame, options.colour_by, drawable);
    const std::vector<Member>& members = frame.members();
    drawable.vertices.resize(2 * members.size());
    drawable.vertex_parts.resize(2 * members.size());
    drawable.edges.resize(2 * members.size());
    for (std::uint32_t member = 0; member < members.size(); ++member)
        for (const std::uint32_t end : {0U, 1U}) {
            const std::uint32_t node = end == 0 ? members[member].from : members[member].to;
            const std::uint32_t at = 2 * member + end;
            drawable.vertices[at] =
                vertex(frame.nodes().point(node), drawable.origin, {0, 0, 1}, colours.of_bar(member, node));
            drawable.vertex_parts[at] = member;
            drawable.edges[at] = at;
        }
    for (std::size_t node = 0; node < frame.nodes().address_count(); ++node) {
        if (!frame.nodes().present(node)) continue;
        const Floats at = relative(frame.nodes().point(node), drawable.origin);
        drawable.points.push_back(
            {at.x, at.y, at.z, colours.of_node(node), static_cast<std::uint32_t>(members.size() + node)});
    }
}

}  // namespace plume
