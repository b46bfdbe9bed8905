#include "core/steps/forces/balance_support.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/text.hpp"
#include "core/geometry/frames/mesh_edges.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/formula_support.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

constexpr const char* load_name = "load";

Result<BarFrame> frame_in(const Inputs& in) {
    if (const auto* frame = std::get_if<BarFrame>(&in.value("net"))) return *frame;
    auto made = BarFrame::make(edges_of(in.held<Mesh>("net"), Edges::all));
    if (!made) return about_slot(made.error(), "net");
    return made;
}

// Downwards, by what the step says; above it is a number that the nodes carry.
Result<std::vector<Vec3>> loads_on(const BarFrame& frame, const Inputs& in) {
    const std::string& loaded = in.word("loaded");
    std::vector<Vec3> loads;
    if (loaded == "none") return loads;
    loads.resize(frame.nodes().address_count());
    if (loaded == "carried") {
        const Field* carried = frame.nodes().field(load_name);
        if (!carried || (carried->dimension != a_force && carried->dimension != plain_number))
            return about_slot(Error{ErrorCode::missing_input, "",
                                    "says that nodes carry a force ‘load’, and they carry none",
                                    "Compute a number on the points before, as 2 kN, and call it load."},
                              "loaded");
        for (std::size_t at = 0; at < loads.size(); ++at)
            if (frame.nodes().present(at)) loads[at].z = -carried->values[at];
        return loads;
    }
    if (loaded == "each") {
        for (std::size_t at = 0; at < loads.size(); ++at)
            loads[at].z = frame.nodes().present(at) ? -in.number("weight") : 0;
        return loads;
    }
    const Quantity heavy = in.quantity("heavy");
    if (heavy.dimension != a_force_per_length)
        return about_slot(
            Error{ErrorCode::unit_mismatch, "",
                  "has to be a force per length, and is " + dimension_name(heavy.dimension, in.units()),
                  "Type it with its unit, as 0.2 kN/m."},
            "heavy");
    for (const Member& member : frame.members())
        for (const std::uint32_t end : {member.from, member.to})
            loads[end].z -= heavy.value * frame.length_of(member) / 2;
    return loads;
}

// 1 for each edge that one face has.
Doubles rims_of(const Mesh& mesh) {
    const MeshSides sides = sides_of(mesh);
    Doubles border(sides.count());
    for (std::size_t side = 0; side < sides.count(); ++side)
        border[side] = sides.face_count(side) == 1 ? 1 : 0;
    return border;
}

// 1 for each member in the first or last row or column of points in rows; of those that lie anyhow none.
Doubles borders_of(const BarFrame& frame) {
    const PointLattice& nodes = frame.nodes();
    const auto is_outermost = [&](std::size_t direction, std::size_t at) {
        const std::size_t count = nodes.counts()[direction];
        return count > 1 && !nodes.closed(static_cast<int>(direction)) && (at == 0 || at + 1 == count);
    };
    Doubles border(frame.member_count(), 0);
    if (nodes.arrangement() == Arrangement::scatter) return border;
    for (std::size_t at = 0; at < border.size(); ++at) {
        const Member& member = frame.members()[at];
        const Address from = nodes.address(member.from);
        const bool outermost = (member.way == Way::along_i && is_outermost(1, from.j)) ||
                               (member.way == Way::along_j && is_outermost(0, from.i));
        border[at] = outermost ? 1 : 0;
    }
    return border;
}

FormulaSite site_on(const BarFrame& frame, const Inputs& in, const char* wanted) {
    FormulaSite site = site_on_members(frame);
    const auto* mesh = std::get_if<Mesh>(&in.value("net"));
    add_numbers(site, "border", mesh ? rims_of(*mesh) : borders_of(frame), plain_number,
                "1 of members along the border, else 0");
    site.results.push_back({"", wanted, true});
    return site;
}

std::vector<double> supports_of(const Net& net, const Balance& balance) {
    std::vector<Vec3> pulls = net.loads.empty() ? std::vector<Vec3>(net.places.size()) : net.loads;
    for (std::size_t link = 0; link < net.links.size(); ++link) {
        const auto [from, to] = net.links[link];
        const Vec3 pull = unit_or_zero(balance.places[to] - balance.places[from]) * balance.forces[link];
        pulls[from] = pulls[from] + pull;
        pulls[to] = pulls[to] - pull;
    }
    std::vector<double> supports(pulls.size(), 0);
    for (std::size_t place = 0; place < pulls.size(); ++place)
        if (net.held[place] > 0) supports[place] = length(pulls[place]);
    return supports;
}

// The mean of what the links of each place pull: edges of meshes can carry no number.
Doubles forces_at(const Net& net, const Balance& balance) {
    Doubles sums(net.places.size(), 0);
    std::vector<std::size_t> counts(net.places.size(), 0);
    for (std::size_t link = 0; link < net.links.size(); ++link)
        for (const std::uint32_t end : net.links[link]) {
            sums[end] += balance.forces[link];
            ++counts[end];
        }
    for (std::size_t place = 0; place < sums.size(); ++place)
        if (counts[place] > 0) sums[place] /= static_cast<double>(counts[place]);
    return sums;
}

