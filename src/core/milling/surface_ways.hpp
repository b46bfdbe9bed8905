#pragma once
// Ways over a form: where the tip runs while its axis follows a line in plan.

#include <functional>
#include <optional>

#include "core/milling/height_cells.hpp"
#include "core/milling/tip_heights.hpp"

namespace plume {

using TipRun = std::vector<Vec3>;  // at least two places

class SurfaceWays {
public:
    // `within`: how far straight pieces may be off what is between them.
    SurfaceWays(const Mesh& form, const Mesh* clamps, double clearance, const Cutter& cutter, double within);

    const Cutter& cutter() const { return tips_.cutter(); }
    // Nothing where the cutter reaches no form, where it would roll over a rim beside the form, or where
    // clamps stand.
    std::optional<double> tip_at(double x, double y) const;
    // Along a line in plan, in runs. A look at least every half radius: what the tip runs over is never
    // narrower than that.
    std::vector<TipRun> along(Vec3 from, Vec3 to) const;
    // The same along several lines that go on from each other.
    std::vector<TipRun> along(const std::vector<Vec3>& places) const;

private:
    void refine(Vec3 from, Vec3 to, int depth, std::vector<TipRun>& runs) const;
    Vec3 last_reached(Vec3 reached, Vec3 not_reached) const;

    TipHeights tips_;
    std::optional<TipHeights> clamps_;
    CellGrid grid_;
    FormHeights form_;
    double within_;
};

// As the end of the last one, where it goes on from there.
void add_run(TipRun run, std::vector<TipRun>& runs);

// Without places that the line between their neighbours passes within that distance.
TipRun thinned(const TipRun& run, double within);

}  // namespace plume
