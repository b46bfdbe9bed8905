#include "core/handoff/pictured_delivery.hpp"

namespace plume {

namespace {

std::string free_camera_name(const Study& study) {
    for (int number = 1;; ++number)
        if (std::string name = "view " + std::to_string(number); !study.camera(name)) return name;
}

}  // namespace

bool is_picture(const DeliveryContent& delivery) {
    return delivery.wishes.picture.has_value();
}

PictureJob picture_job_of(const DeliveryContent& delivery, const Units& units) {
    const PictureWishes& wishes = *delivery.wishes.picture;
    PictureJob job;
    job.study_units = units;
    for (const GivenResult& given : delivery.results) {
        ExportedResult result{given.value, given.name, given.show, given.as};
        if (wishes.lines == "none") result.show.points = result.show.edges = result.show.labels = false;
        job.results.push_back(std::move(result));
    }
    job.still.camera = wishes.seen.camera;
    job.still.fit = wishes.seen.fitted;
    job.still.width = static_cast<int>(wishes.width);
    job.still.height = static_cast<int>(wishes.height);
    job.still.passes = static_cast<int>(wishes.passes);
    job.still.ground = wishes.ground == "plain"  ? StillGround::plain
                       : wishes.ground == "none" ? StillGround::none
                                                 : StillGround::shadow;
    job.still.clay = wishes.clay;
    job.still.outlines = wishes.lines == "outlined";
    job.still.sun = wishes.sun;
    job.scale = delivery.wishes.scale;
    job.dots_an_inch = wishes.dots_an_inch;
    job.turn_pictures = static_cast<int>(wishes.turn_pictures);
    job.turn_seconds = wishes.turn_seconds;
    return job;
}

Edited with_picture_seen_from(const Study& study, ItemId sentence, const Camera& camera) {
    const Step* step = study.step(sentence);
    const auto view = step ? step->slots.find("view") : decltype(step->slots.end()){};
    const bool chosen = step && view != step->slots.end();
    const auto* word = chosen ? std::get_if<WordKey>(&view->second) : nullptr;
    const std::string name = word && study.camera(word->key) ? word->key : free_camera_name(study);
    Edited kept = keep_camera(study, name, camera);
    if (!kept) return kept;
    return set_slot(**kept, sentence, "view", WordKey{name});
}

}  // namespace plume
