#include "core/steps/handoff/picture_support.hpp"

namespace plume {
namespace {

constexpr int most_turn_pictures = 360;

SlotSpec seconds_slot() {
    SlotSpec slot = number_slot("seconds", "Seconds", "6");
    slot.least = 0;
    slot.above_least = true;
    return at_most(std::move(slot), 600);
}

std::vector<SlotSpec> slots() {
    return with_look(
        {results_slot("results", "Results", movable_kinds()), camera_slot("view", "Seen"),
         choice_slot("motion", "Motion",
                     {{"still", "standing still", ""},
                      {"turn", "turning once around", "the camera goes round the form"}}),
         at_most(count_slot("pictures", "Pictures of a turn", "48", 2), most_turn_pictures), seconds_slot(),
         choice_slot("size", "Size",
                     {{"pixels", "at", "so many pixels"}, {"scale", "at a scale of", "150 pixels an inch"}}),
         paper_scale_slot("100"), format_slot({{".png", "PNG", "without loss; a turn moves in it"}}),
         file_name_slot()},
        {"1920", "1200", "usual"});
}

Result<Value> make(const Inputs& in, const Run& run) {
    Result<PictureWishes> picture = look_of(in, run);
    if (!picture) return picture.error();
    if (in.word("motion") == "turn") {
        picture->turn_pictures = in.number("pictures");
        picture->turn_seconds = in.number("seconds");
    }
    DeliveryWishes wishes;
    if (in.has("scale")) wishes.scale = in.number("scale");
    wishes.picture = *std::move(picture);
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_picture() {
    return {
        .key = "handoff.picture",
        .verb = "Give a picture",
        .synonyms =
            "png still image render view sun shadow clay camera turn animation hand off deliver export",
        .sentence = std::string("Picture {results} {view}[more|, {motion}][motion=turn| in {pictures} "
                                "pictures of {seconds} s together], {size} [size=pixels|{width} by {height} "
                                "pixels][size=scale|1 : {scale}]") +
                    look_words + ", as {format}, to {file}.",
        .slots = slots(),
        .results = {Kind::delivery},
        .result_name = "picture",
        .help =
            "A picture of results as they are shown or in clay, from a camera of the study or a usual way "
            "to look, in soft light or the sun of a direction or of a place, day and hour: north is +Y. "
            "Or a turn around them as one PNG that moves.",
        .make = make,
    };
}

}  // namespace plume
