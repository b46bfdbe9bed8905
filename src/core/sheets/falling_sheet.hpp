#pragma once
// A sheet on its way: it falls, is blown, held by what moves, bears itself and obstacles, and never goes
// through anything it did not go through at first.
//
// Each small step is solved as if nothing met, to find what may, and once more with that (sheet_system.hpp);
// then every vertex goes as far towards where it is wanted as nothing meets (contacts.hpp). Where that is far
// too short, the step is taken in two halves. A form that moves, turns or changes its size all over is looked
// at as if it stood still: ways begin where they would be if they went along with it. The same on any number
// of threads.

#include "core/geometry/moves/affine.hpp"
#include "core/sheets/sheet_system.hpp"

namespace plume {

struct SheetReport {
    double fastest = 0;         // m/s at the end
    double most_stretched = 0;  // of edges without diagonals, 0.02 for 2 %; shortened ones do not count
    double most_held_off = 0;   // m, from where it is held, of what is held firmly
    std::size_t touching = 0;   // pairs of features nearer than the thickness
};

class FallingSheet {
public:
    // The sheet outlives it. What stands together as its vertices lie there is looked at together; other
    // places take longer.
    FallingSheet(const Sheet& sheet, const std::vector<Vec3>& lying);

    // What it meets and what acts on it from now on. What was before leaves no trace.
    void put_among(Obstacle obstacle, SheetForces forces);
    // So many seconds on. Error: cancelled, and the state is as it was on the way.
    Result<SheetReport> advance(SheetState& state, const SheetHolds& holds, double seconds, const Run& run);

    // Whether a form moves otherwise than as a whole, and so may go through what it meets.
    bool form_bends() const { return !contacts_.among().from.empty() && !way_; }
    // The sum of the energies of stretch, shear, bending, weight and motion, in J; without what holds it.
    double energy(const SheetState& state) const;

private:
    bool go(SheetState& state, const SheetHolds& holds, double seconds, double before, double passed,
            const Run& run);
    std::optional<double> step(SheetState& state, double seconds, const Run& run);
    void move_forms(double before, double passed);
    void aim_for(const SheetState& state, double seconds);
    void add_wind_on_threads(const SheetState& state, std::vector<Vec3>& force) const;
    void keep_above_ground(const std::vector<Vec3>& from, std::vector<Vec3>& to) const;
    SheetReport report(const SheetState& state, const SheetHolds& holds) const;

    const Sheet& sheet_;
    SheetForces forces_;
    Contacts contacts_;
    SheetSystem system_;
    std::vector<double> hold_;   // stiffness of what holds, infinite where it is firm
    std::optional<Affine> way_;  // of forms that move, all the time
    Affine along_;               // with these, in the step in hand
    std::vector<Vec3> start_, aim_, held_at_;
};

}  // namespace plume
