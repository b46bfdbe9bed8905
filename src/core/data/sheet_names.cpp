#include "core/data/sheet_names.hpp"

#include <array>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

constexpr std::array<std::string_view, 11> views = {"in plan",
                                                    "from the south",
                                                    "from the east",
                                                    "from the north",
                                                    "from the west",
                                                    "at an angle",
                                                    "section looking north",
                                                    "section looking west",
                                                    "section looking south",
                                                    "section looking east",
                                                    "section looking down"};
constexpr std::array papers = {PaperSize{"a4", "A4", 297, 210}, PaperSize{"a3", "A3", 420, 297},
                               PaperSize{"a2", "A2", 594, 420}, PaperSize{"a1", "A1", 841, 594},
                               PaperSize{"a0", "A0", 1189, 841}};

}  // namespace

std::span<const std::string_view> view_names() {
    return views;
}
std::span<const PaperSize> paper_sizes() {
    return papers;
}

Result<std::vector<SheetPlace>> sheet_places_from(std::string_view text) {
    std::vector<SheetPlace> places;
    for (const std::string_view entry : words_between(text, ";\n")) {
        const std::vector<std::string_view> words = words_between(entry, " ");
        if (words.empty()) continue;
        const std::size_t named = words.size() - std::min<std::size_t>(words.size(), 3);
        const auto x = named > 0 ? read_number(words[named + 1]) : std::nullopt;
        const auto y = named > 0 ? read_number(words[named + 2]) : std::nullopt;
        if (!x || !y || words[named] != "at")
            return Error{ErrorCode::syntax, "",
                         "cannot read ‘" + shortened(printable(entry)) + "’ as a place on the sheet",
                         "Write places as in “in plan at 20 140; from the south at 20 60”, in millimetres."};
        SheetPlace& place = places.emplace_back(SheetPlace{std::string(words.front()), *x, *y});
        for (std::size_t word = 1; word < named; ++word)
            place.of.append(" ").append(words[word]);
    }
    return places;
}

std::string sheet_places_text(std::span<const SheetPlace> places) {
    std::string text;
    for (const SheetPlace& place : places)
        text += (text.empty() ? "" : "; ") + place.of + " at " +
                short_text(std::round(place.x * 10) / 10, 6) + ' ' +
                short_text(std::round(place.y * 10) / 10, 6);
    return text;
}

}  // namespace plume
