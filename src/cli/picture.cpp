#include <charconv>
#include <numbers>

#include "cli/commands.hpp"
#include "cli/output.hpp"
#include "cli/picture_wishes.hpp"
#include "core/exchange/picture_file.hpp"
#include "core/picture/sun.hpp"
#include "core/study/moving.hpp"

namespace plume::cli {
namespace {

constexpr double degree = std::numbers::pi / 180;

bool read_size(const std::string& text, int& width, int& height) {
    const std::size_t cross = text.find('x');
    if (cross == std::string::npos) return false;
    const auto one = [&](std::size_t begin, std::size_t end, int& number) {
        const auto read = std::from_chars(text.data() + begin, text.data() + end, number);
        return read.ec == std::errc{} && read.ptr == text.data() + end && number > 0;
    };
    return one(0, cross, width) && one(cross + 1, text.size(), height);
}

}  // namespace

Result<std::vector<ExportedResult>> pictured(const Evaluation& evaluation,
                                             const std::vector<std::string>& wanted) {
    std::vector<ExportedResult> results;
    for (const std::string& name : wanted)
        if (const auto value = result_of(evaluation, name); !value) return value.error();
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const bool named = std::ranges::find(wanted, step->name) != wanted.end();
        if (!(wanted.empty() ? step->show.visible : named)) continue;
        const Outcome* outcome = evaluation.outcome(step->id);
        if (outcome && outcome->value) results.push_back({outcome->value, step->name, step->show});
    }
    return results;
}

namespace {

// Numbers with commas between, as many as stand before anything else; what is left of the text.
std::vector<double> leading_numbers(std::string_view& text) {
    std::vector<double> numbers;
    while (!text.empty()) {
        const std::size_t comma = std::min(text.find(','), text.size());
        const std::string_view part = text.substr(0, comma);
        double number = 0;
        const auto read = std::from_chars(part.data(), part.data() + part.size(), number);
        if (read.ec != std::errc{} || read.ptr != part.data() + part.size()) break;
        numbers.push_back(number);
        text.remove_prefix(std::min(comma + 1, text.size()));
    }
    return numbers;
}

// 2026-06-21T15:30 and then +01:00, -05:00 or Z.
bool read_instant(const std::string& text, SunMoment& moment) {
    int hour = 0, minute = 0, zone_hours = 0, zone_minutes = 0, end = 0;
    char sign = '+';
    if (std::sscanf(text.c_str(), "%4d-%2d-%2dT%2d:%2d%n", &moment.year, &moment.month, &moment.day, &hour,
                    &minute, &end) != 5)
        return false;
    const std::string zone = text.substr(static_cast<std::size_t>(end));
    if (zone != "Z") {
        int zone_end = 0;
        if (std::sscanf(zone.c_str(), "%c%2d:%2d%n", &sign, &zone_hours, &zone_minutes, &zone_end) != 3 ||
            zone_end != static_cast<int>(zone.size()) || (sign != '+' && sign != '-'))
            return false;
    }
    if (minute > 59 || zone_minutes > 59) return false;
    moment.hour = hour + minute / 60.0;
    moment.hours_ahead_utc = (sign == '-' ? -1 : 1) * (zone_hours + zone_minutes / 60.0);
    return true;
}

// "BEARING,HEIGHT" in degrees, or "LATITUDE,LONGITUDE,INSTANT".
Result<Vec3> sun_from(const std::string& text) {
    std::string_view rest = text;
    const std::vector<double> numbers = leading_numbers(rest);
    if (numbers.size() == 2 && rest.empty()) return direction_of({numbers[0] * degree, numbers[1] * degree});
    SunMoment moment;
    if (numbers.size() != 2 || !read_instant(std::string(rest), moment))
        return Error{ErrorCode::syntax, "--sun " + text,
                     "says neither a direction nor a place and an instant",
                     "Type a bearing and a height, --sun 215,35, or a latitude, a longitude and an instant, "
                     "--sun 54,1,2026-06-21T15:00+01:00."};
    moment.latitude_rad = numbers[0] * degree;
    moment.longitude_rad = numbers[1] * degree;
    const Result<SunPlace> sun = sun_place(moment);
    if (!sun) return error_at(sun.error(), "--sun " + text);
    return direction_of(*sun);
}

}  // namespace

Status look_from(const PictureOptions& options, const Study& study, double seconds, StillOptions& still) {
    const auto view = standard_view_from(options.view);
    const KeptCamera* kept = study.camera(options.view);
    if (!view && !kept)
        return Error{ErrorCode::unknown_name, "--view " + options.view,
                     "is neither a view nor a camera of the study",
                     "Use above, plan, front, side or its name."};
    still.camera = view ? seen_from(*view, still.camera) : camera_at(*kept, seconds);
    still.fit = view.has_value();
    if (options.parallel) still.camera.perspective = false;
    return Done{};
}

Result<PictureJob> job_of(const PictureOptions& options) {
    PictureJob job;
    if (!read_size(options.size, job.still.width, job.still.height))
        return Error{ErrorCode::syntax, "--size " + options.size, "has to be WIDTHxHEIGHT",
                     "For example --size 1280x800."};
    if (!options.sun.empty()) {
        const Result<Vec3> sun = sun_from(options.sun);
        if (!sun) return sun.error();
        job.still.sun = *sun;
    }
    if (options.plain) job.still.ground = StillGround::plain;
    if (options.transparent) job.still.ground = StillGround::none;
    job.still.clay = options.clay;
    job.still.outlines = options.outlines;
    job.still.passes = options.samples;
    job.still.density = options.density;
    job.scale = options.scale;
    job.dots_an_inch = options.dots_an_inch;
    job.turn_pictures = options.turn;
    job.turn_seconds = options.seconds;
    return job;
}

int picture_command(const StudyOptions& study_options, const PictureOptions& options) {
    auto job = job_of(options);
    if (!job) return fail(job.error(), wrong_usage);
    const auto study = open_study(study_options);
    if (!study) return fail(study.error());
    if (Status looking = look_from(options, **study, study_options.seconds, job->still); !looking)
        return fail(looking.error(), wrong_usage);
    job->study_units = (*study)->units;
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::sheet);
    const bool failed = complain_about_steps(evaluation);
    auto results = pictured(evaluation, options.results);
    if (!results) return fail(results.error());
    job->results = *std::move(results);
    const auto written = write_picture(*job, options.file, interruptible_run());
    if (!written) return fail(written.error());
    say(*written);
    return failed ? study_has_errors : all_done;
}

}  // namespace plume::cli
