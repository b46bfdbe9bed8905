#pragma once
// Deliveries that are drawings: the sheet itself, and moving what stands on it.

#include "core/data/delivery.hpp"
#include "core/exchange/drawing.hpp"
#include "core/study/edits/edits.hpp"

namespace plume {

bool is_drawing(const DeliveryContent& delivery);

// Of a drawing.
DrawingJob drawing_job_of(const DeliveryContent& delivery, const Units& units);
// Errors: those of drawing_of().
Result<Plan> drawn_sheet(const DeliveryContent& delivery, const Units& units, const Run& run);

// The study with what the sheet of a sentence calls so at that place, or with all in rows again. What was
// placed before stays so unless all stood in rows. Errors: those of set_slot().
Edited with_place_on_sheet(const Study& study, ItemId sentence, const SheetPlace& place);
Edited with_sheet_in_rows(const Study& study, ItemId sentence);
bool is_sheet_in_rows(const Study& study, ItemId sentence);

}  // namespace plume
