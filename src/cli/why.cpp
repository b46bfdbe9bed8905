// `plume why`: why a part of what grew is there.

#include <algorithm>

#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/results/items.hpp"

namespace plume::cli {
namespace {

// The one item of a result that is named.
Result<std::size_t> item_named(const Items& items, const std::string& result, const std::string& name) {
    if (!items.why)
        return Error{ErrorCode::wrong_kind, result, "has no lines of descent that can be told",
                     "Name a result of ‘Grow parts by rules’."};
    const auto named = items.named_in(name);
    if (!named) return error_at(named.error(), "‘" + name + "’");
    const auto first = std::ranges::find(named->mask, 1);
    if (first == named->mask.end() || std::ranges::count(named->mask, 1) > 1)
        return Error{
            ErrorCode::out_of_range, "‘" + name + "’",
            "names " + std::string(first == named->mask.end() ? "none" : "several") + " of its parts",
            "Name one: they count from 0 to " + std::to_string(items.count - 1) + "."};
    return static_cast<std::size_t>(first - named->mask.begin());
}

}  // namespace

int why_command(const StudyOptions& study_options, const std::string& result, const std::string& part,
                bool json) {
    const auto study = open_study(study_options);
    if (!study) return fail(study.error());
    const Evaluation evaluation = evaluate_study(*study, study_options, Pages::sheet);
    const auto value = result_of(evaluation, result);
    if (!value) return fail(value.error());
    const Items items = items_of(**value);
    const auto item = item_named(items, result, part);
    if (!item) return fail(item.error(), wrong_usage);
    const std::vector<std::string> lines = items.why(*item);
    if (json)
        put_json(Json{{"result", result}, {"part", *item}, {"title", items.title(*item)}, {"why", lines}});
    else
        for (const std::string& line : lines)
            say(line);
    return all_done;
}

}  // namespace plume::cli
