#include "core/geometry/frames/frame_figures.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    const auto& frame = in.held<BarFrame>("frame");
    const FrameFigures figures = figures_of(frame);
    const std::string& what = in.word("what");
    const auto plain = [](std::size_t count) {
        return Value(Quantity{static_cast<double>(count), plain_number});
    };
    if (what == "members") return plain(frame.member_count());
    if (what == "nodes") return plain(frame.node_count());
    if (what == "pieces") return plain(figures.pieces);
    if (what == "valence") return plain(figures.most_valence);
    const double length = what == "shortest"  ? figures.shortest
                          : what == "longest" ? figures.longest
                                              : figures.total_length;
    return Value(Quantity{length, a_length});
}

}  // namespace

StepKind take_frame_figure() {
    return {
        .key = "number.frame",
        .verb = "Take a figure of a frame",
        .synonyms = "members nodes count total length longest shortest valence bars",
        .sentence = "Take {what} of {frame}.",
        .slots = {choice_slot("what", "Figure",
                              {{"length", "the length of all members", "together"},
                               {"longest", "the length of the longest", "member"},
                               {"shortest", "the length of the shortest", "member"},
                               {"members", "the number of members", ""},
                               {"nodes", "the number of nodes", ""},
                               {"valence", "the largest valence", "members at one node"},
                               {"pieces", "the number of pieces", "that hang together"}}),
                  frame_slot()},
        .results = {Kind::number},
        .result_name = "figure",
        .help = "One number of a frame, which expressions and formulas of later steps read by its name.",
        .make = make,
    };
}

}  // namespace plume
