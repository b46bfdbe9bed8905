#include <algorithm>

#include "core/base/text.hpp"
#include "core/data/sheet_names.hpp"
#include "core/steps/handoff/delivery_support.hpp"
#include "core/study/slots/picked_names.hpp"

namespace plume {
namespace {

constexpr std::size_t most_views = 12;

Offers views_offered(const Inputs& /*in*/) {
    constexpr std::array notes = {"from straight above",
                                  "looking north",
                                  "looking west",
                                  "looking south",
                                  "looking east",
                                  "all three axes as long",
                                  "cut across, what is before it taken away",
                                  "cut along, what is before it taken away",
                                  "cut across, from the other side",
                                  "cut along, from the other side",
                                  "cut level, what is above it taken away"};
    Offers offers;
    for (std::size_t at = 0; at < notes.size(); ++at)
        offers.offers.push_back({std::string(view_names()[at]), notes[at]});
    return offers;
}

// Those that are picked, in their order; else the usual four.
Result<std::vector<std::string>> views_in(const Inputs& in) {
    const std::vector<std::string> picked = picked_names(in.word("views"));
    if (picked.empty())
        return std::vector<std::string>{"in plan", "from the south", "from the east", "at an angle"};
    for (const std::string& name : picked)
        if (std::ranges::find(view_names(), name) == view_names().end())
            return about_slot(
                Error{ErrorCode::unknown_name, "", "has no ‘" + shortened(printable(name)) + "’",
                      "Pick views from the list: in plan, from the south, at an angle …"},
                "views");
    if (picked.size() > most_views)
        return about_slot(Error{ErrorCode::out_of_range, "",
                                "has " + std::to_string(picked.size()) + " views, more than a sheet can show",
                                "Pick at most " + std::to_string(most_views) + '.'},
                          "views");
    return picked;
}

// Something to be drawn; schedules, axes and distances go beside it.
Status check_forms(const Inputs& in) {
    const bool forms = std::ranges::any_of(in.given("results"), [](const GivenResult& given) {
        return given.as.empty() || given.as == "scheduled";
    });
    if (forms) return Done{};
    return about_slot(Error{ErrorCode::empty_input, "", "hold nothing that is drawn as a form",
                            "Give a result as a form, or list it with “Give a table”."},
                      "results");
}

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    if (Status forms = check_forms(in); !forms) return forms.error();
    auto views = views_in(in);
    if (!views) return views.error();
    DeliveryWishes wishes;
    wishes.views = *std::move(views);
    wishes.paper = in.word("paper");
    if (in.has("scale")) wishes.scale = in.number("scale");
    wishes.dashed = in.word("hidden") == "dashed";
    if (in.has("cut_x")) wishes.cut = Vec3{in.number("cut_x"), in.number("cut_y"), in.number("cut_z")};
    if (in.has("contour_step")) wishes.contour_step = in.number("contour_step");
    if (in.has("groups")) {
        const auto groups = one_pick(in, "groups");
        if (!groups) return groups.error();
        wishes.group_by = *groups;
    }
    if (in.has("places")) {
        auto places = sheet_places_from(in.word("places"));
        if (!places) return about_slot(places.error(), "places");
        wishes.placed = *std::move(places);
    }
    wishes.title = in.word("title");
    return delivery_of(in, std::move(wishes));
}

std::vector<Word> result_words() {
    return {{"scheduled", "a form and a schedule", "drawn, and listed in a table"},
            {"schedule", "a schedule", "a table on the sheet"},
            {"distances", "distances", "straight pieces of curves and frames, measured"},
            {"axes", "axes", "straight pieces of curves and frames, named"}};
}

SlotSpec paper_slot() {
    std::vector<Word> words;
    for (const PaperSize& paper : paper_sizes())
        words.push_back({std::string(paper.key), std::string(paper.name),
                         std::to_string(static_cast<int>(paper.width)) + " × " +
                             std::to_string(static_cast<int>(paper.height)) + " mm"});
    std::swap(words[0], words[1]);  // A3 is the usual one
    return choice_slot("paper", "Paper", std::move(words));
}

}  // namespace

StepKind give_drawing() {
    return {
        .key = "handoff.drawing",
        .verb = "Give a drawing",
        .synonyms =
            "plan elevation section contour schedule axes view axonometric isometric hidden lines sheet "
            "title block dimensions pdf svg dxf "
            "paper a3 hand off deliver export",
        .sentence =
            "Draw {results}, {views}[views=section looking north,section looking west,section looking "
            "south,section looking east,section looking down|, cut {cut}][views=section looking "
            "north,section looking west,section looking south,section looking east,section looking "
            "down&cut=place| {cut_x} east, {cut_y} north and {cut_z} up], on {paper} {size}[size=scale| 1 : "
            "{scale}][more|, {hidden}][more|, {contours}][contours=lines| every "
            "{contour_step}][results=schedule,scheduled|, schedules {groups}][more|, laid out "
            "{layout}][layout=placed| {places}][more|, as {title}], as {format}, to {file}.",
        .slots = {results_slot("results", "Results", movable_kinds(), result_words(), "as a form"),
                  picks_slot("views", "Views", "in plan, from two sides and at an angle"),
                  choice_slot("cut", "Cut",
                              {{"middle", "through the middle", "of all that is drawn"},
                               {"place", "through the place", "a section each way passes it"}}),
                  length_slot("cut_x", "Cut, east", "0 m"), length_slot("cut_y", "Cut, north", "0 m"),
                  length_slot("cut_z", "Cut, up", "1 m"), paper_slot(),
                  choice_slot(
                      "size", "Size",
                      {{"fits", "so that it fits", "the first of 1, 2, 5, 10, 20, 25, 50 … that does"},
                       {"scale", "at a scale of", "of all views"}}),
                  paper_scale_slot("100"),
                  choice_slot("hidden", "What is hidden",
                              {{"none", "without what is hidden", ""},
                               {"dashed", "with what is hidden in dashes", ""}}),
                  choice_slot("contours", "Contours",
                              {{"none", "without contours", ""},
                               {"lines", "with contours", "of faces, in plan and at an angle"}}),
                  length_above_zero_slot("contour_step", "Contours every", "0.5 m"),
                  picks_slot("groups", "Grouped by", "row by row"),
                  choice_slot(
                      "layout", "Layout",
                      {{"rows", "in rows", "views in their order, then schedules"},
                       {"placed", "as placed", "millimetres from the lower left corner of the paper"}}),
                  text_slot("places", "Places", ""), text_slot("title", "Title", "Sallow Reach"),
                  format_slot({{".pdf", "PDF", "to be printed, a layer a result"},
                               {".svg", "SVG", "in millimetres"},
                               {".dxf", "DXF", "in millimetres of the paper"}}),
                  file_name_slot("{study}-drawing")},
        .results = {Kind::delivery},
        .result_name = "drawing",
        .help =
            "Views and sections of results on one sheet, to scale, without the lines that are hidden: rims, "
            "outlines and edges of faces, curves, members, labels that are shown, with what they measure "
            "over "
            "all, a scale bar, north and a title block. Sections fill what they cut of closed forms, and are "
            "marked in the other views. Results may also be given as schedules, as distances to be measured "
            "and as axes. All stands in rows, or where it is placed.",
        .make = make,
        .contexts = {{"views", context(views_offered)}, {"groups", context(numbers_given)}},
    };
}

}  // namespace plume
