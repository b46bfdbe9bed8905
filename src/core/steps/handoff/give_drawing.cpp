#include <algorithm>

#include "core/base/text.hpp"
#include "core/data/sheet_names.hpp"
#include "core/steps/handoff/delivery_support.hpp"
#include "core/study/slots/picked_names.hpp"

namespace plume {
namespace {

constexpr std::size_t most_views = 12;

Offers views_offered(const Inputs& /*in*/) {
    constexpr std::array notes = {"from straight above", "looking north", "looking west",
                                  "looking south",       "looking east",  "all three axes as long"};
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

Result<Value> make(const Inputs& in, const Run& /*run*/) {
    auto views = views_in(in);
    if (!views) return views.error();
    DeliveryWishes wishes;
    wishes.views = *std::move(views);
    wishes.paper = in.word("paper");
    if (in.has("scale")) wishes.scale = in.number("scale");
    wishes.dashed = in.word("hidden") == "dashed";
    wishes.title = in.word("title");
    return delivery_of(in, std::move(wishes));
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
            "plan elevation view axonometric isometric hidden lines sheet title block dimensions pdf svg dxf "
            "paper a3 hand off deliver export",
        .sentence =
            "Draw {results}, {views}, on {paper} {size}[size=scale| 1 : {scale}], {hidden}, as {title}, as "
            "{format}, to {file}.",
        .slots = {results_slot("results", "Results", movable_kinds()),
                  picks_slot("views", "Views", "in plan, from two sides and at an angle"), paper_slot(),
                  choice_slot(
                      "size", "Size",
                      {{"fits", "so that it fits", "the first of 1, 2, 5, 10, 20, 25, 50 … that does"},
                       {"scale", "at a scale of", "of all views"}}),
                  paper_scale_slot("100"),
                  choice_slot("hidden", "What is hidden",
                              {{"none", "without what is hidden", ""},
                               {"dashed", "with what is hidden in dashes", ""}}),
                  text_slot("title", "Title", "Sallow Reach"),
                  format_slot({{".pdf", "PDF", "to be printed, a layer a result"},
                               {".svg", "SVG", "in millimetres"},
                               {".dxf", "DXF", "in millimetres of the paper"}}),
                  file_name_slot("{study}-drawing")},
        .results = {Kind::delivery},
        .result_name = "drawing",
        .help =
            "Views of results on one sheet, to scale, without the lines that are hidden: rims, outlines and "
            "edges of faces, curves, members, labels that are shown, with what they measure over all, a "
            "scale "
            "bar, north and a title block. Views are laid out in rows in their order.",
        .make = make,
        .contexts = {{"views", context(views_offered)}},
    };
}

}  // namespace plume
