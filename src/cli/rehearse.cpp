#include <filesystem>

#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/base/file.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/handoff/milled_delivery.hpp"
#include "core/milling/gcode.hpp"

namespace plume::cli {
namespace {

constexpr std::size_t most_bytes = 2'000'000'000;

struct Bench {
    RehearsalJob job;
    std::shared_ptr<const FormInBoard> form = {};  // of the job, if there is one
};

std::vector<double> numbers_in(const std::vector<std::string_view>& words, std::size_t from) {
    std::vector<double> numbers;
    for (std::size_t word = from; word < words.size(); ++word) {
        const auto number = read_number(words[word]);
        if (!number || !(*number > 0)) return {};
        numbers.push_back(*number);
    }
    return numbers;
}

Result<Cutter> cutter_from(const std::string& text) {
    const std::vector<std::string_view> words = words_between(text, " :,");
    const std::vector<double> sizes = numbers_in(words, 1);
    if (sizes.size() == 1 && words.front() == "flat") return Cutter::flat(sizes[0] / 2);
    if (sizes.size() == 1 && words.front() == "ball") return Cutter::ball(sizes[0] / 2);
    if (sizes.size() == 2 && words.front() == "rounded" && sizes[1] <= sizes[0] / 2)
        return Cutter{sizes[0] / 2, sizes[1]};
    return Error{ErrorCode::syntax, "--cutter " + shortened(printable(text), 40), "is no cutter",
                 "Write \"flat 20\", \"ball 12\" or \"rounded 12 2\", in millimetres."};
}

Result<Bench> bench_of(const RehearseOptions& options) {
    const std::vector<double> sizes = numbers_in(words_between(options.board, " x:,"), 0);
    if (sizes.size() != 3)
        return Error{ErrorCode::syntax, "--board " + shortened(printable(options.board), 40),
                     "is no width, depth and thickness", "Write \"600 400 40\", in millimetres."};
    Bench bench{{nullptr, {sizes[0], sizes[1], sizes[2]}, {}}};
    for (const std::string& text : options.cutters) {
        const auto cutter = cutter_from(text);
        if (!cutter) return cutter.error();
        bench.job.cutters.push_back(*cutter);
    }
    if (bench.job.cutters.empty())
        return Error{ErrorCode::missing_input, "--cutter", "is missing",
                     "Write \"ball 12\", in millimetres."};
    return bench;
}

// Of the sentence that is named, or the first one that mills.
Result<Bench> bench_of(const StudyPointer& study, const Evaluation& evaluation, const std::string& only) {
    for (std::size_t at = study->page_begin(Page::hand_off); at < study->items.size(); ++at) {
        const Step* step = step_of(study->items[at]);
        const Outcome* outcome = step ? evaluation.outcome(step->name) : nullptr;
        if (!outcome || (!only.empty() && step->name != only)) continue;
        if (outcome->error && !only.empty()) return at_step(*outcome->error, step->name);
        const auto* delivery = outcome->value ? std::get_if<Delivery>(&*outcome->value) : nullptr;
        if (!delivery || !is_milled(**delivery)) continue;
        auto form = form_in_board(**delivery, study->units, interruptible_run());
        if (!form) return at_step(form.error(), step->name);
        const auto kept = std::make_shared<const FormInBoard>(*std::move(form));
        return Bench{rehearsal_of(**delivery, *kept, study->units), kept};
    }
    return Error{ErrorCode::unknown_name,
                 only.empty() ? "The study" : "--only " + shortened(printable(only), 80),
                 only.empty() ? "mills nothing" : "names no sentence that mills",
                 "Add “Mill a relief” on its page Hand off, or say --board and --cutter."};
}

Json json_of(const Rehearsal& made) {
    Json json{{"minutes", made.path.minutes},
              {"moves", made.move_count},
              {"cutting_mm", made.path.cutting},
              {"rapid_mm", made.path.rapid},
              {"deepest_plunge_mm", made.path.deepest_plunge},
              {"rapid_cuts", made.rapid_cuts},
              {"below_board_mm", made.below_board}};
    if (made.form.heights.empty()) return json;
    json["most_left_mm"] = made.most_left;
    json["mean_left_mm"] = made.mean_left;
    json["most_too_deep_mm"] = made.most_too_deep;
    json["area_too_deep_mm2"] = made.area_too_deep;
    json["places_left"] = made.left_count;
    json["places_too_tight"] = made.too_tight_count();
    return json;
}

void print(const Rehearsal& made) {
    say(made.summary());
    for (const std::string& line : made.details())
        say("  " + line);
    constexpr std::size_t most_shown = 8;
    for (std::size_t at = 0; at < std::min(made.left.size(), most_shown); ++at) {
        const LeftPlace& place = made.left[at];
        say("  " + short_text(place.most, 3) + " mm left over " + short_text(place.area, 3) +
            " mm² about X " + short_text(place.worst.x, 5) + " Y " + short_text(place.worst.y, 5) +
            (place.too_tight ? ", too tight for the cutter" : ""));
    }
}

}  // namespace

int rehearse_command(const StudyOptions& study_options, const RehearseOptions& options) {
    const Run& run = interruptible_run();
    Result<Bench> bench = Error{};
    if (study_options.path.empty()) {
        bench = bench_of(options);
        if (!bench) return fail(bench.error(), wrong_usage);
    } else {
        const auto study = open_study(study_options);
        if (!study) return fail(study.error());
        bench = bench_of(*study, evaluate_study(*study, study_options, Pages::all), options.only);
        if (!bench) return fail(bench.error());
    }
    const std::string name = std::filesystem::path(options.file).filename().string();
    const auto text = read_file(options.file, most_bytes);
    if (!text) return fail(text.error());
    const auto file = gcode_from(*text, run);
    if (!file) return fail(error_at(file.error(), "‘" + name + "’"));
    const auto made = rehearsed(file->path, bench->job, run);
    if (!made) return fail(made.error());
    if (options.json)
        put_json(json_of(*made));
    else
        print(*made);
    for (const std::string& remark : file->remarks)
        warn("plume: ‘" + name + "’: " + remark + ".");
    if (file->tool_count > bench->job.cutters.size())
        warn("plume: ‘" + name + "’ has " + std::to_string(file->tool_count) +
             " tools; those beyond the cutters that are known are taken to be the last of them.");
    return all_done;
}

}  // namespace plume::cli
