#include "core/handoff/pictured_delivery.hpp"

#include "core/base/numbers.hpp"
#include "core/evaluation/recipe.hpp"
#include "core/study/slots/slot_rules.hpp"

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

bool is_film(const DeliveryContent& delivery) {
    return delivery.wishes.film.has_value();
}

namespace {

// What is given of a moment, by the names it has at the first.
Result<std::vector<ExportedResult>> given_at(const Evaluation& evaluation,
                                             const std::vector<ExportedResult>& given) {
    std::vector<ExportedResult> results;
    for (const ExportedResult& one : given) {
        const Outcome* outcome = evaluation.outcome(one.name);
        if (!outcome || !outcome->value) {
            const Error why = outcome && outcome->error ? *outcome->error : Error{};
            return Error{ErrorCode::input_failed, "‘" + one.name + "’",
                         "has no result at " + short_text(evaluation.moment.seconds()) + " s" +
                             (why.message.empty() ? "" : ": " + why.message),
                         "Look at it there, or film another part of the time."};
        }
        results.push_back(one);
        results.back().value = outcome->value;
    }
    return results;
}

}  // namespace

Result<FilmJob> film_job_of(const DeliveryContent& delivery, const MomentSource& source) {
    const FilmWishes& wishes = *delivery.wishes.film;
    const Timeline& time = source.study->time;
    FilmJob job;
    job.study = source.study;
    job.plan = source.plan;
    job.how = picture_job_of(delivery, source.study->units);
    job.seen = [given = std::exchange(job.how.results, {})](const Evaluation& evaluation) {
        return given_at(evaluation, given);
    };
    const auto [from, until] = wishes.part.value_or(std::pair(0.0, time.seconds));
    job.first = moment_at(time, from).frame;
    job.count = moment_at(time, until).frame + 1 - job.first;
    if (job.count > most_film_frames)
        return Error{ErrorCode::over_budget, "A film of " + std::to_string(job.count) + " frames",
                     "is more than the usual " + std::to_string(most_film_frames),
                     "Film a part of the time, or give the study fewer frames a second."};
    job.camera = delivery.wishes.picture->seen.name;
    job.turn_rad = wishes.turn_rad;
    return job;
}

Hash film_key(const Hash& delivery, const DeliveryContent& content, const Study& study, ItemId step) {
    Hasher hasher;
    hasher.add(delivery).add(recipes_of(study).at(step)).add(study.time.rate).add(study.time.seconds);
    if (const KeptCamera* camera = study.camera(std::string_view(content.wishes.picture->seen.name)))
        add_to_hash(hasher, *camera);
    return hasher.finish();
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
