#pragma once
// Text as single strokes, as pens, mills and lasers write it.
//
// The strokes are those of A. V. Hershey's plain sans serif (Calligraphy for Computers, US Naval Weapons
// Laboratory, 1967), read by a library. Beside ASCII there are °, ², ³, ·, ×, − and –.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/placements.hpp"

namespace plume {

// In the XY plane: capitals are 1 high, the line they stand on runs from the origin along X.
struct Lettering {
    std::vector<std::vector<Vec3>> strokes;  // two places at least, each
    double width = 0;
    std::string unknown;  // characters that have no strokes, each once; a space's width is left for them
};
// The strokes as they stand on a page: capitals so high, the middle of the line under them `lift` heights
// above the page's origin.
std::vector<std::vector<Vec3>> strokes_on(const Placement& page, const Lettering& letters, double height,
                                          double lift = 0);
// Of one line of UTF-8. Error: file_missing, where the strokes are not installed.
Result<Lettering> lettering(std::string_view text);

}  // namespace plume
