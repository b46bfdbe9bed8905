#pragma once
// Places of a patch at a level: tips, and what stands beside a line that is nearly there.

#include <optional>

#include "core/geometry/levels/arc_chains.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {

class LevelPlaces {
public:
    // What is level is x of `function`, a patch over the same knots. Places nearer than `least_apart` are
    // one.
    LevelPlaces(const SplinePatch& patch, const SplinePatch& function, double least_apart);

    Vec3 place(LevelPlace at) const { return evaluator_.at(at.u, at.v).position; }
    SurfacePoint function_at(LevelPlace at) const { return function_.at(at.u, at.v); }

    // Whether the surface stands still there along a direction, which rims do that are drawn together.
    bool is_tip(LevelPlace at, int direction) const;
    // A tip is one place, whatever the parameter along its rim. A line comes to it where the slope away from
    // the rim vanishes, which is found from the parameter of the stretch's other end.
    LevelPlace come_to_tip(LevelPlace at, LevelPlace other) const;

    // Within the domain, round a closed direction.
    LevelPlace inside(LevelPlace at) const;

    // How far a line that runs along `along` at `wanted`, foretold to be at `guess`, stands off in the middle
    // of a stretch, and the place that would mend it.
    struct Beside {
        double apart = 0;
        LevelPlace place;
    };
    Beside beside(const Stretch& stretch, LevelPlace guess, Vec3 wanted, Vec3 along, double level,
                  double tolerance) const;
    // Whether a place is at neither end of a stretch.
    bool stands_apart(const Stretch& stretch, LevelPlace at) const;

private:
    struct Step;
    std::optional<Step> step_to_level(LevelPlace at, Vec3 wanted, Vec3 along, double level) const;
    double share_of(const Step& step, const Stretch& stretch) const;
    LevelPlace moved(LevelPlace at, double du, double dv) const;
    std::optional<LevelPlace> at_level(const Stretch& stretch, LevelPlace at, Vec3 wanted, Vec3 along,
                                       double level) const;
    LevelPlace middle_at_level(const Stretch& stretch, double level) const;
    LevelPlace in_bay_of(const Stretch& stretch, LevelPlace at) const;

    SplinePatch patch_;
    PatchEvaluator evaluator_, function_;
    double least_apart_;
};

}  // namespace plume
