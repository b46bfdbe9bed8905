#include "core/geometry/frames/joined_frames.hpp"

#include <algorithm>

#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/moves/copies.hpp"

namespace plume {
namespace {

// Rounding of maps that bring seams together.
constexpr double one_place = 1e-9;

std::vector<Field> shared_fields(const std::vector<BarFrame>& frames) {
    std::vector<Field> shared;
    for (const Field& field : frames.front().fields()) {
        Doubles numbers;
        bool everywhere = true;
        for (const BarFrame& frame : frames) {
            const auto other = std::ranges::find(frame.fields(), field.name, &Field::name);
            everywhere = everywhere && other != frame.fields().end() && other->dimension == field.dimension;
            if (!everywhere) break;
            numbers.insert(numbers.end(), other->values.span().begin(), other->values.span().end());
        }
        if (everywhere) shared.push_back({field.name, std::move(numbers), field.dimension});
    }
    return shared;
}

}  // namespace

Result<BarFrame> joined_frames(const std::vector<BarFrame>& frames, const Run& run) {
    std::vector<PointLattice> lattices;
    std::vector<Member> members;
    std::vector<std::string> marks;
    for (std::size_t number = 0; number < frames.size(); ++number) {
        const BarFrame& frame = frames[number];
        const auto before = static_cast<std::uint32_t>(marks.size());
        for (const Member& member : frame.members())
            members.push_back({before + member.from, before + member.to, member.way, member.row});
        for (std::size_t node = 0; node < frame.nodes().address_count(); ++node)
            marks.push_back(std::to_string(number + 1) + ':' + node_mark(frame, node));
        lattices.push_back(frame.nodes());
    }
    PointLattice::Parts nodes = stacked_parts(lattices);
    nodes.arrangement = Arrangement::scatter;
    nodes.counts = {nodes.x.size(), 1, 1};
    Result<PointLattice> places = PointLattice::make(std::move(nodes));
    if (!places) return places.error();
    const double tolerance = one_place * places->bounds().diagonal();
    return welded_frame({*std::move(places), std::move(members), shared_fields(frames),
                         std::make_shared<const std::vector<std::string>>(std::move(marks))},
                        tolerance, run);
}

}  // namespace plume
