#include "core/steps/frames/frame_support.hpp"

#include <cmath>

#include "core/geometry/frames/frame_assembly.hpp"

namespace plume {
namespace {

// One number a member.
template <class Number>
Doubles each_member(const BarFrame& frame, const Number& number) {
    Doubles numbers;
    numbers.reserve(frame.member_count());
    for (const Member& member : frame.members())
        numbers.push_back(number(member));
    return numbers;
}

double rise_of(const BarFrame& frame, const Member& member) {
    const Vec3 along = frame.end(member) - frame.start(member);
    return std::atan2(along.z, std::hypot(along.x, along.y));
}

}  // namespace

SlotSpec frame_slot() {
    return reference_slot("frame", "Frame", {Kind::frame});
}

FormulaSite site_on_members(const BarFrame& frame) {
    FormulaSite site;
    site.domain.directions[0] = {frame.member_count(), 0, static_cast<double>(frame.member_count()) - 1,
                                 false};
    site.direction_names = {"member", "", ""};
    const auto add = [&](const char* name, Dimension dimension, const char* help, const auto& number) {
        add_numbers(site, name, each_member(frame, number), dimension, help);
    };
    for (const Field& field : frame.nodes().fields())
        add(field.name.c_str(), field.dimension, "number of the nodes, mean of both ends",
            [&](const Member& member) { return (field.values[member.from] + field.values[member.to]) / 2; });
    constexpr std::pair<const char*, double Vec3::*> parts[] = {
        {"x", &Vec3::x}, {"y", &Vec3::y}, {"z", &Vec3::z}};
    for (const auto& [name, part] : parts)
        add(name, a_length, "coordinate of its middle", [&, part = part](const Member& member) {
            return (frame.start(member).*part + frame.end(member).*part) / 2;
        });
    add("length", a_length, "of the member", [&](const Member& member) { return frame.length_of(member); });
    add("rise", an_angle, "its angle above the ground, from its start",
        [&](const Member& member) { return rise_of(frame, member); });
    add("row", plain_number, "the row it runs in", [](const Member& member) { return member.row; });
    const std::vector<std::uint32_t> valences = valences_of(frame);
    add("valence", plain_number, "members at that of its ends where fewer meet",
        [&](const Member& member) { return std::min(valences[member.from], valences[member.to]); });
    constexpr std::pair<const char*, Way> ways[] = {{"along_i", Way::along_i}, {"along_j", Way::along_j},
                                                    {"along_k", Way::along_k}, {"diagonal", Way::diagonal},
                                                    {"counter", Way::counter}, {"web", Way::web}};
    for (const auto& [name, way] : ways)
        add(name, plain_number, "1 of members that run so, else 0",
            [way = way](const Member& member) { return member.way == way ? 1 : 0; });
    for (const Field& field : frame.fields())
        add_numbers(site, field.name, field.values, field.dimension, "number of the members");
    return site;
}

Estimate frame_estimate(const Inputs& in, double bytes_each, double seconds_each) {
    const auto& frame = in.held<BarFrame>("frame");
    const auto all = static_cast<double>(frame.member_count() + frame.nodes().address_count());
    return {all * bytes_each, all * seconds_each};
}

Result<FinitePoints> points_to_join(const Inputs& in, const std::string& fate_of_others, const Run& run) {
    const PointLattice& points = in.lattice("points");
    FinitePoints joined = finite_points(points);
    if (joined.places.size() < 2)
        return about_slot(Error{ErrorCode::too_few_points, "", "are fewer than two", "Take more points."},
                          "points");
    if (joined.places.size() < points.point_count())
        run.remark_loss("Points at no finite place are " + fate_of_others + ".");
    return joined;
}

Result<Value> frame_of_pairs(const PointLattice& points, const std::vector<std::size_t>& addresses,
                             const std::vector<std::pair<std::uint32_t, std::uint32_t>>& pairs,
                             const Run& run) {
    std::vector<Member> members;
    members.reserve(pairs.size());
    for (const auto& [from, to] : pairs)
        members.push_back({static_cast<std::uint32_t>(addresses[from]),
                           static_cast<std::uint32_t>(addresses[to]), Way::other, 0});
    auto frame = assembled_frame({points, std::move(members)}, run);
    if (!frame) return about_slot(frame.error(), "points");
    return Value(*std::move(frame));
}

}  // namespace plume
