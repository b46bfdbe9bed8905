#include "core/geometry/frames/frame_edits.hpp"

#include <algorithm>
#include <map>
#include <optional>
#include <tuple>

#include "core/data/gathered.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/levels/segment_chains.hpp"
#include "core/geometry/measures/box_tree.hpp"

namespace plume {
namespace {

std::uint32_t small(std::size_t number) {
    return static_cast<std::uint32_t>(number);
}

// Nodes of a frame and more of them, each somewhere on a member.
class MoreNodes {
public:
    explicit MoreNodes(const BarFrame& frame) : frame_(frame) {
        const PointLattice& nodes = frame.nodes();
        const auto copied = [](const Column& column) {
            return Doubles(column.span().begin(), column.span().end());
        };
        x_ = copied(nodes.x());
        y_ = copied(nodes.y());
        z_ = copied(nodes.z());
        for (const Field& field : nodes.fields())
            numbers_.push_back(copied(field.values));
        for (std::size_t node = 0; node < nodes.address_count(); ++node) {
            marks_.push_back(node_mark(frame, node));
            present_.push_back(nodes.present(node) ? 1 : 0);
        }
    }
    // At a share of a member's way, standing at `place`.
    std::uint32_t add(const Member& member, double share, Vec3 place, std::string mark) {
        x_.push_back(place.x);
        y_.push_back(place.y);
        z_.push_back(place.z);
        for (Doubles& numbers : numbers_)
            numbers.push_back(numbers[member.from] * (1 - share) + numbers[member.to] * share);
        marks_.push_back(std::move(mark));
        present_.push_back(1);
        return small(marks_.size() - 1);
    }
    // With members that come of old ones, by their number.
    Result<BarFrame::Parts> with(std::vector<Member> members, const std::vector<std::size_t>& from) && {
        PointLattice::Parts parts{.arrangement = Arrangement::scatter,
                                  .counts = {x_.size(), 1, 1},
                                  .x = std::move(x_),
                                  .y = std::move(y_),
                                  .z = std::move(z_),
                                  .present = std::move(present_),
                                  .fields = {}};
        for (std::size_t field = 0; field < numbers_.size(); ++field)
            parts.fields.push_back({frame_.nodes().fields()[field].name, std::move(numbers_[field]),
                                    frame_.nodes().fields()[field].dimension});
        auto nodes = PointLattice::make(std::move(parts));
        if (!nodes) return nodes.error();
        return BarFrame::Parts{*std::move(nodes), std::move(members), gathered(frame_.fields(), from),
                               std::make_shared<const std::vector<std::string>>(std::move(marks_))};
    }

private:
    const BarFrame& frame_;
    Doubles x_, y_, z_;
    std::vector<Doubles> numbers_;
    std::vector<std::string> marks_;
    std::vector<std::uint8_t> present_;
};

// The shares of two segments' ways where they come nearest (Ericson, Real-Time Collision Detection, 5.1.9).
struct Nearest {
    double on_a = 0, on_b = 0, apart = 0;
    Vec3 place;
};
std::optional<Nearest> nearest_between(Vec3 a0, Vec3 a1, Vec3 b0, Vec3 b1) {
    const Vec3 a = a1 - a0, b = b1 - b0, between = a0 - b0;
    const double aa = dot(a, a), bb = dot(b, b), ab = dot(a, b), ac = dot(a, between), bc = dot(b, between);
    const double spread = aa * bb - ab * ab;
    if (!(spread > 1e-12 * aa * bb)) return {};  // side by side
    Nearest found;
    found.on_a = std::clamp((ab * bc - ac * bb) / spread, 0.0, 1.0);
    found.on_b = (ab * found.on_a + bc) / bb;
    if (found.on_b < 0 || found.on_b > 1) {
        found.on_b = std::clamp(found.on_b, 0.0, 1.0);
        found.on_a = std::clamp((ab * found.on_b - ac) / aa, 0.0, 1.0);
    }
    const Vec3 on_a = a0 + a * found.on_a, on_b = b0 + b * found.on_b;
    found.apart = length(on_a - on_b);
    found.place = (on_a + on_b) * 0.5;
    return found;
}

// Nodes that members get on their way, by share.
class Crossings {
public:
    Crossings(const BarFrame& frame, double tolerance, MoreNodes& nodes)
        : frame_(frame), tolerance_(tolerance), nodes_(nodes), on_member(frame.member_count()) {}

