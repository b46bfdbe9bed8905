// `plume steps`: the catalogue of step kinds, and the page of one.

#include <nlohmann/json.hpp>

#include "cli/commands.hpp"
#include "cli/output.hpp"
#include "cli/session.hpp"
#include "core/base/file.hpp"
#include "core/picture/png.hpp"
#include "core/reference/choice_pictures.hpp"
#include "core/reference/reference_text.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/step_search.hpp"
#include "core/study/subjects.hpp"

namespace plume::cli {
namespace {

using Json = nlohmann::ordered_json;

Json json_of(const SlotSpec& slot) {
    Json json{{"key", slot.key}, {"label", slot.label}, {"type", key_of(slot.type)}};
    if (slot.numeric()) {
        json["preset"] = slot.preset;
        json["least"] = slot.least;
        json["most"] = slot.most;
        json["least_excluded"] = slot.above_least;
    }
    for (const Word& word : slot.words)
        json["words"].push_back(Json{{"key", word.key}, {"label", word.label}, {"help", word.help}});
    for (const Kind kind : slot.accepts)
        json["accepts"].push_back(key_of(kind));
    return json;
}

Json json_of(const StepKind& kind) {
    Json json{{"key", kind.key},
              {"verb", kind.verb},
              {"sentence", kind.sentence},
              {"help", kind.help},
              {"subject", subject_of(kind).key}};
    for (const Kind result : kind.results)
        json["results"].push_back(key_of(result));
    json["slots"] = Json::array();
    for (const SlotSpec& slot : kind.slots)
        json["slots"].push_back(json_of(slot));
    return json;
}

// Markdown as it reads best where it is not set: without the signs that stand for type.
std::string for_terminals(std::string_view markdown) {
    std::string text;
    for (std::size_t at = 0; at < markdown.size(); ++at) {
        const char c = markdown[at];
        if (c == '\\' && at + 1 < markdown.size())
            text += markdown[++at];
        else if (c != '*' && c != '`')
            text += c;
    }
    return text;
}

std::string lines_of(const StepKind& kind) {
    return for_terminals(page_text(reference_page(kind, standard_catalogue()), {}));
}

Status write_pages(const std::filesystem::path& folder) {
    const Catalogue& catalogue = standard_catalogue();
    const ReferenceLinks links = links_in_docs();
    for (const StepKind& kind : catalogue.kinds())
        if (Status written =
                write_file(folder / (kind.key + ".md"), page_text(reference_page(kind, catalogue), links));
            !written)
            return written;
    if (Status written = write_file(folder / "words.md", words_text(catalogue, links)); !written)
        return written;
    return write_file(folder / "README.md", contents_text(catalogue, links));
}

int tell_kind(const std::string& key, bool json) {
    const StepKind* kind = standard_catalogue().find(key);
    if (!kind) {
        // By its words, as the window finds it.
        const Study empty;
        const auto offers = step_offers({empty, standard_catalogue()}, key);
        if (!offers.empty()) kind = offers.front().kind;
    }
    if (!kind)
        return fail(Error{ErrorCode::unknown_step_kind, "‘" + key + "’", "is no step of this program",
                          "`plume steps` lists all."},
                    wrong_usage);
    if (json)
        put(json_of(*kind).dump(2) + '\n');
    else
        say(lines_of(*kind));
    return all_done;
}

// "KIND.slot.png" for each choice that differs to look at.
Status draw_choices(const StepsOptions& options) {
    const Catalogue& catalogue = standard_catalogue();
    for (const StepKind& kind : catalogue.kinds()) {
        if (!options.kind.empty() && kind.key != options.kind) continue;
        const auto drawn = choice_pictures(kind, catalogue, options.examples, interruptible_run());
        if (!drawn) return drawn.error();
        for (const ChoicePictures& choice : *drawn)
            if (Status written = write_png(choice.strip, std::filesystem::path(options.choices) /
                                                             (kind.key + '.' + choice.slot + ".png"));
                !written)
                return written;
    }
    return Done{};
}

}  // namespace

int steps_command(const StepsOptions& options) {
    if (!options.choices.empty()) {
        const Status drawn = draw_choices(options);
        return drawn ? all_done : fail(drawn.error());
    }
    if (!options.kind.empty()) return tell_kind(options.kind, options.json);
    if (!options.pages.empty()) {
        const Status written = write_pages(options.pages);
        return written ? all_done : fail(written.error());
    }
    if (options.words) {
        say(for_terminals(words_text(standard_catalogue(), {})));
        return all_done;
    }
    if (options.json) {
        Json list = Json::array();
        for (const StepKind& kind : standard_catalogue().kinds())
            list.push_back(json_of(kind));
        put(list.dump(2) + '\n');
        return all_done;
    }
    say(for_terminals(contents_text(standard_catalogue(), {})));
    return all_done;
}

}  // namespace plume::cli
