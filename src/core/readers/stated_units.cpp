#include "core/readers/stated_units.hpp"

#include <array>

#include "core/base/numbers.hpp"
#include "core/base/small_letters.hpp"
#include "core/readers/text_scan.hpp"

namespace plume {
namespace {

// The survey foot is 1200/3937 m by definition (Mendenhall order, 1893).
struct NamedUnit {
    double metres;
    std::array<std::string_view, 5> names;  // the first one for people
};
constexpr std::array units = {
    NamedUnit{1, {"metres", "metre", "meters", "meter", "m"}},
    NamedUnit{0.01, {"centimetres", "centimetre", "centimeters", "centimeter", "cm"}},
    NamedUnit{0.001, {"millimetres", "millimetre", "millimeters", "millimeter", "mm"}},
    NamedUnit{0.3048, {"feet", "foot", "ft", "'", "international feet"}},
    NamedUnit{0.0254, {"inches", "inch", "in", "\"", "zoll"}},
    NamedUnit{1200.0 / 3937.0, {"survey feet", "survey foot", "us survey feet", "us survey foot", "us-ft"}},
    NamedUnit{1000, {"kilometres", "kilometre", "kilometers", "kilometer", "km"}},
    NamedUnit{1e-6, {"micrometres", "micrometre", "micrometers", "micrometer", "micron"}},
    NamedUnit{0.9144, {"yards", "yard", "yd", "", ""}},
    NamedUnit{0.1, {"decimetres", "decimetre", "decimeters", "decimeter", "dm"}}};

}  // namespace

std::optional<double> metres_of_unit(std::string_view name) {
    const std::string wanted = in_small_letters(without_blanks(name));
    if (wanted.empty()) return {};
    for (const NamedUnit& unit : units)
        for (const std::string_view known : unit.names)
            if (known == wanted) return unit.metres;
    return {};
}

std::optional<double> stated_unit(std::span<const std::string> comments) {
    for (const std::string& comment : comments) {
        const std::string lower = in_small_letters(comment);
        const std::size_t at = lower.find("unit");
        if (at == std::string::npos) continue;
        std::string_view rest = std::string_view(lower).substr(at + 4);
        if (rest.starts_with("s")) rest.remove_prefix(1);
        rest = without_blanks(rest);
        if (!rest.starts_with(":") && !rest.starts_with("=")) continue;
        rest.remove_prefix(1);
        const std::size_t end = rest.find_first_of(".;,");
        if (const auto metres = metres_of_unit(rest.substr(0, end))) return metres;
    }
    return {};
}

std::string unit_name(double metres) {
    for (const NamedUnit& unit : units)
        if (unit.metres == metres) return std::string(unit.names.front());
    return "units of " + short_text(metres, 10) + " m";
}

}  // namespace plume
