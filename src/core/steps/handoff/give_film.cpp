#include "core/steps/handoff/picture_support.hpp"
#include "core/steps/time/moment_slot.hpp"

namespace plume {
namespace {

std::vector<SlotSpec> slots() {
    return with_look({results_slot("results", "Results", movable_kinds()), camera_slot("view", "Seen"),
                      choice_slot("span", "Span",
                                  {{"all", "from beginning to end", "all of the study's time"},
                                   {"part", "in part", "from one moment to another"}}),
                      moment_slot("from", "From", "0"), moment_slot("until", "Until", "6"),
                      angle_slot("turn", "Going around", "0°"),
                      format_slot({{".mp4", "MP4", "by the program ffmpeg, where it is installed"},
                                   {".png", "a PNG that moves", "without loss, and much larger"}}),
                      file_name_slot()},
                     {"1280", "800", "draft"});
}

Result<Value> make(const Inputs& in, const Run& run) {
    FilmWishes film;
    film.turn_rad = in.number("turn");
    if (in.word("span") == "part") {
        film.part = {in.number("from"), in.number("until")};
        if (film.part->second < film.part->first)
            return about_slot(
                Error{ErrorCode::out_of_range, "", "lies before the film begins", "Type a later moment."},
                "until");
    }
    Result<PictureWishes> picture = look_of(in, run);
    if (!picture) return picture.error();
    DeliveryWishes wishes;
    wishes.picture = *std::move(picture);
    wishes.film = std::move(film);
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_film() {
    return {
        .key = "handoff.film",
        .verb = "Give a film",
        .synonyms = "movie video mp4 animation time frames moving keys camera hand off deliver export",
        .sentence = std::string("Film {results} {view}[more|, {span}][span=part| from {from} s to {until} "
                                "s][more|, going {turn} around], {width} by {height} pixels") +
                    look_words + ", as {format}, to {file}.",
        .slots = slots(),
        .results = {Kind::delivery},
        .result_name = "film",
        .help =
            "Results that move as a film, at the rate of the study's time: from a camera, along its keys "
            "where it has some, or from a usual way to look that has all of it in view; as they are shown or "
            "in clay, in soft light or the sun.",
        .make = make,
    };
}

}  // namespace plume
