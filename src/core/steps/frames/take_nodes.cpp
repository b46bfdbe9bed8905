#include "core/geometry/parts/scattered.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

PointLattice nodes_of(const BarFrame& frame) {
    const std::vector<std::uint32_t> valences = valences_of(frame);
    return frame.nodes().with_field({"valence", Doubles(valences.begin(), valences.end()), plain_number});
}

PointLattice middles_of(const BarFrame& frame) {
    std::vector<Vec3> places;
    Doubles lengths;
    for (const Member& member : frame.members()) {
        places.push_back((frame.start(member) + frame.end(member)) * 0.5);
        lengths.push_back(frame.length_of(member));
    }
    // A number of that name that members have takes the place of their lengths.
    PointLattice points = scattered(places, {{"length", std::move(lengths), a_length}});
    for (const Field& field : frame.fields())
        points = points.with_field(field);
    return points;
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const auto& frame = in.held<BarFrame>("frame");
    return Value(in.word("what") == "nodes" ? nodes_of(frame) : middles_of(frame));
}

}  // namespace

StepKind take_nodes() {
    return {
        .key = "points.of_frame",
        .verb = "Take nodes as points",
        .synonyms = "frame joints vertices members middles valence extract",
        .sentence = "Take {what} of {frame} as points.",
        .slots = {choice_slot("what", "What",
                              {{"nodes", "the nodes", "in the arrangement they came from, with valence"},
                               {"middles", "the middles of the members", "with length and their numbers"}}),
                  frame_slot()},
        .results = {Kind::points},
        .result_name = "nodes",
        .help =
            "Nodes keep their addresses, their numbers, and get how many members end at each as valence. "
            "Middles of members come in the order of the members.",
        .estimate = [](const Inputs& in) { return frame_estimate(in, 40, 3e-8); },
        .make = make,
    };
}

}  // namespace plume
