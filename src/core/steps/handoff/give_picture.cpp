#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

constexpr int most_pixels = 8192;

SlotSpec pixels_slot(std::string key, std::string label, std::string preset) {
    SlotSpec slot = count_slot(std::move(key), std::move(label), std::move(preset), 1);
    slot.most = most_pixels;
    return slot;
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    DeliveryWishes wishes;
    wishes.view = in.word("view");
    wishes.transparent = in.word("ground") == "none";
    if (in.has("scale")) wishes.scale = in.number("scale");
    if (in.has("width")) wishes.width = in.number("width");
    if (in.has("height")) wishes.height = in.number("height");
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_picture() {
    return {
        .key = "handoff.picture",
        .verb = "Give a picture",
        .synonyms = "png still image render view hand off deliver export",
        .sentence =
            "Picture {results} {view}, {size} [size=pixels|{width} by {height} pixels][size=scale|1 : "
            "{scale}], "
            "{ground}, as {format}, to {file}.",
        .slots = {results_slot("results", "Results", movable_kinds()),
                  choice_slot("view", "Seen",
                              {{"above", "at an angle", "from above, in perspective"},
                               {"plan", "in plan", "from straight above"},
                               {"front", "from the front", "along Y"},
                               {"side", "from the side", "along X"}}),
                  choice_slot(
                      "size", "Size",
                      {{"pixels", "at", "so many pixels"}, {"scale", "at a scale of", "150 pixels an inch"}}),
                  pixels_slot("width", "Pixels wide", "1920"), pixels_slot("height", "Pixels high", "1200"),
                  paper_scale_slot("100"),
                  choice_slot("ground", "Ground",
                              {{"usual", "on its ground", "with the shadow on it"},
                               {"none", "with nothing behind", "but its shadow"}}),
                  format_slot({{".png", "PNG", "without loss"}}), file_name_slot()},
        .results = {Kind::delivery},
        .result_name = "picture",
        .help = "A still picture of results as they are shown, in the model's colours and materials.",
        .make = make,
    };
}

}  // namespace plume