    void look_at(std::uint32_t a, std::uint32_t b) {
        const Member &first = frame_.members()[a], &second = frame_.members()[b];
        if (first.from == second.from || first.from == second.to || first.to == second.from ||
            first.to == second.to)
            return;
        const auto found =
            nearest_between(frame_.start(first), frame_.end(first), frame_.start(second), frame_.end(second));
        if (!found || found->apart > tolerance_) return;
        const auto end_of_a = end_at(first, found->on_a), end_of_b = end_at(second, found->on_b);
        if (end_of_a && end_of_b) return;  // two nodes that lie close: to be welded
        ++count;
        const std::uint32_t node =
            end_of_a   ? *end_of_a
            : end_of_b ? *end_of_b
                       : nodes_.add(first, found->on_a, found->place,
                                    member_mark(frame_, first) + "×" + member_mark(frame_, second));
        if (!end_of_a) on_member[a].emplace_back(found->on_a, node);
        if (!end_of_b) on_member[b].emplace_back(found->on_b, node);
    }

private:
    std::optional<std::uint32_t> end_at(const Member& member, double share) const {
        const double along = share * frame_.length_of(member);
        if (along <= tolerance_) return member.from;
        return frame_.length_of(member) - along <= tolerance_ ? std::optional(member.to) : std::nullopt;
    }

