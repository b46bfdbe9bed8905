#pragma once
// Pictures that a delivery gives.

#include "core/data/delivery.hpp"
#include "core/exchange/film.hpp"
#include "core/exchange/picture_file.hpp"
#include "core/handoff/delivery_file.hpp"
#include "core/study/edits/edits.hpp"

namespace plume {

bool is_picture(const DeliveryContent& delivery);
// Of a film, too, its picture at the moment that the delivery is of.
PictureJob picture_job_of(const DeliveryContent& delivery, const Units& units);

bool is_film(const DeliveryContent& delivery);
// Errors: over_budget for more frames than films have.
Result<FilmJob> film_job_of(const DeliveryContent& delivery, const MomentSource& moments);
// What a film is made from besides what its delivery holds: how the step comes about at every moment, the
// timeline, the camera along its keys.
Hash film_key(const Hash& delivery, const DeliveryContent& content, const Study& study, ItemId step);

// The study with that camera kept and the picture of a sentence seen by it: by the one of the study that the
// sentence already looks by, which moves; else by a new one of a free name. Errors: those of set_slot() and
// keep_camera().
Edited with_picture_seen_from(const Study& study, ItemId sentence, const Camera& camera);

}  // namespace plume