void tell(const Inputs& in, const GivenNet& given, const Balance& balance, const Run& run) {
    const auto strongest =
        std::ranges::max_element(balance.forces, {}, [](double force) { return std::abs(force); });
    const auto member = static_cast<std::size_t>(strongest - balance.forces.begin());
    const auto pushing = std::ranges::count_if(balance.forces, [](double force) { return force < 0; });
    run.remark("The largest force is " + quantity_text({*strongest, a_force}, in.units()) +
               (std::holds_alternative<Mesh>(in.value("net")) ? ", in the edge " : ", in the member ") +
               member_mark(given.frame, given.frame.members()[member]) + ".");
    if (pushing > 0)
        run.remark(count_text(static_cast<std::size_t>(pushing), "member pushes", "members push") +
                   ": a force below 0.");
    double furthest = 0;
    for (std::size_t place = 0; place < balance.places.size(); ++place)
        furthest = std::max(furthest, length(balance.places[place] - given.net.places[place]));
    run.remark("Points moved by up to " + quantity_text({furthest / given.metres, a_length}, in.units()) +
               ".");
}

}  // namespace

SlotSpec net_slot() {
    return reference_slot("net", "Net", {Kind::frame, Kind::mesh});
}

std::vector<SlotSpec> with_load_slots(std::vector<SlotSpec> slots) {
    slots.push_back(choice_slot("loaded", "Load",
                                {{"none", "without load", "of its own tension alone"},
                                 {"each", "under", "a weight at each node"},
                                 {"length", "under its own weight of", "by the length of members"},
                                 {"carried", "under the loads its nodes carry", "a number called load"}}));
    slots.push_back(force_slot("weight", "Weight", "0.2 kN"));
    slots.push_back(quantity_slot("heavy", "Weight of members", "0.1 kN/m"));
    return slots;
}

Result<FormulaSite> members_site(const Inputs& in, const char* wanted) {
    const auto frame = frame_in(in);
    if (!frame) return frame.error();
    return site_on(*frame, in, wanted);
}

Result<GivenNet> given_net(const Inputs& in, Dimension wanted, const Run& run) {
    auto frame = frame_in(in);
    if (!frame) return frame.error();
    const FormulaSite site = site_on(*frame, in, "");
    auto numbers = numbers_by_formula(in, site, wanted, run);
    if (!numbers) return numbers.error();
    const auto held = firmness_in(Value(*frame));
    if (!held) return about_slot(held.error(), "net");
    auto loads = loads_on(*frame, in);
    if (!loads) return loads.error();
    const double metres = metres_per(in.units().length);
    Net net{{}, {}, *held, *std::move(loads)};
    const PointLattice& nodes = frame->nodes();
    for (std::size_t at = 0; at < nodes.address_count(); ++at)
        net.places.push_back(nodes.present(at) ? nodes.point(at) * metres : Vec3{});
    for (const Member& member : frame->members())
        net.links.push_back({member.from, member.to});
    return GivenNet{*std::move(frame), std::move(net), *std::move(numbers), metres};
}

Result<Value> in_balance(const Inputs& in, const GivenNet& given, const Balance& balance, const Run& run) {
    std::vector<Vec3> places;
    for (const Vec3 place : balance.places)
        places.push_back(place * (1 / given.metres));
    const Value& net = in.value("net");
    const std::vector<double> supports = supports_of(given.net, balance);
    auto moved = with_places(net, places);
    if (!moved) return about_slot(moved.error(), "net");
    auto made = with_number_of_places(
        *moved, {"support", Column(Doubles(supports.begin(), supports.end())), a_force});
    if (!made) return about_slot(made.error(), "net");
    tell(in, given, balance, run);
    if (std::holds_alternative<Mesh>(*made))
        return with_number_of_places(*made, {"force", Column(forces_at(given.net, balance)), a_force});
    if (const auto* frame = std::get_if<BarFrame>(&*made))
        return Value(frame->with_field(
            {"force", Column(Doubles(balance.forces.begin(), balance.forces.end())), a_force}));
    return made;
}

Estimate net_estimate(const Inputs& in, double bytes_each, double seconds_each) {
    const Value& net = in.value("net");
    double all = 0;
    if (const auto* frame = std::get_if<BarFrame>(&net))
        all = static_cast<double>(frame->member_count() + frame->nodes().address_count());
    else
        all = static_cast<double>(std::get<Mesh>(net).corner_count() + std::get<Mesh>(net).vertex_count());
    // Factors of nets over an area grow a little faster than these.
    return {all * bytes_each, all * seconds_each * std::max(1.0, std::sqrt(all / 3e5))};
}

}  // namespace plume
