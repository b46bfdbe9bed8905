// `plume steps`: the catalogue of step kinds.

#include <nlohmann/json.hpp>

#include "cli/commands.hpp"
#include "cli/output.hpp"
#include "core/steps/catalogue.hpp"

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
    Json json{{"key", kind.key}, {"verb", kind.verb}, {"sentence", kind.sentence}, {"help", kind.help}};
    for (const Kind result : kind.results)
        json["results"].push_back(key_of(result));
    json["slots"] = Json::array();
    for (const SlotSpec& slot : kind.slots)
        json["slots"].push_back(json_of(slot));
    return json;
}

std::string slot_line(const SlotSpec& slot) {
    std::string line = "    " + slot.key + std::string(slot.key.size() < 14 ? 14 - slot.key.size() : 1, ' ') +
                       std::string(key_of(slot.type));
    if (slot.numeric()) line += ", preset " + slot.preset;
    for (std::size_t index = 0; index < slot.words.size(); ++index)
        line += (index == 0 ? ": " : " | ") + slot.words[index].key;
    for (std::size_t index = 0; index < slot.accepts.size(); ++index)
        line += (index == 0 ? " to " : " or ") + std::string(plain_name(slot.accepts[index]));
    return line;
}

}  // namespace

int steps_command(bool json) {
    if (json) {
        Json list = Json::array();
        for (const StepKind& kind : standard_catalogue().kinds())
            list.push_back(json_of(kind));
        put(list.dump(2) + '\n');
        return all_done;
    }
    for (const StepKind& kind : standard_catalogue().kinds()) {
        if (!kind.offered) continue;
        say(kind.verb + "  (" + kind.key + ")\n  " + kind.sentence + "\n  " + kind.help);
        for (const SlotSpec& slot : kind.slots)
            say(slot_line(slot));
        say("");
    }
    return all_done;
}

}  // namespace plume::cli
