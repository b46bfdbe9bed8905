#include <array>

#include "core/picture/still.hpp"
#include "core/picture/sun.hpp"
#include "core/steps/handoff/delivery_support.hpp"

namespace plume {
namespace {

constexpr int most_turn_pictures = 360;
constexpr std::array months{"January", "February", "March",     "April",   "May",      "June",
                            "July",    "August",   "September", "October", "November", "December"};

struct Quality {
    const char *key, *label, *help;
    int passes;
};
constexpr std::array qualities{Quality{"usual", "drawn as usual", "8 samples a pixel", 8},
                               Quality{"draft", "drawn as a draft", "2 samples a pixel", 2},
                               Quality{"fine", "drawn finely", "32 samples a pixel", 32},
                               Quality{"finest", "drawn most finely", "128 samples a pixel", 128}};

SlotSpec quality_slot() {
    std::vector<Word> words;
    words.reserve(qualities.size());
    for (const Quality& quality : qualities)
        words.push_back({quality.key, quality.label, quality.help});
    return choice_slot("quality", "Quality", std::move(words));
}

SlotSpec month_slot(std::string preset) {
    std::vector<Word> words;
    words.reserve(months.size());
    for (std::size_t at = 0; at < months.size(); ++at)
        words.push_back({std::to_string(at + 1), months[at], ""});
    SlotSpec slot = choice_slot("month", "Month", std::move(words));
    slot.preset = std::move(preset);
    return slot;
}

SlotSpec at_most(SlotSpec slot, double most) {
    slot.most = most;
    return slot;
}

SlotSpec seconds_slot() {
    SlotSpec slot = number_slot("seconds", "Seconds", "6");
    slot.least = 0;
    slot.above_least = true;
    return at_most(std::move(slot), 600);
}

SunMoment moment_in(const Inputs& in) {
    SunMoment moment;
    moment.latitude_rad = in.number("latitude");
    moment.longitude_rad = in.number("longitude");
    moment.year = static_cast<int>(in.number("year"));
    moment.month = std::stoi(in.word("month"));
    moment.day = static_cast<int>(in.number("day"));
    moment.hour = in.number("hour");
    moment.hours_ahead_utc = in.number("zone");
    return moment;
}

// Towards the sun; nothing in soft light.
Result<std::optional<Vec3>> sun_in(const Inputs& in) {
    if (in.word("light") == "soft") return std::optional<Vec3>();
    if (in.word("light") == "sun")
        return std::optional(direction_of({in.number("bearing"), in.number("elevation")}));
    const Result<SunPlace> sun = sun_place(moment_in(in));
    if (!sun) return sun.error();
    return std::optional(direction_of(*sun));
}

Result<Value> make(const Inputs& in, const Run& run) {
    PictureWishes picture;
    picture.seen = in.seen("view");
    if (in.has("width")) picture.width = in.number("width");
    if (in.has("height")) picture.height = in.number("height");
    picture.ground = in.word("ground") == "usual" ? "shadow" : in.word("ground");
    picture.clay = in.word("look") == "clay";
    picture.lines = in.word("lines");
    Result<std::optional<Vec3>> sun = sun_in(in);
    if (!sun) return sun.error();
    picture.sun = *sun;
    if (picture.sun && picture.sun->z <= 0)
        run.remark("The sun is below the horizon: only the sky gives light.");
    picture.passes = std::ranges::find(qualities, in.word("quality"), &Quality::key)->passes;
    if (in.word("motion") == "turn") {
        picture.turn_pictures = in.number("pictures");
        picture.turn_seconds = in.number("seconds");
    }
    DeliveryWishes wishes;
    if (in.has("scale")) wishes.scale = in.number("scale");
    wishes.picture = std::move(picture);
    return delivery_of(in, std::move(wishes));
}

}  // namespace

StepKind give_picture() {
    return {
        .key = "handoff.picture",
        .verb = "Give a picture",
        .synonyms =
            "png still image render view sun shadow clay camera turn animation hand off deliver export",
        .sentence =
            "Picture {results} {view}[more|, {motion}][motion=turn| in {pictures} pictures of {seconds} s "
            "together], {size} [size=pixels|{width} by {height} pixels][size=scale|1 : {scale}][more|, "
            "{look}][more|, {lines}][more|, {light}][light=sun| from {bearing} at a height of "
            "{elevation}][light=place| at {latitude} north, {longitude} east on {day} {month} {year} at "
            "{hour} h of clocks {zone} h ahead of UTC][more|, {ground}][more|, {quality}], as {format}, to "
            "{file}.",
        .slots = {results_slot("results", "Results", movable_kinds()),
                  camera_slot("view", "Seen"),
                  choice_slot("motion", "Motion",
                              {{"still", "standing still", ""},
                               {"turn", "turning once around", "the camera goes round the form"}}),
                  at_most(count_slot("pictures", "Pictures of a turn", "48", 2), most_turn_pictures),
                  seconds_slot(),
                  choice_slot(
                      "size", "Size",
                      {{"pixels", "at", "so many pixels"}, {"scale", "at a scale of", "150 pixels an inch"}}),
                  at_most(count_slot("width", "Pixels wide", "1920", 1), largest_still),
                  at_most(count_slot("height", "Pixels high", "1200", 1), largest_still),
                  paper_scale_slot("100"),
                  choice_slot("look", "Look",
                              {{"shown", "as shown", "in their colours and materials"},
                               {"clay", "in clay", "all of one pale, dull material"}}),
                  choice_slot("lines", "Lines",
                              {{"shown", "with lines as shown", "edges, curves, bars and points"},
                               {"outlined", "with outlines, too", "drawn over where something ends"},
                               {"none", "without lines", "nothing but faces"}}),
                  choice_slot("light", "Light",
                              {{"soft", "in soft light", "from behind whoever looks, at the left"},
                               {"sun", "in sunlight", "from a direction"},
                               {"place", "in the sun", "of a place, a day and an hour"}}),
                  angle_slot("bearing", "Bearing of the sun", "215°"),
                  angle_slot("elevation", "Height of the sun", "35°"),
                  angle_slot("latitude", "Latitude", "54°"),
                  angle_slot("longitude", "Longitude", "1°"),
                  at_most(count_slot("day", "Day", "21", 1), 31),
                  month_slot("6"),
                  count_slot("year", "Year", "2026", 1900),
                  number_slot("hour", "Hour", "15"),
                  number_slot("zone", "Hours ahead of UTC", "1"),
                  choice_slot("ground", "Ground",
                              {{"usual", "on its ground", "nothing but the shadow on it is seen"},
                               {"plain", "on a plain", "level, as far as the horizon"},
                               {"none", "with nothing behind", "but its shadow"}}),
                  quality_slot(),
                  format_slot({{".png", "PNG", "without loss; a turn moves in it"}}),
                  file_name_slot()},
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
