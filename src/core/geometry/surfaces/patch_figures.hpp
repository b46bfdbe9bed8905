#pragma once
// Integrals over patches: area, and what a patch adds to the volume and the moments of the body it bounds
// (divergence theorem). By Gauss-Legendre's rule between the knots; inside trims by Green's theorem, along
// the trims themselves. Volumes of polynomial patches are exact but for rounding, areas and rational patches
// to about nine digits.

#include "core/base/run.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

struct PatchFigures {
    double area = 0;
    double volume =
        0;  // of the cone from the origin given to the patch; above 0 where its normal points away
    // Integrals of the place and of the squares of its coordinates, from that origin, over what the patch
    // bounds.
    Vec3 moment, second;
};
Result<PatchFigures> figures_of(const SplinePatch& patch, Vec3 origin, const Run& run);

// Of all patches together.
Result<double> area_of(const SurfaceSet& set, const Run& run);

// Which side of its trims a place of a patch is on, as nearly as they look smooth.
class TrimSides {
public:
    explicit TrimSides(const SplinePatch& patch);
    bool is_inside(std::size_t trim, double u, double v) const;
    // Whether the patch is there, its rims with it.
    bool hold(double u, double v) const;

private:
    bool is_on(double u, double v) const;
    std::vector<std::vector<Vec3>> loops_;
};

// 1 or -1 for each trim: how it is run through when what is there lies to its left.
std::vector<double> trim_turns(const SplinePatch& patch);

}  // namespace plume
