#pragma once
// Pictures that a delivery gives.

#include "core/data/delivery.hpp"
#include "core/exchange/picture_file.hpp"
#include "core/study/edits/edits.hpp"

namespace plume {

bool is_picture(const DeliveryContent& delivery);
PictureJob picture_job_of(const DeliveryContent& delivery, const Units& units);

// The study with that camera kept and the picture of a sentence seen by it: by the one of the study that the
// sentence already looks by, which moves; else by a new one of a free name. Errors: those of set_slot() and
// keep_camera().
Edited with_picture_seen_from(const Study& study, ItemId sentence, const Camera& camera);

}  // namespace plume
