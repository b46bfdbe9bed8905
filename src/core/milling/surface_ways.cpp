#include "core/milling/surface_ways.hpp"

#include <limits>

namespace plume {
namespace {

constexpr int most_halvings = 12;
constexpr std::size_t about_cells = 1'000'000;

CellGrid grid_over(const Mesh& form) {
    const Box bounds = form.bounds();
    const Vec3 size = bounds.size();
    return cells_over(bounds.low.x, bounds.low.y, std::max(size.x, 1e-9), std::max(size.y, 1e-9),
                      about_cells);
}

double off_line(Vec3 from, Vec3 to, Vec3 place) {
    const Vec3 along = to - from;
    const double squared = dot(along, along);
    if (squared == 0) return length(place - from);
    const double share = std::clamp(dot(place - from, along) / squared, 0.0, 1.0);
    return length(place - (from + along * share));
}

}  // namespace

SurfaceWays::SurfaceWays(const Mesh& form, const Mesh* clamps, double clearance, const Cutter& cutter,
                         double within)
    : tips_(form, cutter), grid_(grid_over(form)), form_(form_heights(form, grid_)), within_(within) {
    if (clamps) clamps_.emplace(*clamps, Cutter::flat(cutter.radius + clearance));
}

std::optional<double> SurfaceWays::tip_at(double x, double y) const {
    const TipHeight tip = tips_.at(x, y);
    if (!std::isfinite(tip.z)) return {};
    if (clamps_ && std::isfinite(clamps_->at(x, y).z)) return {};
    if (tip.on_rim) {
        const double column = (x - grid_.low_x) / grid_.cell, row = (y - grid_.low_y) / grid_.cell;
        const bool over =
            column >= 0 && row >= 0 && column < static_cast<double>(grid_.columns) &&
            row < static_cast<double>(grid_.rows) &&
            form_.layers[grid_.index(static_cast<std::size_t>(column), static_cast<std::size_t>(row))] > 0;
        if (!over) return {};
    }
    return tip.z;
}

// Halves as long as the middle is off the line, and not shorter than what it is true to.
void SurfaceWays::refine(Vec3 from, Vec3 to, int depth, std::vector<TipRun>& runs) const {
    Vec3 middle = (from + to) * 0.5;
    const bool short_enough = depth >= most_halvings || std::hypot(to.x - from.x, to.y - from.y) <= within_;
    if (short_enough) return runs.back().push_back(to);
    const auto z = tip_at(middle.x, middle.y);
    if (!z) {
        // A gap: it ends before, and begins anew behind it.
        const Vec3 end = last_reached(from, middle), begin = last_reached(to, middle);
        if (length(end - from) > 0) runs.back().push_back(end);
        runs.push_back({begin});
        if (length(to - begin) > 0) runs.back().push_back(to);
        return;
    }
    // The first halves are made whatever the middle says: it may be right by chance.
    const bool off = std::abs(*z - middle.z) > within_ / 2;
    if (!off && depth > 0) return runs.back().push_back(to);
    middle.z = *z;
    refine(from, middle, depth + 1, runs);
    refine(middle, to, depth + 1, runs);
}

Vec3 SurfaceWays::last_reached(Vec3 reached, Vec3 not_reached) const {
    for (int halving = 0; halving < most_halvings; ++halving) {
        Vec3 middle = (reached + not_reached) * 0.5;
        if (const auto z = tip_at(middle.x, middle.y)) {
            middle.z = *z;
            reached = middle;
        } else {
            not_reached = middle;
        }
    }
    return reached;
}

std::vector<TipRun> SurfaceWays::along(Vec3 from, Vec3 to) const {
    const double drawn = std::hypot(to.x - from.x, to.y - from.y);
    const auto looks = static_cast<std::size_t>(std::ceil(drawn / (cutter().radius / 2))) + 1;
    std::vector<TipRun> runs;
    std::optional<Vec3> before;
    Vec3 last = from;
    for (std::size_t look = 0; look <= looks; ++look) {
        Vec3 place = from + (to - from) * (static_cast<double>(look) / static_cast<double>(looks));
        const auto z = tip_at(place.x, place.y);
        if (z) {
            place.z = *z;
            if (!before) {
                const Vec3 begin = look == 0 ? place : last_reached(place, last);
                runs.push_back({begin});
                if (length(begin - place) > 0) refine(begin, place, 1, runs);
            } else {
                refine(*before, place, 0, runs);
            }
            before = place;
        } else if (before) {
            const Vec3 end = last_reached(*before, place);
            if (length(end - *before) > 0) refine(*before, end, 1, runs);
            before.reset();
        }
        last = place;
    }
    std::erase_if(runs, [](const TipRun& run) { return run.size() < 2; });
    for (TipRun& run : runs)
        run = thinned(run, within_ / 2);
    return runs;
}

std::vector<TipRun> SurfaceWays::along(const std::vector<Vec3>& places) const {
    std::vector<TipRun> runs;
    for (std::size_t at = 1; at < places.size(); ++at)
        for (TipRun& run : along(places[at - 1], places[at]))
            add_run(std::move(run), runs);
    for (TipRun& run : runs)
        run = thinned(run, within_ / 2);
    return runs;
}

void add_run(TipRun run, std::vector<TipRun>& runs) {
    const bool goes_on = !runs.empty() && length(runs.back().back() - run.front()) < 1e-9;
    if (goes_on)
        runs.back().insert(runs.back().end(), run.begin() + 1, run.end());
    else
        runs.push_back(std::move(run));
}

// As far as it goes from each place that stays (as of a cone of ways that miss none of those passed).
TipRun thinned(const TipRun& run, double within) {
    constexpr std::size_t most_passed = 64;
    TipRun kept{run.front()};
    std::size_t begin = 0;
    while (begin + 1 < run.size()) {
        std::size_t end = begin + 1;
        while (end + 1 < run.size() && end + 1 - begin <= most_passed) {
            bool near = true;
            for (std::size_t between = begin + 1; near && between <= end; ++between)
                near = off_line(run[begin], run[end + 1], run[between]) <= within;
            if (!near) break;
            ++end;
        }
        kept.push_back(run[end]);
        begin = end;
    }
    return kept;
}

}  // namespace plume
