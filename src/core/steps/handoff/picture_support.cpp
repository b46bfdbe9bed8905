#include "core/steps/handoff/picture_support.hpp"

#include <array>

#include "core/picture/still.hpp"
#include "core/picture/sun.hpp"

namespace plume {
namespace {

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

SlotSpec quality_slot(const char* preset) {
    std::vector<Word> words;
    words.reserve(qualities.size());
    for (const Quality& quality : qualities)
        words.push_back({quality.key, quality.label, quality.help});
    SlotSpec slot = choice_slot("quality", "Quality", std::move(words));
    slot.preset = preset;
    return slot;
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

}  // namespace

SlotSpec at_most(SlotSpec slot, double most) {
    slot.most = most;
    return slot;
}

std::vector<SlotSpec> with_look(std::vector<SlotSpec> slots, const LookPresets& presets) {
    const std::vector<SlotSpec> own = {
        at_most(count_slot("width", "Pixels wide", presets.width, 1), largest_still),
        at_most(count_slot("height", "Pixels high", presets.height, 1), largest_still),
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
        quality_slot(presets.quality)};
    slots.insert(slots.end(), own.begin(), own.end());
    return slots;
}

Result<PictureWishes> look_of(const Inputs& in, const Run& run) {
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
    return picture;
}

}  // namespace plume
