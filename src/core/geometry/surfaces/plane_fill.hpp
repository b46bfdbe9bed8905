#pragma once
// Flat faces inside closed flat curves: trimmed parallelograms, true to the curves.

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// A face for each curve that is not inside of another one of its plane, or inside of an even number of them;
// what lies directly inside of it are its holes. Normals rise; those of upright planes look along Y, then X.
// Errors, with the number of the curve where there are several: those of Outline::make(); unlike_arrangement
// where a curve is not flat to a millionth of its size, or two of one plane cross; cancelled.
Result<std::vector<SplinePatch>> plane_fills(const CurveSet& outlines, const Run& run);

}  // namespace plume
