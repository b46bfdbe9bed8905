#pragma once
// A patch as it is seen along a direction: the shadow that it throws onto a plane square to it.

#include <memory>
#include <optional>
#include <vector>

#include "core/data/surface_set.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {

// Coordinates in that plane.
struct Flat {
    double x = 0, y = 0;
};
// Of a patch; in a closed direction they may reach beyond the domain.
struct Parameters {
    double u = 0, v = 0;
};

// A parameter with whole turns of a closed direction taken off, so that it lies in the domain.
double within_turn(double parameter, const SplineBasis& basis);

class Shadow {
public:
    Shadow(const SplinePatch& patch, Vec3 direction);

    const SplinePatch& patch() const { return patch_; }
    double size() const { return size_; }
    Flat flat(Vec3 place) const { return {dot(place, first_), dot(place, second_)}; }
    Vec3 place(Parameters at) const { return inside(at).position; }

    // The way of the parameters that moves the shadow by `by`; nothing where the patch is seen edge on.
    std::optional<Parameters> way(Parameters at, Flat by) const { return way(inside(at), by); }
    // Newton's steps to the place with this shadow.
    std::optional<Parameters> place_under(Flat wanted, Parameters from) const;
    // All places with this shadow, looked for on a grid.
    std::vector<Parameters> places_under(Flat wanted) const;

    // The same parameters, whole turns of closed directions aside.
    bool same(Parameters a, Parameters b) const;
    // Where the patch ends.
    bool is_on_rim(Parameters at) const;

private:
    std::optional<Parameters> way(const SurfacePoint& at, Flat by) const;
    Parameters clamped(Parameters at) const;
    SurfacePoint inside(Parameters at) const;
    std::vector<Flat> grid(const std::vector<double>& u, const std::vector<double>& v) const;

    SplinePatch patch_;  // shares its poles
    PatchEvaluator evaluator_;
    double size_;
    Vec3 first_, second_;
};

// Many outlines are cast onto one shadow.
using ShadowPointer = std::shared_ptr<const Shadow>;
ShadowPointer shadow_of(const SplinePatch& patch, Vec3 direction);

// Where the shadow of a patch is spaced evenly both ways, parameters are coordinates of it.
struct EvenShadow {
    Flat start, along_u, along_v;  // along: by a parameter of 1

    Parameters parameters(Flat at) const;
};
std::optional<EvenShadow> even_shadow(const Shadow& shadow);

}  // namespace plume
