#include <numbers>

#include "cli/commands.hpp"
#include "cli/output.hpp"
#include "cli/picture_wishes.hpp"
#include "cli/progress_line.hpp"
#include "core/base/numbers.hpp"
#include "core/exchange/film.hpp"

namespace plume::cli {
namespace {

Error too_many(std::size_t frames) {
    return {ErrorCode::over_budget, "A film of " + std::to_string(frames) + " frames",
            "is more than the usual " + std::to_string(most_film_frames), "Allow it with --many."};
}

}  // namespace

int film_command(const StudyOptions& study_options, const FilmOptions& options) {
    auto how = job_of(options.picture);
    if (!how) return fail(how.error(), wrong_usage);
    const auto study = open_study(study_options);
    if (!study) return fail(study.error());
    const Timeline time = (*study)->time;
    if (Status looking = look_from(options.picture, **study, options.from, how->still); !looking)
        return fail(looking.error(), wrong_usage);
    how->study_units = (*study)->units;
    const std::size_t first = moment_at(time, options.from).frame,
                      last = options.to < 0 ? time.last_frame() : moment_at(time, options.to).frame;
    if (last < first)
        return fail({ErrorCode::out_of_range, "--to", "ends before the film begins", "Choose a later end."},
                    wrong_usage);
    if (last - first >= most_film_frames && !options.many)
        return fail(too_many(last - first + 1), wrong_usage);
    const Run& run = interruptible_run();
    ProgressLine line(run);
    FilmJob job;
    job.study = *study;
    job.plan = plan_of(**study, study_options, Pages::sheet);
    bool failed = false;
    job.seen = [&](const Evaluation& evaluation) {
        line.say("at " + short_text(evaluation.moment.seconds()) + " s");
        // The first errors are told; a film of what fails would tell them at each frame.
        if (!failed) failed = complain_about_steps(evaluation);
        return pictured(evaluation, options.picture.results);
    };
    job.first = first;
    job.count = last - first + 1;
    job.how = *how;
    job.turn_rad = options.turn * std::numbers::pi / 180;
    job.camera = how->still.fit ? "" : options.picture.view;
    const auto written = write_film(job, options.picture.file, run);
    if (!written) return fail(written.error());
    say(*written);
    return failed ? study_has_errors : all_done;
}

}  // namespace plume::cli
