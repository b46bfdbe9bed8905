#include "core/steps/files/file_support.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <filesystem>
#include <map>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/base/unique_names.hpp"
#include "core/formula/expression.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/readers/stated_units.hpp"
#include "core/study/slots/picked_names.hpp"

namespace plume {
namespace {

constexpr std::array unit_keys = {"m", "cm", "mm", "km", "ft", "in", "us-ft"};

std::optional<double> chosen_metres(const FileSpace& space, const Inputs& in) {
    if (!in.has("unit") || in.word("unit") == "file") return space.metres_per_unit;
    return metres_of_unit(in.word("unit"));
}

// "12.3 × 8.1 × 3 m" of a size in metres.
std::string size_text(Vec3 metres, const Units& units) {
    const double factor = 1 / metres_per(units.length);
    return short_text(metres.x * factor, 3) + " × " + short_text(metres.y * factor, 3) + " × " +
           short_text(metres.z * factor, 3) + " " + std::string(symbol(units.length));
}

bool turned_up(const FileSpace& space, const Inputs& in) {
    if (!in.has("up") || in.word("up") == "file") return space.y_up;
    return in.word("up") == "y";
}

Vec3 upright(Vec3 size, const FileSpace& space, const Inputs& in) {
    return turned_up(space, in) ? Vec3{size.x, size.z, size.y} : size;
}

Error no_unit(const FileSpace& space, const Inputs& in) {
    const Vec3 size = upright(space.bounds().size(), space, in);
    return about_slot(Error{ErrorCode::missing_input, "Unit",
                            "is not stated by ‘" + shortened(in.file("file").name) + "’, which is " +
                                size_text(size, in.units()) + " if it counts metres and " +
                                size_text(size * 0.001, in.units()) + " if it counts millimetres",
                            "Choose the unit it counts."},
                      "unit");
}

// Coordinates that leave less than about a thousandth of a millimetre to pictures, which draw with seven
// digits, and that are far beyond the size of what lies there.
void remark_if_far(const Box& bounds, const Inputs& in, const Run& run) {
    const Vec3 middle = bounds.centre();
    const double metres = length(middle) * metres_per(in.units().length);
    if (bounds.empty() || metres < 10'000 || length(middle) < 20 * bounds.diagonal()) return;
    const auto rounded = [](double value) { return fixed_text(std::floor(value / 100) * 100, 0); };
    const std::string unit = " " + std::string(symbol(in.units().length));
    run.remark("It lies " + short_text(metres / 1000, 3) +
               " km from the origin, where drawings lose their digits; put the origin to " +
               rounded(bounds.low.x) + unit + ", " + rounded(bounds.low.y) + unit + ".");
}

}  // namespace

const char* const file_space_sentence = "in {unit}, {placing}[placing=from| {east}, {north}, {level}]";

std::vector<SlotSpec> file_space_slots() {
    return {choice_slot("unit", "Unit",
                        {{"file", "the unit it states", "asks where it states none"},
                         {"m", "metres", ""},
                         {"cm", "centimetres", ""},
                         {"mm", "millimetres", ""},
                         {"km", "kilometres", ""},
                         {"ft", "feet", "0.3048 m"},
                         {"in", "inches", "0.0254 m"},
                         {"us-ft", "survey feet", "1200 / 3937 m"}}),
            choice_slot(
                "placing", "Place",
                {{"lies", "where it lies", ""}, {"from", "with the origin at", "of sites in a large grid"}}),
            length_slot("east", "East", "0 m"), length_slot("north", "North", "0 m"),
            length_slot("level", "Level", "0 m")};
}

SlotSpec file_up_slot() {
    return choice_slot("up", "Up",
                       {{"file", "upright as its format has it", "y in glTF, z elsewhere"},
                        {"z", "z up", ""},
                        {"y", "y up", "turned by a quarter about x"}});
}

Result<Value> in_study_space(const Value& value, const FileSpace& space, const Inputs& in, const Run& run) {
    const auto metres = chosen_metres(space, in);
    if (!metres) return no_unit(space, in);
    const double factor = *metres / metres_per(in.units().length);
    Affine map{{factor, 0, 0}, {0, factor, 0}, {0, 0, factor}, {}};
    if (turned_up(space, in)) map = {{factor, 0, 0}, {0, 0, factor}, {0, -factor, 0}, {}};
    if (in.word("placing") == "from")
        map.shift = Vec3{} - Vec3{in.number("east"), in.number("north"), in.number("level")};
    const bool unmoved = factor == 1 && !turned_up(space, in) && map.shift == Vec3{};
    Result<Value> placed = unmoved ? Result<Value>(value) : transformed(value, map);
    if (placed) remark_if_far(bounds_of(*placed), in, run);
    return placed;
}

Offers unit_offers(const FileSpace& space, const Inputs& in) {
    Offers made;
    const Vec3 size = upright(space.bounds().size(), space, in);
    made.offers.push_back({"file", space.metres_per_unit
                                       ? unit_name(*space.metres_per_unit) + ": " +
                                             size_text(size * *space.metres_per_unit, in.units())
                                       : "it states none"});
    for (const char* key : unit_keys)
        made.offers.push_back({key, size_text(size * *metres_of_unit(key), in.units())});
    return made;
}

Offers part_offers(const std::vector<FilePart>& parts, const FileSpace& space, const Inputs& in) {
    struct Together {
        std::size_t count = 0;
        std::string counted;
        Box bounds;
    };
    std::map<std::string, Together> by_name;
    std::vector<std::string> order;
    for (const FilePart& part : parts) {
        const auto [at, added] = by_name.try_emplace(part.name);
        if (added) order.push_back(part.name);
        Together& together = at->second;
        together.counted = ++together.count == 1 ? part.counted : count_text(together.count, "part", "parts");
        together.bounds.include(part.bounds);
    }
    const auto metres = chosen_metres(space, in);
    Offers made;
    for (const std::string& name : order) {
        const Together& together = by_name[name];
        std::string note = together.counted;
        if (metres && !together.bounds.empty())
            note += ", " + size_text(upright(together.bounds.size(), space, in) * *metres, in.units());
        made.offers.push_back({name, std::move(note)});
    }
    if (const Box box = metres ? space.bounds() : Box(); !box.empty())
        made.about = size_text(upright(box.size(), space, in) * *metres, in.units());
    return made;
}

Result<std::vector<std::uint8_t>> picked_parts(const std::vector<std::string>& names, const Inputs& in,
                                               std::string_view slot) {
    const std::vector<std::string> wanted = picked_names(in.word(slot));
    std::vector<std::uint8_t> picked(names.size(), wanted.empty() ? 1 : 0);
    for (const std::string& name : wanted) {
        bool found = false;
        for (std::size_t at = 0; at < names.size(); ++at)
            if (names[at] == name) picked[at] = found = true;
        if (found) continue;
        constexpr std::size_t most_told = 8;
        std::string known;
        std::vector<std::string> told;
        for (const std::string& there : names)
            if (told.size() < most_told && std::ranges::find(told, there) == told.end()) {
                told.push_back(there);
                known += (known.empty() ? "‘" : ", ‘") + shortened(there) + "’";
            }
        return about_slot(
            Error{ErrorCode::unknown_name, "",
                  "has ‘" + shortened(name) + "’, which ‘" + shortened(in.file("file").name) + "’ does not",
                  "It has " + known + (told.size() == most_told ? " and more." : ".")},
            slot);
    }
    return picked;
}

void remark_numbers(const std::string& what, const std::vector<NumberedName>& names, const Run& run) {
    constexpr std::size_t most_told = 8;
    std::string told;
    for (std::size_t at = 0; at < std::min(names.size(), most_told); ++at)
        told += (told.empty() ? "" : ", ") + std::to_string(names[at].number) + " is ‘" +
                shortened(names[at].name, 24) + "’";
    if (!told.empty())
        run.remark("Of its " + what + " " + told + (names.size() > most_told ? " and so on." : "."));
}

std::vector<Field> readable_fields(const std::vector<Field>& fields, const Run& run) {
    constexpr int most_told = 6;
    int changes = 0;
    std::string changed;
    UniqueNames names;
    std::vector<Field> made;
    for (const Field& field : fields) {
        const std::string name = names.take(readable_name(field.name));
        if (name != field.name && ++changes <= most_told)
            changed += (changed.empty() ? "" : ", ") + ("‘" + shortened(field.name) + "’ as ‘" + name + "’");
        made.push_back({name, field.values, field.dimension});
    }
    if (changes > 0)
        run.remark(
            "Formulas read the column " + changed +
            (changes > most_told ? " and " + std::to_string(changes - most_told) + " more likewise." : "."));
    return made;
}

Estimate file_estimate(const Inputs& in, double bytes_a_byte, double seconds_a_byte) {
    std::error_code missing;
    const ResolvedFile& file = in.file("file");
    const auto size = std::filesystem::file_size(file.store->path_of(file.name), missing);
    if (missing) return {};
    return {static_cast<double>(size) * bytes_a_byte, static_cast<double>(size) * seconds_a_byte};
}

void remark_losses(const std::vector<std::string>& losses, const Run& run) {
    for (const std::string& loss : losses)
        run.remark_loss(loss);
}

}  // namespace plume
