#include "core/data/sheet_names.hpp"

#include <array>

namespace plume {
namespace {

constexpr std::array<std::string_view, 6> views = {"in plan",        "from the south", "from the east",
                                                   "from the north", "from the west",  "at an angle"};
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

}  // namespace plume
