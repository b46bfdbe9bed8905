#include "core/handoff/drawn_sheet.hpp"

#include <algorithm>
#include <utility>

namespace plume {
namespace {

// Slots of the sentence.
constexpr const char* layout = "layout";
constexpr const char* in_rows = "rows";
constexpr const char* as_placed = "placed";
constexpr const char* places = "places";

// What its slot holds, where that is of this form.
template <class Form>
const Form* slot_of(const Study& study, ItemId sentence, const char* key) {
    const Step* step = study.step(sentence);
    if (!step) return nullptr;
    const auto found = step->slots.find(key);
    return found == step->slots.end() ? nullptr : std::get_if<Form>(&found->second);
}

std::vector<SheetPlace> placed_on(const Study& study, ItemId sentence) {
    const auto* text = slot_of<Lines>(study, sentence, places);
    if (!text || is_sheet_in_rows(study, sentence)) return {};
    auto read = sheet_places_from(text->text);
    return read ? *std::move(read) : std::vector<SheetPlace>();
}

}  // namespace

bool is_drawing(const DeliveryContent& delivery) {
    return !delivery.wishes.views.empty();
}

DrawingJob drawing_job_of(const DeliveryContent& delivery, const Units& units) {
    const DeliveryWishes& wishes = delivery.wishes;
    DrawingJob job{{}, units, {}, paper_sizes().front()};
    for (const GivenResult& given : delivery.results) {
        ExportedResult result{given.value, given.name, given.show};
        if (given.as == "schedule" || given.as == "scheduled") job.schedules.push_back(result);
        auto& to = given.as == "distances" ? job.distances : given.as == "axes" ? job.axes : job.results;
        if (given.as != "schedule") to.push_back(std::move(result));
    }
    for (const std::string& name : wishes.views)
        if (const auto view = sheet_view_from(name)) job.views.push_back(*view);
    for (const PaperSize& paper : paper_sizes())
        if (paper.key == wishes.paper) job.paper = paper;
    job.scale = wishes.scale;
    job.dashed = wishes.dashed;
    job.cut = wishes.cut;
    job.contour_step = wishes.contour_step;
    job.schedules_by = wishes.group_by;
    job.placed = wishes.placed;
    job.title = wishes.title;
    return job;
}

Result<Plan> drawn_sheet(const DeliveryContent& delivery, const Units& units, const Run& run) {
    return drawing_of(drawing_job_of(delivery, units), run);
}

Edited with_place_on_sheet(const Study& study, ItemId sentence, const SheetPlace& place) {
    std::vector<SheetPlace> now = placed_on(study, sentence);
    const auto before = std::ranges::find(now, place.of, &SheetPlace::of);
    if (before == now.end())
        now.push_back(place);
    else
        *before = place;
    const Edited placed = set_slot(study, sentence, places, Lines{sheet_places_text(now)});
    if (!placed) return placed;
    return set_slot(**placed, sentence, layout, WordKey{as_placed});
}

Edited with_sheet_in_rows(const Study& study, ItemId sentence) {
    return set_slot(study, sentence, layout, WordKey{in_rows});
}

bool is_sheet_in_rows(const Study& study, ItemId sentence) {
    const auto* word = slot_of<WordKey>(study, sentence, layout);
    return !word || word->key != as_placed;
}

}  // namespace plume
