#pragma once
// The readers of drawings, by what a file begins with (curve_file.hpp).

#include "core/readers/curve_file.hpp"

namespace plume {

// DXF as text (Autodesk, DXF Reference, u18) of any version. What stands in model space.
Result<CurveFile> read_dxf(std::string_view text, const Run& run);

// SVG 1.1 (W3C, 2nd ed. 2011). A layer is an outermost group, by its title, label or id. Lengths are those of
// the page where it states its size; styles, clips and scripts are not looked at, but for what is hidden.
Result<CurveFile> read_svg(std::string_view text, const Run& run);

}  // namespace plume