    const BarFrame& frame_;
    double tolerance_;
    MoreNodes& nodes_;

public:
    std::vector<std::vector<std::pair<double, std::uint32_t>>> on_member;
    std::size_t count = 0;
};

std::vector<Box> boxes_of(const BarFrame& frame) {
    std::vector<Box> boxes(frame.member_count());
    for (std::size_t at = 0; at < boxes.size(); ++at) {
        boxes[at].include(frame.start(frame.members()[at]));
        boxes[at].include(frame.end(frame.members()[at]));
    }
    return boxes;
}

// A line through places, with numbers that are the same all along.
Result<SplineCurve> line_through(std::vector<Vec3> places, bool closed, const std::vector<Field>& numbers) {
    CurvePoints points{std::move(places), {}, {}, closed};
    for (const Field& number : numbers)
        points.fields.push_back(
            {number.name, Doubles(points.points.size(), number.values[0]), number.dimension});
    return curve_through(std::move(points), CurveShape::straight);
}

std::vector<Field> numbers_of(const BarFrame& frame, std::size_t member) {
    std::vector<Field> numbers{{"length", Doubles{frame.length_of(frame.members()[member])}, a_length}};
    for (const Field& field : frame.fields()) {
        std::erase_if(numbers, [&](const Field& other) { return other.name == field.name; });
        numbers.push_back({field.name, Doubles{field.values[member]}, field.dimension});
    }
    return numbers;
}

// Ends of members of one way and row at one node, two by two.
std::vector<std::uint32_t> partners_in_rows(const BarFrame& frame) {
    std::map<std::tuple<Way, std::uint32_t, std::uint32_t>, std::vector<std::uint32_t>> ends;
    const std::vector<Member>& members = frame.members();
    for (std::uint32_t at = 0; at < members.size(); ++at) {
        const Member& member = members[at];
        ends[{member.way, member.row, member.from}].push_back(2 * at);
        ends[{member.way, member.row, member.to}].push_back(2 * at + 1);
    }
    std::vector<std::uint32_t> partners(2 * members.size(), no_partner);
    for (const auto& [key, at_node] : ends) {
        if (at_node.size() != 2) continue;  // where more meet, each ends there
        partners[at_node[0]] = at_node[1];
        partners[at_node[1]] = at_node[0];
    }
    return partners;
}

}  // namespace

Result<BarFrame> kept_members(const BarFrame& frame, const std::vector<std::uint8_t>& mask) {
    std::vector<std::size_t> kept;
    BarFrame::Parts parts = frame.parts();
    parts.members.clear();
    for (std::size_t at = 0; at < mask.size(); ++at)
        if (mask[at] != 0) {
            kept.push_back(at);
            parts.members.push_back(frame.members()[at]);
        }
    if (kept.empty()) return Error{ErrorCode::empty_input, "", "leaves no member", "Keep some of them."};
    parts.fields = gathered(frame.fields(), kept);
    return BarFrame::make(std::move(parts));
}

Result<BarFrame> divided_members(const BarFrame& frame, const std::vector<std::size_t>& pieces,
                                 const Run& run) {
    MoreNodes nodes(frame);
    std::vector<Member> members;
    std::vector<std::size_t> from;
    for (std::size_t at = 0; at < pieces.size(); ++at) {
        if (at % 4096 == 0 && run.cancelled()) return cancelled_error();
        const Member& member = frame.members()[at];
        const Vec3 start = frame.start(member), along = frame.end(member) - start;
        std::uint32_t before = member.from;
        for (std::size_t piece = 1; piece <= pieces[at]; ++piece) {
            const double share = static_cast<double>(piece) / static_cast<double>(pieces[at]);
            const std::uint32_t next =
                piece == pieces[at] ? member.to
                                    : nodes.add(member, share, start + along * share,
                                                member_mark(frame, member) + "·" + std::to_string(piece));
            members.push_back({before, next, member.way, member.row});
            from.push_back(at);
            before = next;
        }
    }
    auto parts = std::move(nodes).with(std::move(members), from);
    if (!parts) return parts.error();
    return BarFrame::make(*std::move(parts));
}

Result<SplitFrame> split_at_crossings(const BarFrame& frame, double tolerance_abs, const Run& run) {
    MoreNodes nodes(frame);
    Crossings crossings(frame, tolerance_abs, nodes);
    const std::vector<Box> boxes = boxes_of(frame);
    const BoxTree tree(boxes);
    for (std::uint32_t member = 0; member < boxes.size(); ++member) {
        if (member % 256 == 0 && run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(member) / static_cast<double>(boxes.size()));
        const Vec3 reach{tolerance_abs, tolerance_abs, tolerance_abs};
        tree.within({boxes[member].low - reach, boxes[member].high + reach}, [&](std::uint32_t place) {
            const std::uint32_t other = tree.order()[place];
            if (other > member) crossings.look_at(member, other);
            return true;
        });
    }
    if (crossings.count == 0) return SplitFrame{frame, 0};
    std::vector<Member> members;
    std::vector<std::size_t> from;
    for (std::size_t at = 0; at < frame.member_count(); ++at) {
        const Member& member = frame.members()[at];
        auto& stops = crossings.on_member[at];
        std::ranges::sort(stops);
        std::uint32_t before = member.from;
        stops.emplace_back(1, member.to);
        for (const auto& [share, node] : stops) {
            if (node == before) continue;
            members.push_back({before, node, member.way, member.row});
            from.push_back(at);
            before = node;
        }
    }
    auto parts = std::move(nodes).with(std::move(members), from);
    if (!parts) return parts.error();
    // Where three or more cross, every two of them made a node.
    auto made = welded_frame(*std::move(parts), tolerance_abs, run);
    if (!made) return made.error();
    return SplitFrame{*std::move(made), crossings.count};
}

Result<CurveSet> member_lines(const BarFrame& frame, const Run& run) {
    CurveSet set;
    set.curves.reserve(frame.member_count());
    for (std::size_t at = 0; at < frame.member_count(); ++at) {
        if (at % 4096 == 0 && run.cancelled()) return cancelled_error();
        const Member& member = frame.members()[at];
        auto line = line_through({frame.start(member), frame.end(member)}, false, numbers_of(frame, at));
        if (!line) return line.error();
        set.curves.push_back(*std::move(line));
    }
    return set;
}

Result<CurveSet> member_chains(const BarFrame& frame, const Run& run) {
    CurveSet set;
    for (const SegmentChain& chain : chains_of(partners_in_rows(frame))) {
        if (run.cancelled()) return cancelled_error();
        std::vector<Vec3> places;
        for (const std::uint32_t end : chain.entered) {
            const Member& member = frame.members()[end / 2];
            const bool backwards = end % 2 == 1;
            if (places.empty() && !chain.closed)
                places.push_back(backwards ? frame.end(member) : frame.start(member));
            places.push_back(backwards ? frame.start(member) : frame.end(member));
        }
        auto line = line_through(std::move(places), chain.closed, {});
        if (!line) return line.error();
        set.curves.push_back(*std::move(line));
    }
    return set;
}

}  // namespace plume
