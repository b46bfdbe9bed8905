#include <algorithm>
#include <array>
#include <cmath>

#include "cli/commands.hpp"
#include "cli/json_output.hpp"
#include "cli/output.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/receiving/arrival.hpp"
#include "core/receiving/model_groups.hpp"

namespace plume::cli {
namespace {

// What was asked for on the command line, done one after the other.
Result<Received> changed_by_hand(Received here, const ReceiveOptions& options) {
    const Run& run = interruptible_run();
    Result<Received> now = std::move(here);
    const auto then = [&](const auto& change) {
        if (now) now = change(*now);
    };
    for (const std::string& name : options.lock)
        then([&](const Received& model) { return with_lock(model, name, true, run); });
    for (const std::string& name : options.unlock)
        then([&](const Received& model) { return with_lock(model, name, false, run); });
    for (const std::string& name : options.remove)
        then([&](const Received& model) { return without_part(model, name, run); });
    if (options.again) then([&](const Received& model) { return with_deleted_again(model, run); });
    if (!options.reads_as.empty()) {
        const auto unit = length_unit_from(options.reads_as);
        if (!unit && options.reads_as != "told")
            return Error{ErrorCode::unknown_name, "--reads-as " + shortened(printable(options.reads_as), 40),
                         "is no unit of length", "Write m, cm, mm, ft, in, or told."};
        then([&](const Received& model) { return reading_as(model, unit, run); });
    }
    for (const std::string& file : options.others)
        then([&](const Received& model) {
            return with_others(model, std::filesystem::absolute(file).lexically_normal(), run);
        });
    return now;
}

// Columns as wide as what stands in them; the first to the left, numbers to the right.
void print_table(const std::vector<std::vector<std::string>>& rows) {
    std::vector<std::size_t> widths;
    for (const auto& row : rows)
        for (std::size_t column = 0; column < row.size(); ++column) {
            widths.resize(std::max(widths.size(), row.size()));
            widths[column] = std::max(widths[column], characters_of(row[column]).size());
        }
    for (const auto& row : rows) {
        std::string line;
        for (std::size_t column = 0; column < row.size(); ++column) {
            const std::string blanks(widths[column] - characters_of(row[column]).size(), ' ');
            line += column == 0 ? row[column] + blanks : "  " + blanks + row[column];
        }
        say(line);
    }
}

void print_groups(const std::vector<Received::Part>& parts, GroupBy by) {
    const ModelGroup all = grouped(parts, {by});
    std::vector<std::vector<std::string>> rows{
        {std::string(plain_name(by)), "parts", "area", "volume", "length"}};
    const auto add = [&](const ModelGroup& group, const std::string& name) {
        rows.push_back({name, std::to_string(group.parts), figure_text(group.area_m2, {2, 0}),
                        figure_text(group.volume_m3, {3, 0}), figure_text(group.length_m, a_length)});
    };
    for (const ModelGroup& group : all.groups)
        add(group, group.name);
    if (all.groups.size() > 1) add(all, "all");
    print_table(rows);
}

void print_part(const Received::Part& part) {
    const BuildingElement& element = part.taken->element;
    say(element.name + "  " + description_of(element));
    say("identity " + element.identity + (part.placed->locked ? ", locked, " : ", ") +
        origin_text(*part.placed));
    std::vector<std::vector<std::string>> rows;
    const auto add = [&](const char* name, const std::optional<double>& figure, Dimension dimension) {
        if (figure) rows.push_back({name, figure_text(figure, dimension), "of its shape"});
    };
    add("volume", part.volume_m3(), {3, 0});
    add("area", part.area_m2(), {2, 0});
    add("length", part.length_m(), a_length);
    for (const BuildingProperty& property : element.properties)
        rows.push_back({property.name, value_text(property), property.set});
    print_table(rows);
}

Json json_of(const BuildingProperty& property) {
    Json json{{"set", property.set}, {"name", property.name}};
    if (!property.number)
        json["text"] = property.text;
    else if (std::isfinite(property.number->value))
        json["value"] = property.number->value;
    return json;
}
Json json_of(const Received::Part& part) {
    const BuildingElement& element = part.taken->element;
    Json json{{"name", element.name},         {"identity", element.identity}, {"class", class_name(element)},
              {"storey", element.storey},     {"material", element.material}, {"source", part.placed->source},
              {"locked", part.placed->locked}};
    if (const auto area = part.area_m2()) json["area"] = *area;
    if (const auto volume = part.volume_m3()) json["volume"] = *volume;
    if (const auto along = part.length_m()) json["length"] = *along;
    json["properties"] = Json::array();
    for (const BuildingProperty& property : element.properties)
        json["properties"].push_back(json_of(property));
    return json;
}
Json json_of(const ArrivedFile& file) {
    Json json{{"name", file.name}};
    if (file.error) json["error"] = json_of_error(*file.error);
    json["parts"] = Json::array();
    for (const ArrivingPart& part : file.parts)
        json["parts"].push_back(Json{{"name", (part.is ? part.is : part.was)->element.name},
                                     {"identity", part.identity},
                                     {"state", plain_name(part.state)}});
    return json;
}
Json json_of(const Received& here, const Arrival& arrival, const std::vector<std::string>& doubts) {
    Json json{{"folder", here.folder().string()}, {"files", Json::array()}, {"missing", arrival.missing}};
    for (const ArrivedFile& file : arrival.files)
        json["files"].push_back(json_of(file));
    json["doubts"] = doubts;
    json["parts"] = Json::array();
    for (const Received::Part& part : here.parts())
        json["parts"].push_back(json_of(part));
    return json;
}

GroupBy group_from(const std::string& word) {
    for (const GroupBy by : {GroupBy::storey, GroupBy::building_class})
        if (word == plain_name(by)) return by;
    return GroupBy::material;
}

void print_arrival(const Received& now, const Arrival& arrival, const ReceiveOptions& options) {
    for (const ArrivedFile& file : arrival.files) {
        if (!file.file) continue;
        say(file.name + "  " + file.counts_text() + (options.check ? "" : ": " + presence_text(now, file)));
        for (const std::string& loss : file.file->losses)
            warn("plume: ‘" + file.name + "’: " + loss);
    }
    const std::vector<Received::Part> parts = now.parts();
    if (parts.empty()) {
        say("The model is empty.");
        return;
    }
    const Box box = box_of(parts);
    if (!box.empty()) {
        const Vec3 size = box.high - box.low;
        say("The model is " + short_text(size.x) + " × " + short_text(size.y) + " × " + short_text(size.z) +
            " m.");
    }
    print_groups(parts, group_from(options.by));
}

}  // namespace

int receive_command(const ReceiveOptions& options) {
    const Run& run = interruptible_run();
    Result<Received> here = Received::open(std::filesystem::absolute(options.folder).lexically_normal(), run);
    if (!here) return fail(here.error());
    here = changed_by_hand(*std::move(here), options);
    if (!here) return fail(here.error());
    const Result<Arrival> arrival = look_at_arrival(*here, run);
    if (!arrival) return fail(arrival.error());
    if (!options.check && arrival->changes_anything()) here = take_in(*here, *arrival, run);
    if (!here) return fail(here.error());
    const std::vector<std::string> doubts = doubts_about(*here);
    if (!options.part.empty()) {
        const auto part = part_named(*here, options.part);
        if (!part) return fail(part.error());
        if (options.json)
            put_json(json_of(*part));
        else
            print_part(*part);
    } else if (options.json) {
        put_json(json_of(*here, *arrival, doubts));
    } else {
        print_arrival(*here, *arrival, options);
    }
    for (const std::string& doubt : doubts)
        warn("plume: " + doubt);
    for (const std::string& file : arrival->missing)
        warn("plume: ‘" + file + "’ is no longer there; its parts stay in the model.");
    bool well = true;
    for (const ArrivedFile& file : arrival->files)
        if (file.error) {
            complain(*file.error);
            well = false;
        }
    return well ? all_done : study_has_errors;
}

}  // namespace plume::cli
