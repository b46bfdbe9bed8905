#include "core/geometry/curves/lettering.hpp"

extern "C" {
#include <hersheyfont.h>
}

#include <algorithm>
#include <array>
#include <memory>

namespace plume {
namespace {

constexpr double capital = 21;  // of the library's units

struct Freed {
    void operator()(hershey_font* font) const { hershey_font_free(font); }
};
using Font = std::unique_ptr<hershey_font, Freed>;

const Font& font() {
    static const Font loaded(hershey_font_load("futural"));
    return loaded;
}

// A character as one of ASCII, smaller and raised where need be.
struct Stand {
    std::string_view character;
    char as;
    double size = 1, lift = 0;
};
constexpr std::array<Stand, 7> stand_ins{{{"°", 'o', 0.55, 0.6},
                                          {"²", '2', 0.55, 0.5},
                                          {"³", '3', 0.55, 0.5},
                                          {"·", '.', 1, 0.4},
                                          {"×", 'x'},
                                          {"−", '-'},
                                          {"–", '-'}}};

std::string_view first_character(std::string_view text) {
    std::size_t length = 1;
    while (length < text.size() && (static_cast<unsigned char>(text[length]) & 0xc0U) == 0x80U)
        ++length;
    return text.substr(0, length);
}

Stand stand_of(std::string_view character) {
    if (character.size() == 1) return {character, character.front()};
    const auto* const found = std::ranges::find(stand_ins, character, &Stand::character);
    return found == stand_ins.end() ? Stand{character, '\0'} : *found;
}

bool writes(const hershey_glyph* glyph, char as) {
    return as == ' ' || (as > ' ' && as <= '~' && glyph && glyph->npaths > 0);
}

void add_strokes(const hershey_glyph& glyph, const Stand& stand, Lettering& made) {
    for (const hershey_path* path = glyph.paths; path; path = path->next) {
        std::vector<Vec3> stroke;
        for (unsigned at = 0; at < path->nverts; ++at) {
            const hershey_vertex& vertex = path->verts[at];
            stroke.push_back({made.width + stand.size * vertex.x / capital,
                              stand.lift + stand.size * vertex.y / capital, 0});
        }
        if (stroke.size() > 1) made.strokes.push_back(std::move(stroke));
    }
}

}  // namespace

std::vector<std::vector<Vec3>> strokes_on(const Placement& page, const Lettering& letters, double height,
                                          double lift) {
    std::vector<std::vector<Vec3>> strokes = letters.strokes;
    for (std::vector<Vec3>& stroke : strokes)
        for (Vec3& place : stroke)
            place = page.to_world(Vec3{place.x - letters.width / 2, place.y + lift, 0} * height);
    return strokes;
}

Result<Lettering> lettering(std::string_view text) {
    if (!font())
        return Error{ErrorCode::file_missing, "Letters", "cannot be written: their strokes are not installed",
                     "Install the package hershey-fonts-data."};
    Lettering made;
    while (!text.empty()) {
        const Stand stand = stand_of(first_character(text));
        text.remove_prefix(stand.character.size());
        const hershey_glyph* glyph = hershey_font_glyph(font().get(), static_cast<unsigned char>(stand.as));
        if (!writes(glyph, stand.as)) {
            if (made.unknown.find(stand.character) == std::string::npos) made.unknown += stand.character;
            glyph = hershey_font_glyph(font().get(), ' ');
        } else if (stand.as != ' ') {
            add_strokes(*glyph, stand, made);
        }
        made.width += stand.size * glyph->width / capital;
    }
    return made;
}

}  // namespace plume
