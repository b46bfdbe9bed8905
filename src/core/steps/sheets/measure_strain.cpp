// How much longer the edges of a sheet are than they were.

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/frames/mesh_edges.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/steps/catalogue.hpp"

namespace plume {
namespace {

std::string told(const BarFrame& frame, const Doubles& strain) {
    const auto [least, most] = std::ranges::minmax_element(strain);
    const auto of = [&](auto at, double share) {
        return short_text(100 * share, 3) + " % (" +
               member_mark(frame, frame.members()[static_cast<std::size_t>(at - strain.begin())]) + ")";
    };
    return "Edges are at most " + of(most, std::max(*most, 0.0)) + " longer and " +
           of(least, std::max(-*least, 0.0)) + " shorter.";
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto &sheet = in.held<Mesh>("sheet"), &rest = in.held<Mesh>("rest");
    if (!have_same_faces(sheet, rest))
        return about_slot(Error{ErrorCode::unlike_arrangement, "",
                                "has other vertices or faces than the sheet, so it says nothing of its edges",
                                "Choose what the sheet was before it was changed."},
                          "rest");
    auto frame = assembled_frame(edges_of(sheet, Edges::all), run);
    if (!frame) return about_slot(frame.error(), "sheet");
    Doubles strain;
    for (const Member& member : frame->members()) {
        const double before = length(rest.vertex(member.to) - rest.vertex(member.from));
        if (!(before > 0))
            return about_slot(
                Error{ErrorCode::out_of_range, "",
                      "has an edge without length, " + member_mark(*frame, member), "Mend it first."},
                "rest");
        strain.push_back(frame->length_of(member) / before - 1);
    }
    run.remark(told(*frame, strain));
    return Value(frame->with_field({"strain", Column(std::move(strain)), plain_number}));
}

}  // namespace

StepKind measure_strain() {
    return {
        .key = "sheet.strain",
        .verb = "Measure how far edges are stretched",
        .synonyms = "strain stretch elongation longer shorter compressed edges lengths",
        .sentence = "Measure how much longer the edges of {sheet} are than in {rest}.",
        .slots = {reference_slot("sheet", "Sheet", {Kind::mesh}),
                  reference_slot("rest", "Than in", {Kind::mesh})},
        .results = {Kind::frame},
        .result_name = "strain",
        .help =
            "A member for every edge, with the number `strain`: 0.02 where it is 2 % longer than the same "
            "edge of "
            "the other mesh, below 0 where it is shorter. The longest and the shortest are said. Both have "
            "the "
            "same vertices and faces.",
        .stays_beside = true,
        .estimate =
            [](const Inputs& in) {
                const auto corners = static_cast<double>(in.held<Mesh>("sheet").corner_count());
                return Estimate{corners * 110, corners * 2e-7};
            },
        .make = make,
    };
}

}  // namespace plume
