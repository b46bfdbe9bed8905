#include "core/geometry/frames/bar_bodies.hpp"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <memory>
#include <optional>

#include "core/base/parallel.hpp"
#include "core/base/sum.hpp"
#include "core/data/gathered.hpp"
#include "core/data/placements.hpp"
#include "core/geometry/frames/node_normals.hpp"
#include "core/geometry/meshes/part_writer.hpp"

namespace plume {
namespace {

// Members that run this nearly one way would be cut back without end.
constexpr double least_angle = 1e-3;

// A section, measured once for all bars that have it.
struct MeasuredSection {
    explicit MeasuredSection(const BarSection& section)
        : outline(outline_of(section)),
          area(outline.area()),
          reach(outline.reach()),
          centroid(outline.centroid()) {
        for (const Vec3 place : outline.outer)
            box.include(place);
    }
    SectionOutline outline;
    double area, reach;
    Vec3 centroid;
    Box box;
};

// A bar as it is to be made: its section in a placement at its start, and how its ends are cut.
struct Bar {
    std::shared_ptr<const MeasuredSection> section;
    Placement at;
    double length = 0;
    double from = 0, to = 0;  // along it, where it is cut square
    // The plane that cuts an end instead: square to `normal`, through the node.
    std::optional<Vec3> mitre_from, mitre_to;
};

Placement placement_along(Vec3 start, Vec3 along, Vec3 up, double turn) {
    // Along is the third axis: the section stands in the first two, its up being the second.
    const Placement square = placement_of(start, along, cross(up, along));
    const double c = std::cos(turn), s = std::sin(turn);
    return {start, square.along * c + square.across * s, square.across * c - square.along * s, square.up};
}

class Cutter {
public:
    Cutter(const BarPlan& plan, std::vector<Bar>& bars, const BarFrame& frame)
        : plan_(plan), bars_(bars), spokes_(spokes_of(frame)) {}

    std::size_t overlapping_nodes = 0;
    double clearing = 0;

    void cut(std::size_t node) {
        const auto ends = std::span(spokes_.half)
                              .subspan(spokes_.first[node], spokes_.first[node + 1] - spokes_.first[node]);
        bool overlaps = false;
        for (const std::uint32_t end : ends) {
            const double clear = clear_of(end, ends);
            clearing = std::max(clearing, clear);
            if (plan_.ends == BarEnds::mitred && ends.size() == 2) {
                mitre(end, ends[0] == end ? ends[1] : ends[0]);
                continue;
            }
            const double back = plan_.ends == BarEnds::none   ? 0
                                : plan_.ends == BarEnds::back ? plan_.back
                                                              : clear;
            overlaps = overlaps || back < clear * (1 - 1e-9);
            cut_back(end, back);
        }
        overlapping_nodes += overlaps ? 1 : 0;
    }

private:
    // Away from the node.
    Vec3 way_of(std::uint32_t end) const { return bars_[end / 2].at.up * (end % 2 == 0 ? 1.0 : -1.0); }
    // How far along one bar the others reach.
    double clear_of(std::uint32_t end, std::span<const std::uint32_t> ends) const {
        const double radius = bars_[end / 2].section->reach;
        double most = 0;
        for (const std::uint32_t other : ends) {
            if (other == end) continue;
            const double cosine = std::clamp(dot(way_of(end), way_of(other)), -1.0, 1.0);
            const double sine = std::max(std::sqrt(1 - cosine * cosine), least_angle);
            most = std::max(most, (bars_[other / 2].section->reach + radius * cosine) / sine);
        }
        // Bars that go on into each other need no gap between them.
        return ends.size() == 2 && dot(way_of(ends[0]), way_of(ends[1])) < -1 + 1e-9 ? 0 : most;
    }
    void cut_back(std::uint32_t end, double back) {
        Bar& bar = bars_[end / 2];
        if (end % 2 == 0)
            bar.from = back;
        else
            bar.to = bar.length - back;
    }
    // Square to what halves the angle between both ways, seen from outside.
    void mitre(std::uint32_t end, std::uint32_t other) {
        const Vec3 normal = unit_or_zero(way_of(end) - way_of(other));
        if (normal == Vec3{} || dot(normal, way_of(end)) < least_angle) return cut_back(end, 0);
        (end % 2 == 0 ? bars_[end / 2].mitre_from : bars_[end / 2].mitre_to) = normal;
    }

