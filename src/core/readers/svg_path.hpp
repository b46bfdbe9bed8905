#pragma once
// The shapes of SVG 1.1 (W3C, 2nd ed. 2011) as curves, exactly, in the coordinates they stand in: y down.

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/data/curve_set.hpp"

namespace plume {

// Numbers one after the other, apart by blanks, commas or signs; ends at what is none.
std::vector<double> svg_numbers(std::string_view text);

// A curve for each piece that is drawn without lifting the pen. What stands before an error is drawn, as the
// recommendation asks; `wrong` says where it is.
struct SvgPath {
    std::vector<SplineCurve> curves;
    std::optional<std::string> wrong;
};
SvgPath svg_path(std::string_view data);

}  // namespace plume
