#include <cmath>
#include <filesystem>

#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/handoff/rehearsed_work.hpp"
#include "core/steps/catalogue.hpp"

namespace plume::cli {
namespace {

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

Result<RehearsalJob> bench_of(const RehearseOptions& options) {
    const std::vector<double> sizes = numbers_in(words_between(options.board, " x:,"), 0);
    if (sizes.size() != 3)
        return Error{ErrorCode::syntax, "--board " + shortened(printable(options.board), 40),
                     "is no width, depth and thickness", "Write \"600 400 40\", in millimetres."};
    RehearsalJob job;
    job.board = {sizes[0], sizes[1], sizes[2]};
    for (const std::string& text : options.cutters) {
        const auto cutter = cutter_from(text);
        if (!cutter) return cutter.error();
        job.cutters.push_back(*cutter);
    }
    if (job.cutters.empty())
        return Error{ErrorCode::missing_input, "--cutter", "is missing",
                     "Write \"ball 12\", in millimetres."};
    return job;
}

// In place of what the sentence that is named gives, or the first one for a machine.
Result<RehearsedWorkPointer> in_study(const StudyPointer& study, const Evaluation& evaluation,
                                      const RehearseOptions& options) {
    const std::string& only = options.only;
    for (std::size_t at = study->page_begin(Page::hand_off); at < study->items.size(); ++at) {
        const Step* step = step_of(study->items[at]);
        const Outcome* outcome = step ? evaluation.outcome(step->name) : nullptr;
        if (!outcome || (!only.empty() && step->name != only)) continue;
        if (outcome->error && !only.empty()) return at_step(*outcome->error, step->name);
        const auto* delivery = outcome->value ? std::get_if<Delivery>(&*outcome->value) : nullptr;
        if (!delivery || !is_rehearsed(**delivery)) continue;
        auto work = rehearsed_work(**delivery, study->units, options.file, interruptible_run());
        if (!work) return at_step(labelled(work.error(), *standard_catalogue().find(*step)), step->name);
        return work;
    }
    return Error{ErrorCode::unknown_name,
                 only.empty() ? "The study" : "--only " + shortened(printable(only), 80),
                 only.empty() ? "mills and cuts nothing" : "names no sentence that mills or cuts",
                 "Add “Mill a relief” or “Cut flat” on its page Hand off, or say --board and --cutter."};
}

// Counts are whole.
Json json_of(double value) {
    constexpr double largest = 0x1p53;
    const bool whole = std::abs(value) < largest && value == std::round(value);
    return whole ? Json(static_cast<std::int64_t>(value)) : Json(value);
}

void print(const RehearsedWork& work, const std::string& file, bool json) {
    if (json) {
        Json figures = Json::object();
        for (const RehearsedFigure& figure : work.figures())
            figures[figure.name] = json_of(figure.value);
        put_json(figures);
    } else {
        say(work.summary());
        for (const auto& lines : {work.details(), work.places()})
            for (const std::string& line : lines)
                say("  " + line);
    }
    for (const std::string& remark : work.remarks())
        warn("plume: ‘" + std::filesystem::path(file).filename().string() + "’: " + remark + ".");
}

}  // namespace

int rehearse_command(const StudyOptions& study_options, const RehearseOptions& options) {
    Result<RehearsedWorkPointer> work = Error{};
    if (study_options.path.empty()) {
        const auto job = bench_of(options);
        if (!job) return fail(job.error(), wrong_usage);
        work = rehearsed_milling(options.file, *job, interruptible_run());
    } else {
        const auto study = open_study(study_options);
        if (!study) return fail(study.error());
        work = in_study(*study, evaluate_study(*study, study_options, Pages::all), options);
    }
    if (!work) return fail(work.error());
    print(**work, options.file, options.json);
    return all_done;
}

}  // namespace plume::cli