    const BarPlan& plan_;
    std::vector<Bar>& bars_;
    Spokes spokes_;  // its half-members are the bars' ends
};

// How far along a bar the line through a place of its section is cut.
double cut_at(const Bar& bar, Vec3 place, bool start) {
    const auto& mitre = start ? bar.mitre_from : bar.mitre_to;
    if (!mitre) return start ? bar.from : bar.to;
    const Vec3 offset = bar.at.turned(place);
    const double along = -dot(offset, *mitre) / dot(bar.at.up, *mitre);
    return start ? along : bar.length + along;
}

bool anything_left(const Bar& bar) {
    if (!bar.mitre_from && !bar.mitre_to) return bar.to > bar.from;
    for (const std::vector<Vec3>* places : {&bar.section->outline.outer, &bar.section->outline.inner})
        for (const Vec3 place : *places)
            if (!(cut_at(bar, place, false) > cut_at(bar, place, true))) return false;
    return true;
}

// A plane leaves of a prism as much as stands over the centroid of its section.
double volume_of(const Bar& bar) {
    const Vec3 middle = bar.section->centroid;
    return bar.section->area * (cut_at(bar, middle, false) - cut_at(bar, middle, true));
}

PartSize size_of(const SectionOutline& outline) {
    const std::size_t outer = outline.outer.size();
    if (outer == 2) return {4, 1, 4};
    if (outline.inner.empty()) return {2 * outer, outer + 2, 6 * outer};
    return {4 * outer, 4 * outer, 16 * outer};
}

// Vertices where the lines through places of a section are cut: first at its start, then at its end.
std::uint32_t write_ring(const Bar& bar, const std::vector<Vec3>& places, PartWriter::At& to) {
    std::uint32_t first = 0;
    for (const bool start : {true, false})
        for (const Vec3& place : places) {
            const double along = cut_at(bar, place, start);
            const std::uint32_t vertex = to.vertex(bar.at.to_world({place.x, place.y, along}));
            if (start && &place == &places.front()) first = vertex;
        }
    return first;
}

void write_bar(const Bar& bar, PartWriter::At to) {
    const SectionOutline& outline = bar.section->outline;
    const auto sides = static_cast<std::uint32_t>(outline.outer.size());
    const std::uint32_t outer = write_ring(bar, outline.outer, to);
    if (sides == 2) return to.quad(outer, outer + 1, outer + 3, outer + 2);
    const auto next = [&](std::uint32_t side) { return (side + 1) % sides; };
    for (std::uint32_t side = 0; side < sides; ++side)
        to.quad(outer + side, outer + next(side), outer + sides + next(side), outer + sides + side);
    if (outline.inner.empty()) {
        std::vector<std::uint32_t> cap(sides);
        for (std::uint32_t side = 0; side < sides; ++side)
            cap[side] = outer + sides - 1 - side;
        to.face(cap);
        for (std::uint32_t side = 0; side < sides; ++side)
            cap[side] = outer + sides + side;
        return to.face(cap);
    }
    const std::uint32_t inner = write_ring(bar, outline.inner, to);
    for (std::uint32_t side = 0; side < sides; ++side)
        to.quad(inner + next(side), inner + side, inner + sides + side, inner + sides + next(side));
    for (std::uint32_t side = 0; side < sides; ++side) {
        to.quad(outer + next(side), outer + side, inner + side, inner + next(side));
        to.quad(outer + sides + side, outer + sides + next(side), inner + sides + next(side),
                inner + sides + side);
    }
}

Error faulty(const BarFrame& frame, std::size_t member, std::string_view fault) {
    return {ErrorCode::out_of_range,
            "The section of the member " + member_mark(frame, frame.members()[member]), std::string(fault),
            "Type other sizes."};
}

Result<std::vector<Bar>> bars_of(const BarFrame& frame, const BarPlan& plan, const Run& run) {
    std::vector<Bar> bars(frame.member_count());
    std::atomic<std::size_t> first_fault = bars.size();
    const bool done = parallel_blocks(bars.size(), 1024, run, [&](std::size_t begin, std::size_t end) {
        std::optional<BarSection> known;
        std::shared_ptr<const MeasuredSection> measured;
        for (std::size_t at = begin; at < end; ++at) {
            const BarSection section = plan.section(at);
            if (known != section) {
                if (!fault_of(section).empty()) {
                    std::size_t first = first_fault;
                    while (at < first && !first_fault.compare_exchange_weak(first, at)) {
                    }
                    return;
                }
                measured = std::make_shared<const MeasuredSection>(section);
                known = section;
            }
            const Member& member = frame.members()[at];
            const Vec3 along = frame.end(member) - frame.start(member);
            bars[at].section = measured;
            bars[at].length = bars[at].to = length(along);
            bars[at].at = placement_along(frame.start(member), along, plan.up(at), plan.turn_rad(at));
        }
    });
    if (!done) return cancelled_error();
    if (first_fault < bars.size()) return faulty(frame, first_fault, fault_of(plan.section(first_fault)));
    return bars;
}

}  // namespace

Result<BarBodies> bar_bodies(const BarFrame& frame, const BarPlan& plan, const Run& run) {
    auto bars = bars_of(frame, plan, run);
    if (!bars) return bars.error();
    Cutter cutter(plan, *bars, frame);
    for (std::size_t node = 0; node < frame.nodes().address_count(); ++node)
        if (frame.nodes().present(node)) cutter.cut(node);
    std::vector<std::size_t> kept;
    PartWriter writer;
    Sum volume;
    Doubles masses, lengths, widths, heights;
    for (std::size_t member = 0; member < bars->size(); ++member) {
        const Bar& bar = (*bars)[member];
        if (!anything_left(bar)) continue;
        kept.push_back(member);
        writer.add_part(size_of(bar.section->outline));
        const double own_volume = volume_of(bar);
        volume.add(own_volume);
        lengths.push_back(cut_at(bar, {}, false) - cut_at(bar, {}, true));
        masses.push_back(plan.density * own_volume);
        widths.push_back(bar.section->box.size().x);
        heights.push_back(bar.section->box.size().y);
    }
    if (kept.empty())
        return Error{ErrorCode::empty_input, "",
                     "are cut away whole: their sections are larger than they are long",
                     "Type smaller sections, or cut them back less."};
    const Status written =
        writer.write([&](std::size_t part, PartWriter::At to) { write_bar((*bars)[kept[part]], to); }, run);
    if (!written) return written.error();
    std::vector<Field> numbers{{"length", std::move(lengths), a_length},
                               {"section_width", std::move(widths), a_length},
                               {"section_height", std::move(heights), a_length},
                               {"mass_kg", std::move(masses), plain_number}};
    const std::vector<Field> own = numbers;
    for (const Field& field : frame.fields())
        if (std::ranges::find(own, field.name, &Field::name) == own.end())
            numbers.push_back({field.name, gathered(field.values, kept), field.dimension});
    auto mesh = std::move(writer).mesh(numbers);
    if (!mesh) return mesh.error();
    const std::size_t cut_away = bars->size() - kept.size();
    *mesh = mesh->with_marks([frame, kept = std::move(kept)](std::size_t part) {
        return member_mark(frame, frame.members()[kept[part]]);
    });
    return BarBodies{*std::move(mesh), volume.value(), cutter.overlapping_nodes, cutter.clearing, cut_away};
}

}  // namespace plume
